# frozen_string_literal: true

require "json"

module Vumbral
  module Studio
    # Simulations of a shot with its settings frozen.
    class Runs
      QUALITIES = %w[draft full].freeze
      # The best first.
      BEST = QUALITIES.reverse.freeze

      def initialize(workshop)
        @workshop = workshop
      end

      # Starts a run of the shot as it stands; one that is going on is stopped first, and what it
      # finished is used again.
      # @param frames [Range, nil] stop after its last frame
      # @param views [Boolean] light each frame for the browser as it is made
      # @return [Hash] the run's row
      def start(shot_id, quality, frames: nil, views: true, background: false)
        quality = checked(quality)
        shot = @workshop.shots.fetch(shot_id)
        document = @workshop.shots.document(shot[:id])
        plan = plan_of(document, quality)
        @workshop.machine.check(plan)
        @workshop.machine.check_liquid(@workshop.liquids.plan(document, quality))
        last = checked_last(plan, frames)
        fed(document)
        room
        foreseen = @workshop.forecast.each_missing(document, plan, shot[:id])
        @workshop.jobs.cancel_of(shot[:id], kind: "run")
        @workshop.db.transaction(mode: :immediate) do
          run = record(shot, plan, quality)
          job =
            @workshop.jobs.add(
              "run", shot[:id], {run: run[:id], last: last, views: views, frame_seconds: foreseen},
              background: background, memory: plan.memory + @workshop.liquids.plan(document, quality)&.memory.to_i
            )
          table.where(id: run[:id]).update(job_id: job)
          fetch(run[:id])
        end
      end

      # Goes on with the kind of run the shot last had, if a change of the shot has made frames of
      # it stale. @return [Hash, nil] the run
      def follow(shot_id)
        last = latest(shot_id)
        return unless last && last[:quality] == "draft"

        plan = plan(shot_id, "draft")
        document = @workshop.shots.document(shot_id)
        wet = @workshop.liquids.keys(document, "draft").values
        return if JSON.parse(last[:keys]) == shown_keys(plan).values && JSON.parse(last[:liquid_keys]) == wet
        return unless missing?(still?(document) ? wet : shown_keys(plan).values + wet)

        start(shot_id, "draft")
      rescue Refused, Database::Error
        # A change that cannot be run (no source any more, a full disk) leaves what there is.
        nil
      end

      def fetch(id)
        table[id: id] || raise(Refused.new("There is no run #{id}.", code: "unknown_run"))
      end

      def latest(shot_id, quality = nil)
        rows = table.where(shot_id: shot_id)
        rows = rows.where(quality: quality) if quality
        rows.reverse(:id).first
      end

      # @return [Array<String>] the frames that its runs were to make
      def keys_made(shot_id) =
        table.where(shot_id: shot_id).select_map(%i[keys liquid_keys]).flatten.uniq.flat_map { |keys| JSON.parse(keys) }

      # @return [Gas::Plan] of the shot as it stands; kept while it does
      def plan(shot_id, quality)
        stamp = @workshop.shots.stamp(@workshop.shots.fetch(shot_id))
        @plans ||= {}
        kept = @plans[[shot_id, quality]]
        return kept[1] if kept && kept[0] == stamp

        plan = plan_of(@workshop.shots.document(shot_id), quality)
        @plans[[shot_id, quality]] = [stamp, plan]
        plan
      end

      # @return [Gas::Plan] of a document; what it meets of the liquid is that of the same quality
      def plan_of(document, quality)
        promised = Liquids::Promised.new(@workshop.liquids, quality.to_s)
        Gas::Plan.new(@workshop.liquids.any?(document) ? document.made_by(promised) : document, quality.to_sym)
      end

      # @return [Hash{Integer => String}] the frames that a plan's shot shows: with finer detail where
      #   it is on
      def shown_keys(plan) = Gas::Detail.on?(plan) ? Gas::Detail.keys(plan) : plan.keys

      # Which frames there are to look at. @return [Hash] as {FrameStates#call}
      def state(shot_id, quality) = FrameStates.new(@workshop, shot_id, checked(quality)).call

      # The best frame there is of the shot as it stands.
      # @return [Array(String, String)] quality and key
      # @param qualities [Array<String>] of {QUALITIES}, in which ones it may be
      # @raise [Refused] where the frame has not been run
      def best(shot_id, frame, qualities = BEST)
        document = @workshop.shots.document(shot_id)
        dry(document, frame)
        if still?(document) && frame.between?(document.first_frame, document.last_frame)
          return "still", @workshop.sculpts.keys_of(document)[frame]
        end

        quality, key, runs = made(shot_id, frame, qualities)
        [quality, @workshop.sculpts.beside(document, frame, "full", key, runs)]
      end

      # The run's own frame, without sculpts.
      # @return [Array(String, Hash{Integer => String})] its key, and those of all frames of its run
      # @raise [Refused] where the frame has not been run
      def own(shot_id, frame) = made(shot_id, frame).drop(1)

      # The best that was run of a frame. @return [Array(String, String, Hash)] quality, key and those of its run
      def made(shot_id, frame, among = BEST)
        qualities = among.select { |quality| plan(shot_id, quality).keys.key?(frame) }
        plan = plan(shot_id, "draft")
        if qualities.empty?
          raise Refused.new(
            "The shot has no frame #{frame}; it goes from #{plan.frames.first} to #{plan.frames.last}.",
            code: "no_frame"
          )
        end
        found =
          qualities
            .flat_map do |quality|
              plan(shot_id, quality).then { |plan| [shown_keys(plan), plan.keys].map { |keys| [quality, keys[frame]] } }
            end
            .find { |_, key| @workshop.frames.frame?(key) }
        unless found
          raise Refused.new(
            "Frame #{frame} has not been run since the last change; run a draft first.", code: "not_run"
          )
        end

        [*found, runs_of(shot_id, found)]
      end

      # The frames of the run that one belongs to. @param found [Array(String, String)] quality and key
      def runs_of(shot_id, found) =
        plan(shot_id, found[0]).then { |plan| [plan.keys, shown_keys(plan)].find { |keys| keys.value?(found[1]) } }

      # @return [String, nil] the file of a frame of a shot as it once stood; nil where it needs none
      # @raise [Refused] where that is gone
      def key_of(document, quality, frame)
        return @workshop.sculpts.keys_of(document)[frame] if still?(document)

        plan = plan_of(document, quality)
        found =
          [shown_keys(plan), plan.keys].map { |keys| keys[frame] }.find { |key| key && @workshop.frames.frame?(key) } ||
          raise(
            Refused.new(
              "The run that this print was made of is gone; bring its settings back and run it again.",
              code: "not_run"
            )
          )
        @workshop.sculpts.beside(
          document, frame, "full", found, [plan.keys, shown_keys(plan)].find { |keys| keys[frame] == found }
        )
      end

      # @return [Array<Integer>] the frames that there are of the shot as it stands
      def there(shot_id)
        document = @workshop.shots.document(shot_id)
        all = (document.first_frame..document.last_frame).to_a
        all = all.select { |frame| document.made(frame) } if @workshop.liquids.any?(document)
        return all if still?(document)

        plans = QUALITIES.map { |quality| plan(shot_id, quality) }
        keys = plans.flat_map { |plan| [shown_keys(plan), plan.keys].uniq }
        known = @workshop.frames.facts(keys.flat_map(&:values).uniq)
        all.select { |frame| keys.any? { |by_frame| known.key?(by_frame[frame]) } }
      end

      # Whether there is nothing to run: no source feeds, so that pictures have props, fogs and light alone.
      def still?(document) = document.of(:source).empty?

      private

      # @raise [Refused] where the liquid of a frame has not been run
      def dry(document, frame)
        unless @workshop.liquids.any?(document) && frame.between?(document.first_frame, document.last_frame) &&
            document.made(frame).nil?
          return
        end

        raise Refused.new(
          "The liquid of frame #{frame} has not been run since the last change; run a draft first.",
          code: "not_run"
        )
      end

      def table = @workshop.db[:runs]

      # @raise [Refused] when the disk is full
      def room
        unless @workshop.home.reserve
          raise Refused.new(
            "The disk is full, so nothing can be run; free some space and start again.", code: "disk_full"
          )
        end
      end

      def checked(quality)
        return quality.to_s if QUALITIES.include?(quality.to_s)

        raise Refused.new("A run is #{QUALITIES.join(" or ")}, not #{quality.to_s[0, 20].inspect}.", code: "bad_value")
      end

      def checked_last(plan, frames)
        return plan.frames.last unless frames
        if plan.frames.cover?(frames.begin) && plan.frames.cover?(frames.end) && frames.begin <= frames.end
          return frames.end
        end

        raise Refused.new(
          "Frames #{frames.begin}-#{frames.end} are not in the shot; it goes from #{plan.frames.first} to " \
            "#{plan.frames.last}.",
          code: "out_of_range"
        )
      end

      def fed(document)
        return if document.of(:liquid).any? { |liquid| liquid[:pool] }

        pours = document.of(:inflow).any? { |inflow| inflow[:prop] || inflow[:also].any? || inflow[:emitter] }
        return if pours && document.of(:liquid).any?
        if document
            .of(:source)
            .any? { |source| (source[:from] == "particles") ? source[:emitter] : source[:prop] || source[:also].any? }
          return
        end

        what = if document.all_of(:source).any? && document.of(:source).empty?
          "switch a source on"
        else
          "add a source and choose the prop or the emitter it comes from"
        end
        raise Refused.new("Nothing feeds this shot: #{what}, then run again.", code: "no_source")
      end

      def missing?(keys) = keys.any? { |key| !@workshop.frames.frame?(key) }

      def record(shot, plan, quality)
        number = (table.where(shot_id: shot[:id]).max(:number) || 0) + 1
        id =
          table.insert(
            shot_id: shot[:id], number: number, quality: quality, revision: shot[:head],
            keys: JSON.generate(shown_keys(plan).values),
            liquid_keys: JSON.generate(@workshop.liquids.keys(@workshop.shots.document(shot[:id]), quality).values),
            cells: plan.cells, created_at: @workshop.now, first_frame: plan.frames.first, changed: changed(shot)
          )
        fetch(id)
      end

      # What differs from the settings of the run before.
      def changed(shot)
        before = latest(shot[:id])&.then { |run| @workshop.shots.revision(shot[:id], run[:revision]) } or
          return "First run"
        return "Same settings" if before[:number] == shot[:head]

        Differences.line(@workshop.shots.read(before[:document]), @workshop.shots.document(shot[:id]))
      end
    end
  end
end
