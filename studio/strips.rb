# frozen_string_literal: true

require "json"

module Vumbral
  module Studio
    # Test strips: a shot run with every combination of some dials' values, to be looked at together. Frames that do not
    # differ are shared, with the shot's own runs too.
    class Strips
      # So many variations' lights are remembered.
      REMEMBERED = 256
      # What many variations would cost is foreseen by so many of them.
      FORESEEN = 24

      def initialize(workshop)
        @workshop = workshop
      end

      # @param axes [Array<Hash>] as {Shot::Strip} takes them; @param quality [String] draft or full
      # @param sure [Boolean] whether very many variations are meant
      # @return [Hash] the strip's row
      # @raise [Refused] also with the code many_variations, where whoever asks has to be sure
      def start(shot_id, axes, quality: "draft", sure: false)
        shot = @workshop.shots.fetch(shot_id)
        document = @workshop.shots.document(shot[:id])
        strip = Shot::Strip.new(document, axes)
        ask_first(shot[:id], axes, quality, strip) if strip.many? && !sure
        plans = plans(strip, quality)
        plans.each { |plan| @workshop.machine.check(plan) }
        strip.size.times { |n| @workshop.machine.check_liquid(Liquid::Plan.of(strip.at(n), quality.to_s.to_sym)) }
        if @workshop.runs.still?(document) && !@workshop.sculpts.shown?(document) && !@workshop.liquids.any?(document)
          raise Refused.new(
            "Nothing feeds this shot, and no sculpt is seen in it, so there is nothing to vary; add a source.",
            code: "no_source"
          )
        end

        @workshop.db.transaction(mode: :immediate) do
          id =
            table.insert(
              shot_id: shot[:id], number: (table.where(shot_id: shot[:id]).max(:number) || 0) + 1,
              document: document.to_json, axes: JSON.generate(asked(strip)), quality: quality,
              keys: JSON.generate(plans.map { |plan| shown(plan).values }),
              liquid_keys: JSON.generate(wet(strip, quality)), first_frame: document.first_frame,
              created_at: @workshop.now
            )
          job = @workshop.jobs.add("strip", shot[:id], {strip: id})
          table.where(id: id).update(job_id: job)
          table[id: id]
        end
      end

      # What a strip would cost, before it is run. @return [Hash] :runs, :frames, :seconds (by all machines that work
      #   now), :disk, :machines, and :new, how many of its frames are not there yet
      # @raise [Refused]
      def forecast(shot_id, axes, quality: "draft")
        document = @workshop.shots.document(shot_id)
        strip = Shot::Strip.new(document, axes)
        # Of very many, some tell enough.
        places = strip.many? ? Array.new(FORESEEN) { |n| n * strip.size / FORESEEN } : strip.size.times.to_a
        plans = plans(strip, quality, places)
        keys = (plans.flat_map { |plan| shown(plan).values } + wet(strip, quality, places).flatten).uniq.compact
        fresh = ((keys.size - @workshop.frames.facts(keys).size) * strip.size.fdiv(places.size)).round
        whole = @workshop.forecast.whole(document, plans[0], shot_id)
        # Where there is gas and liquid, each has frames of its own.
        part =
          fresh.fdiv(
            [
              plans[0].frames.size * ((@workshop.liquids.any?(document) && !@workshop.runs.still?(document)) ? 2 : 1), 1
            ].max
          )
        {
          runs: strip.size, frames: plans[0].frames.size, new: fresh,
          seconds: (part * whole[:seconds] / [@workshop.machines.capacity(whole[:memory]), strip.size].min).round(1),
          machines: 1 + @workshop.machines.working.size, disk: (part * whole[:disk]).round, cells: plans[0].cells,
          many: strip.many?
        }
      end

      # @return [Array<Hash>] number, dials, size and how far it is, newest first
      def list(shot_id)
        table.where(shot_id: shot_id).reverse(:number).map do |row|
          strip = strip(row)
          keys = frames_of(row)
          {
            number: row[:number], quality: row[:quality], dials: strip.axes.map(&:label), runs: strip.size,
            created: row[:created_at], job: row[:job_id], there: there(keys), of: keys.size,
            marked: JSON.parse(row[:marked]).size
          }
        end
      end

      # @raise [Refused]
      def fetch(shot_id, number)
        table[shot_id: shot_id, number: number] ||
          raise(Refused.new("There is no test strip #{number} of this shot.", code: "unknown_strip"))
      end

      # @param id [Integer] of the row
      def row(id) = table[id: id] || raise(Refused.new("This test strip was taken away.", code: "unknown_strip"))

      # @return [Shot::Strip]
      def strip(row)
        @strips ||= {}
        @strips.shift if @strips.size > 8
        @strips[row[:id]] ||= Shot::Strip.new(@workshop.shots.read(row[:document]), JSON.parse(row[:axes]))
      end

      # All that there is of a strip.
      # @param from [Integer] of very many variations the first that is told of; only so many as are looked at together
      #   are
      # @return [Hash] its dials with their values, and each variation: values, frames with their light, figures, or
      #   nil; how many there are (:size), how many of their frames are :there and how many there will be (:of)
      def show(shot_id, number, from: 0)
        row = fetch(shot_id, number)
        strip, keys = strip(row), JSON.parse(row[:keys])
        seen = (from.clamp(0, keys.size - 1)...[from.clamp(0, keys.size - 1) + Shot::Strip::MANY, keys.size].min)
        wet = JSON.parse(row[:liquid_keys])
        all = frames_of(row)
        facts = @workshop.frames.facts((keys[seen] + wet[seen].to_a).flatten.uniq.compact)
        {
          number: row[:number],
          quality: row[:quality],
          first: row[:first_frame],
          job: row[:job_id],
          axes:
            strip.axes.map do |axis|
              {
                node: axis.node, dial: axis.dial, label: axis.label, values: axis.values,
                shown: axis.values.map { |value| strip.show(axis, value) }
              }
            end,
          marked: JSON.parse(row[:marked]),
          dropped: JSON.parse(row[:dropped]),
          size: keys.size,
          from: seen.first,
          together: Shot::Strip::MANY,
          frames: keys.map(&:size).max,
          there: strip.many? ? @workshop.frames.known(all).size : facts.size,
          of: all.size,
          cells: keys.each_with_index.map { |own, n| cell(row, strip, n, own, wet[n] || [], facts) if seen.cover?(n) }
        }
      end

      # Marks a variation, or takes the mark away; drops it, or takes it in again.
      # @param what [Symbol] :marked or :dropped
      def note(shot_id, number, place, what, whether)
        row = fetch(shot_id, number)
        checked(row, place)
        places = JSON.parse(row[what]) - [place]
        places << place if whether
        table.where(id: row[:id]).update(what => JSON.generate(places.sort))
        show(shot_id, number, from: place / Shot::Strip::MANY * Shot::Strip::MANY)
      end

      # Asks for a sheet of its variations at a frame, as a picture.
      # @return [Integer] the job's id
      # @raise [Refused] where none of them has the frame
      def sheet(shot_id, number, frame)
        row = fetch(shot_id, number)
        if pictured(row, frame).empty?
          raise Refused.new("No variation of test strip #{number} has frame #{frame} yet.", code: "no_frame")
        end

        @workshop.jobs.add("sheet", shot_id, {strip: row[:id], frame: frame, size: Sheets::SIZE})
      end

      # @return [Hash{Integer => String, nil}] the file of a frame's volume for each variation that has the frame; nil
      #   where there is a liquid alone
      def pictured(row, frame)
        at = frame - row[:first_frame]
        return {} if at.negative?

        wet = JSON.parse(row[:liquid_keys])
        dropped = JSON.parse(row[:dropped])
        keys =
          JSON
            .parse(row[:keys])
            .each_with_index
            .reject { |_, n| dropped.include?(n) }
            .to_h { |own, n| [n, [own[at], wet.dig(n, at)]] }
        facts = @workshop.frames.facts(keys.values.flatten.compact.uniq)
        keys.select { |_, both| both.any? && both.compact.all? { |key| facts.key?(key) } }.transform_values(&:first)
      end

      # Takes a strip away, with the frames that nothing else needs.
      def take_away(shot_id, number)
        row = fetch(shot_id, number)
        @workshop.jobs.cancel(row[:job_id]) if row[:job_id]
        table.where(id: row[:id]).delete
        used = @workshop.holdings.used.to_set
        @workshop.holdings.let_go(frames_of(row).reject { |key| used.include?(key) })
      end

      # @return [Array<String>] the frames of all strips of a shot
      def keys_made(shot_id) = table.where(shot_id: shot_id).all.flat_map { |row| frames_of(row) }.uniq

      # @return [Shot::Document] a variation
      # @raise [Refused]
      def document(row, place)
        checked(row, place)
        strip(row).at(place)
      end

      # @return [Gas::Plan, nil] what a variation runs; nil where it needs no run
      def plan(row, place) =
        document(row, place).then do |document|
          @workshop.runs.still?(document) ? nil : @workshop.runs.plan_of(document, row[:quality])
        end

      # @return [Liquid::Plan, nil] of the liquid of a variation
      def liquid_plan(row, place) = @workshop.liquids.plan(document(row, place), row[:quality])

      private

      def table = @workshop.db[:strips]

      def asked(strip) = strip.axes.map { |axis| {node: axis.node, dial: axis.dial, values: axis.values} }

      # @raise [Refused] with what it would take
      def ask_first(shot_id, axes, quality, strip)
        cost = forecast(shot_id, axes, quality: quality)
        raise Refused.new("This strip has #{strip.size} variations of #{cost[:frames]} frames: " \
          "#{span(cost[:seconds])} and #{format("%.1f GB", cost[:disk] / 1e9)}, as far as that can be told. " \
          "Say that it is meant, or take fewer values.", code: "many_variations")
      end

      def span(seconds)
        return "#{seconds.round} s" if seconds < 90

        (seconds < 5400) ? "#{(seconds / 60).round} min" : format("%.1f h", seconds / 3600)
      end

      def plans(strip, quality, places = strip.size.times) =
        places.map { |n| @workshop.runs.plan_of(strip.at(n), quality) }

      # The frames of the liquid that each variation has.
      def wet(strip, quality, places = strip.size.times) =
        places.map { |n| @workshop.liquids.keys(strip.at(n), quality).values }

      # All frames that a strip makes.
      def frames_of(row) = row.values_at(:keys, :liquid_keys).flat_map { |keys| JSON.parse(keys).flatten }.uniq.compact

      def shown(plan)
        document = plan.document
        return @workshop.runs.shown_keys(plan) unless @workshop.runs.still?(document)
        # Of a liquid a strip shows the surface alone.
        return plan.frames.to_h { |frame| [frame, nil] } if @workshop.liquids.any?(document)

        @workshop.sculpts.keys(document, plan.quality.to_s)
      end

      def there(keys) = @workshop.frames.known(keys.uniq).size

      def checked(row, place)
        size = strip(row).size
        unless place.is_a?(Integer) && place.between?(0, size - 1)
          raise Refused.new(
            "Test strip #{row[:number]} has #{size} variations, so none with the number #{place}.",
            code: "bad_value"
          )
        end
      end

      def cell(row, strip, n, keys, wet, facts)
        lights = lights(row, n, keys.size)
        rows = keys.each_with_index.map do |key, at|
          {
            frame: row[:first_frame] + at, key: facts.key?(key) ? key : nil, light: lights[at],
            lit: facts.key?(key) && @workshop.views.made?(key, lights[at]), liquid: facts.key?(wet[at]) ? wet[at] : nil
          }
        end
        done = rows.zip(keys, wet).count { |one, key, liquid| (key.nil? || one[:key]) && (liquid.nil? || one[:liquid]) }
        {
          values: strip.values(n), shown: strip.axes.zip(strip.values(n)).map { |axis, value| strip.show(axis, value) },
          edits: strip.edits(n), rows: rows, done: done,
          figures: figures(keys.filter_map { |key| facts[key] }).merge(poured(wet.filter_map { |key| facts[key] }))
        }
      end

      # What one judges a liquid by.
      def poured(facts)
        return {} if facts.empty?

        {
          fastest: facts.map { |one| one["speed"] }.max.round(2), volume: facts.last["volume"],
          sprayed: facts.map { |one| one["sprayed"].to_i }.max,
          seconds: facts.sum { |one| one["seconds"].to_f }.round(1)
        }
      end

      # The names of what lights it at each frame; most stay as they are.
      def lights(row, n, count)
        @lights ||= {}
        @lights.shift if @lights.size > REMEMBERED
        @lights[[row[:id], n]] ||= strip(row)
          .at(n)
          .then { |document| Array.new(count) { |at| @workshop.views.light_key(document, row[:first_frame] + at) } }
      end

      # What one judges a run by, of the frames that are there.
      def figures(facts)
        return {} if facts.empty?

        last = facts.last
        {
          peak: facts.filter_map { |one| one["peak"] }.max&.round,
          top: facts.filter_map { |one| one["top"] }.max&.round(2),
          spread: facts.filter_map { |one| one["spread"] }.max&.round(2), left: last["left"]&.round(4),
          fuel: last["fuel"]&.round(4), smoke: last["smoke"]&.round(4),
          seconds: facts.sum { |one| one["seconds"].to_f }.round(1)
        }.compact
      end
    end
  end
end
