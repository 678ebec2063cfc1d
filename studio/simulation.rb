# frozen_string_literal: true

module Vumbral
  module Studio
    # Makes the frames of a plan that are not there yet: from the last state that still holds to the last frame wanted.
    class Simulation
      # A whole state is kept after each so many frames, and after the last.
      CHECKPOINT = 8

      # @param task [#progress, #check, #workshop]; @param document [Shot::Document]; @param plan [Gas::Plan] of it
      # @param views [Boolean, :quick] whether each frame is lit for the browser as it is made; in a hurry
      # @param change [String] what was done last, for where numbers break
      # @yield [frame, key, facts] each frame as it is there, as it is seen
      def initialize(task, document, plan, last: plan.frames.last, views: true, change: "", &told)
        @task, @document, @plan, @views, @change, @told = task, document, plan, views, change, told
        @workshop = task.workshop
        @quality = plan.quality.to_s
        @keys = plan.keys
        @frames = (plan.frames.first..last).to_a
      end

      # @return [Hash] frames computed, frames used again, seconds it all took, and those that went into the solver
      #   alone
      def call
        frames = @workshop.frames
        there = frames.there(@keys.values_at(*@frames))
        wanted = @frames.reject { |frame| there.include?(@keys[frame]) || frames.mend(@keys[frame]) }
        @total = @frames.size
        @task.progress(@total - wanted.size, @total, "making ready", from_here: true)
        light_what_is_here if @views
        began = clock
        simulate(wanted) unless wanted.empty?
        refined = Gas::Detail.on?(@plan) ? refine : 0
        {computed: wanted.size, kept: @total - wanted.size}.merge(refined.positive? ? {refined: refined} : {},
          (wanted.empty? && refined.zero?) ? {} : {seconds: (clock - began).round(3), solved: @solved.to_f.round(3)})
      end

      private

      def clock = Process.clock_gettime(Process::CLOCK_MONOTONIC)

      def simulate(wanted)
        states, from = resume(wanted.first)
        beside do
          (from..wanted.last).each { |frame| states = advance(states, frame, wanted) }
        end
      end

      # What is looked at while it is made is stored and lit while the next frame is.
      def beside(&all)
        return all.call unless @views == :quick

        Meanwhile.run(1, ->(made) { store(*made) }) do |meanwhile|
          @meanwhile = meanwhile
          all.call
        end
      end

      def refine
        refining = Refining.new(@workshop, @document, @plan)
        wanted = refining.missing(@frames).size
        made = 0
        refining.call(@frames) do |frame, key, facts|
          light(key, frame, *@workshop.frames.read(key)) if @views
          tell(frame, key, facts)
          @task.progress(made += 1, wanted, "finer detail")
        end
      end

      # The newest checkpoint before a frame. @return [Array(Array<Gas::State>, Integer)] and the frame after it
      def resume(first)
        @chambers = Gas::Chambers.new(@plan, @workshop.assets)
        (first - 1).downto(@plan.frames.first) do |frame|
          states = @workshop.frames.checkpoint(@keys[frame])
          return [states, frame + 1] if states
        end
        [@chambers.still, @plan.frames.first]
      end

      def advance(states, frame, wanted)
        @task.check
        began = clock
        states, report = @chambers.advance(states, frame)
        numbers(report, frame)
        seconds = clock - began
        @solved = @solved.to_f + seconds
        # From frame to frame, with all that is done besides.
        paced = @mark ? clock - @mark : seconds
        @mark = clock
        keep(states, frame, report, seconds, paced) if wanted.include?(frame)
        @task.progress(@total - wanted.count { |other| other > frame }, @total, "#{seconds.round(2)} s a frame")
        states
      end

      # @raise [Refused] when the state holds something that is no number
      def numbers(report, frame)
        return unless report.broken

        raise Refused.new(
          "At frame #{frame} the #{report.broken} is no longer a number, so the run stops there; the frames " \
            "before it are kept. The last change was: #{@change}.",
          code: "not_a_number"
        )
      end

      def keep(states, frame, report, seconds, paced)
        key = @keys[frame]
        bricks = Grid::Bricks.pack_all(states, padding: @plan.ground["padding"])
        facts = {
          seconds: seconds.round(4), paced: paced.round(4), speed: report.speed.round(3), substeps: report.substeps,
          iterations: report.iterations, residual: report.residual, smoke: report.smoke.round(6),
          fuel: report.fuel.round(6), burnt: report.burnt.round(6), left: report.left.round(6), limited: report.limited,
          peak: (report.peak_heat + @document.the(:chamber)[:ambient]).round(1), swell_limited: report.swell_limited,
          full: report.full, **extent(states), size: bricks.size.reverse,
          used: states.sum { |state| state.size.reduce(:*) }, whole: @plan.cells
        }
        checkpoint = ((frame - @plan.frames.first + 1) % CHECKPOINT).zero? || frame == @plan.frames.last
        @workshop.frames.write_checkpoint(key, states) if checkpoint
        made = [key, frame, bricks, facts]
        @meanwhile ? @meanwhile << made : store(*made)
      end

      def store(key, frame, bricks, facts)
        @workshop.frames.write(key, frame, bricks, @plan, facts)
        if @views
          light(key, frame, bricks,
            {"voxel" => @plan.voxel, "corner" => bricks.corner(@plan.corner, @plan.voxel)})
        end
        tell(frame, key, facts)
      end

      # Thinner smoke is not seen.
      SEEN = 0.02
      private_constant :SEEN

      # How high the smoke stands and how far it spreads, metres.
      def extent(states)
        reached = states.filter_map do |state|
          cells = Kernel::Buffer.new(:i32, 6).tap { |out| Flow::MatterKernels.extent(out, state.smoke, SEEN) }.to_a
          cells.each_slice(2).zip(state.origin).map { |(first, last), at| [at + first, at + last + 1] } if cells[1] >= 0
        end
        return {} if reached.empty?

        low, high =
          3.times.map { |a| [reached.map { |box| box[a][0] }.min, reached.map { |box| box[a][1] }.max] }.transpose
        wide = [high[0] - low[0], high[2] - low[2]].max
        {top: (@plan.corner[1] + high[1] * @plan.voxel).round(3), spread: (wide * @plan.voxel).round(3)}
      end

      def tell(frame, key, facts) =
        @told&.call(frame, @workshop.sculpts.beside(@document, frame, @quality, key, shown_keys), facts)

      # With the sculpts that the shot has besides.
      def light(key, frame, bricks, head)
        quick = @views == :quick
        light = quick ? @workshop.views.quick_key(@document, frame) : @workshop.views.light_key(@document, frame)
        seen = @workshop.sculpts.beside(@document, frame, @quality, key, shown_keys)
        return if @workshop.views.made?(seen, light)

        bricks, head = @workshop.frames.read(seen) unless seen == key
        key = seen

        @workshop.views.make(key, light, bricks, head, @workshop.views.painter(@document, frame), quick: quick)
      end

      def shown_keys = @shown_keys ||= @workshop.runs.shown_keys(@plan)

      # Frames kept from before may have been lit by other lamps.
      def light_what_is_here
        there = @workshop.frames.there(shown_keys.values_at(*@frames).compact)
        @frames.each do |frame|
          key = shown_keys[frame]
          next unless there.include?(key)

          @task.check
          light(key, frame, *@workshop.frames.read(key))
        end
      end
    end
  end
end
