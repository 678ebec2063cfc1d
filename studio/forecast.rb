# frozen_string_literal: true

require "json"

module Vumbral
  module Studio
    # What a run would cost, from what frames on this machine have cost so far.
    class Forecast
      RECENT = 80
      # So many runs tell how much time goes into what is not the solver.
      RUNS = 5
      # Of fewer frames a run says little about a forecast.
      FEW = 4
      # Until anything was run here, bytes a cell in use.
      BYTES = 2.0
      # How much of a chamber is in use, and how many substeps a frame takes, until the shot was run.
      SHARE = 0.4
      SUBSTEPS = 1.5
      # The same of liquids, and particles in a cell of what is only poured.
      LIQUID_SPEED, LIQUID_SUBSTEPS, LIQUID_BYTES, LIQUID_FILLED = 2.5e6, 2.5, 20.0, 1.5
      # A cell takes as long as so many particles.
      LIQUID_CELL = 0.5
      # The same of a cell of finer detail, in substeps of a coarse one.
      FINE_CELL = 0.6

      # What was found of frames is looked up again after so many more of them, and is kept of so many shots.
      SOME, SHOTS = 20, 8

      def initialize(workshop)
        @workshop, @own = workshop, {}
      end

      # @param plan [Gas::Plan]
      # @param guess [Array(Float, Float)] part of the chamber in use, and substeps of a frame, for a shot that was not
      #   run yet
      # @return [Hash] cells, memory (bytes), seconds, disk (bytes), and whether speed was measured
      def of(plan, shot_id, guess: [SHARE, SUBSTEPS])
        expected, seconds = frames(plan, shot_id, guess)
        {
          cells: plan.cells, memory: plan.memory, seconds: seconds.sum.round(3),
          disk: (expected.used * (1 + refined(plan)) * bytes).round, measured: recent.any?
        }
      end

      # What those frames of a run take that are not there yet.
      # @param plan [Gas::Plan]; @param document [Shot::Document]
      # @return [Float] seconds for each of them, on average
      def each_missing(document, plan, shot_id)
        return whole(document, plan, shot_id)[:seconds] / plan.keys.size if @workshop.liquids.any?(document)

        own = frames(plan, shot_id, [SHARE, SUBSTEPS])[1]
        keys = plan.keys.values
        there = @workshop.frames.there(keys)
        missing = keys.each_index.reject { |n| there.include?(keys[n]) }
        missing = keys.each_index if missing.empty?
        missing.sum { |n| own[n] } / missing.size
      end

      # What all of a shot would take: its gas, if anything feeds it, and its liquid.
      # @param plan [Gas::Plan] of the document
      # @return [Hash] as {#of}
      def whole(document, plan, shot_id)
        liquid = @workshop.liquids.plan(document, plan.quality) or return of(plan, shot_id)
        own = of_liquid(liquid)
        return own if @workshop.runs.still?(document)

        of(plan, shot_id).then { |gas| gas.merge(own) { |name, a, b| (name == :measured) ? a && b : a + b } }
      end

      # @param plan [Liquid::Plan]; @param guess [Float, nil] substeps a frame takes, where that is known
      # @return [Hash] as {#of}
      def of_liquid(plan, guess = nil)
        rows = liquids
        speed = rows.empty? ? LIQUID_SPEED : rows.sum { |facts|
          liquid_work(facts["liquid_cells"], facts["drops"]) *
            facts["substeps"]
        } / rows.sum { |facts| [facts["seconds"], 1e-4].max }
        filled = rows.empty? ? LIQUID_FILLED : rows.sum { |facts| facts["drops"] }
          .fdiv(rows.sum { |facts| facts["liquid_cells"] })
        work = liquid_work(plan.cells, plan.node[:pool] ? plan.drops : filled * plan.cells)
        substeps = guess || (rows.empty? ? LIQUID_SUBSTEPS : rows.sum { |facts| facts["substeps"] }.fdiv(rows.size))
        bytes = rows.empty? ? LIQUID_BYTES : rows.sum { |facts| facts["bytes"] }
          .fdiv(rows.sum { |facts| facts["liquid_cells"] })
        frames = plan.frames.size
        {
          cells: plan.cells, memory: plan.memory,
          seconds: (work * [substeps, plan.node[:substeps_least]].max / speed * frames).round(3),
          disk: (plan.cells * bytes * frames).round, measured: rows.any?
        }
      end

      # What a starter would take here. @return [Hash{String => Hash}, nil] by quality; nil where nothing runs
      def of_starter(name)
        return unless (guess = Starters.habits[name])

        document = Starters.build(name, name)
        Runs::QUALITIES.to_h do |quality|
          plan = Gas::Plan.new(document, quality.to_sym)
          wet = @workshop.liquids.any?(document)
          [
            quality,
            wet ? of_liquid(Liquid::Plan.of(document, quality.to_sym), guess[1]) : of(plan, nil, guess: guess)
          ]
        end
      end

      # How right the forecast of a shot's last run was.
      # @return [Hash, nil] frames that were computed, seconds they took, and seconds that were forecast; nothing where
      #   none tells
      def last(shot_id)
        ended.where(shot_id: shot_id).limit(RUNS).each do |row|
          asked, came = [row[:payload], row[:result]].map { |text| JSON.parse(text) }
          # Where there is liquid besides, that has its own time, which the gas does not tell.
          next unless asked["frame_seconds"] && came["seconds"] && came["computed"].to_i >= FEW && came["liquid"].nil?

          return (
            {
              frames: came["computed"], seconds: came["seconds"],
              forecast: (asked["frame_seconds"] * came["computed"]).round(3)
            }
          )
        end
        nil
      end

      private

      def liquid_work(cells, drops) = LIQUID_CELL * cells + drops

      # Runs that came to their end, newest first.
      def ended = @workshop.db[:jobs].where(kind: "run", state: "done").exclude(result: nil).reverse(:id)

      # How much longer a run takes than its solver does: frames are packed, written and lit as well.
      def pace
        told =
          ended
            .limit(RUNS)
            .select_map(:result)
            .map { |text| JSON.parse(text) }
            .select { |result| result["solved"].to_f.positive? && result["refined"].nil? }
        told.empty? ? 1.0 : told.sum { |result| result["seconds"] } / told.sum { |result| result["solved"] }
      end

      # @return [Array(Expected, Array<Float>)] and the seconds of each frame
      def frames(plan, shot_id, guess)
        runs = own(shot_id)
        expected = Expected.new(plan, runs[0] || [], *guess)
        cost = FrameCost.of(runs.flatten.then { |own| own.empty? ? recent : own }, pace)
        more = refined(plan)
        each = more.zero? ? 0.0 : fine_cell
        return [expected, cost.seconds(expected.works(FINE_CELL * more))] unless each

        [expected, cost.seconds(expected.works).zip(expected.sizes).map { |own, cells| own + cells * more * each }]
      end

      # Seconds that a cell of finer detail took here, with its light; nothing where none was made.
      def fine_cell
        rows = recent.select { |facts| facts["refining"].to_f.positive? }
        rows.sum { |facts| facts["refining"] } / rows.sum { |facts| FrameCost.used(facts) * facts["finer"]**3 } if
          rows.any?
      end

      # Cells that are refined for each one.
      def refined(plan) = Gas::Detail.on?(plan) ? plan.document.the(:detail)[:finer]**3 : 0

      # Frames of the last runs that have some, in order, the newest run first. What was found counts until there are
      # some more.
      # @return [Array<Array<Hash>>]
      def own(shot_id)
        told = [@workshop.db[:runs].where(shot_id: shot_id).max(:id), newest / SOME]
        known = @own.delete(shot_id)
        found = (known && known[0] == told) ? known[1] : own_now(shot_id)
        @own.shift if @own.size >= SHOTS
        (@own[shot_id] = [told, found])[1]
      end

      def own_now(shot_id)
        @workshop.db[:runs].where(shot_id: shot_id).reverse(:id).limit(RUNS).select_map(:keys).filter_map do |text|
          keys = JSON.parse(text)
          facts = @workshop.frames.facts(keys)
          found = keys.filter_map { |key| facts[key] }.select { |one| one["size"] && one["whole"] && one["substeps"] }
          found if found.size >= FEW
        end
      end

      def recent
        told = newest
        return @recent[1] if @recent && @recent[1].any? && told - @recent[0] < SOME

        found =
          @workshop.db[:frames]
            .reverse(Sequel.lit("rowid"))
            .limit(RECENT)
            .select_map(%i[facts bytes])
            .map { |facts, size| JSON.parse(facts).merge("bytes" => size) }
            .select { |facts| facts["size"] && facts["substeps"] && facts["seconds"].to_f.positive? }
        @recent = [told, found]
        found
      end

      # How many frames there ever were.
      def newest = @workshop.db[:frames].max(Sequel.lit("rowid")).to_i

      def liquids
        @workshop.db[:frames]
          .reverse(Sequel.lit("rowid"))
          .limit(RECENT)
          .select_map(%i[facts bytes])
          .map { |facts, size| JSON.parse(facts).merge("bytes" => size) }
          .select { |facts| facts["liquid_cells"] && facts["seconds"].to_f.positive? }
      end

      def bytes
        return BYTES if recent.empty?

        recent.sum { |facts| facts["bytes"] }.to_f /
          recent.sum { |facts| FrameCost.used(facts) * facts.fetch("finer", 1)**3 }
      end
    end
  end
end
