# frozen_string_literal: true

module Vumbral
  module Studio
    # Makes the frames of a liquid's plan that are not there yet, from the last state that still holds to the last frame
    # wanted.
    class LiquidSimulation
      # A whole state is kept after each so many frames, and after the last.
      CHECKPOINT = 12
      # @param task [#progress, #check, #workshop]; @param plan [Liquid::Plan]
      # @param ahead [Integer] frames that come after these, of something else
      # @param change [String] what was done last, for where numbers break
      # @yield [frame, key, facts] each frame as it is there
      def initialize(task, plan, last: plan.frames.last, ahead: 0, change: "", &told)
        @task, @plan, @change, @ahead, @told = task, plan, change, ahead, told
        @frames = task.workshop.frames
        @states = LiquidStates.new(@frames)
        @keys, @flows = plan.keys, plan.flows
        @wanted =
          (plan.frames.first..last).reject { |frame| @frames.frame?(@keys[frame]) || @frames.mend(@keys[frame]) }
        @total = last - plan.frames.first + 1
      end

      # @return [Hash] frames computed, frames used again, seconds; how many only got another surface, if any
      def call
        report(0, "making ready")
        dress_again
        return {computed: 0, kept: @total, **@dressed} if @wanted.empty?

        began = clock
        @stage = Liquid::Stage.new(@plan, @task.workshop.assets)
        state, from = resume(@wanted.first)
        # A frame's surface is made while the next one is run.
        Meanwhile.run(1, method(:dress)) do |dressing|
          @dressing = dressing
          (from..@wanted.last).each { |frame| state = advance(state, frame) }
        end
        @skins&.finish
        {computed: @wanted.size, kept: @total - @wanted.size, seconds: (clock - began).round(3), **@dressed}
      ensure
        @skins&.leave
      end

      private

      def clock = Process.clock_gettime(Process::CLOCK_MONOTONIC)

      def report(done, note) =
        @task.progress(@total - @wanted.size + done, @total + @ahead, note, from_here: done.zero?)

      # Frames in which what flows is there already need another surface and no run.
      def dress_again
        first = @wanted.size
        @wanted = @wanted.reject do |frame|
          like = @frames.flowing(@flows[frame]) or next
          @task.check
          facts = @task.workshop.liquids.dress_again(@keys[frame], frame, @plan, like)
          @task.progress(@total - first + frame - @plan.frames.first, @total + @ahead, "surfaces alone")
          @told&.call(frame, @keys[frame], facts)
          true
        end
        @dressed = (@wanted.size < first) ? {surfaces: first - @wanted.size} : {}
      end

      # @return [Array(Liquid::State, Integer)] the newest checkpoint before a frame, and the frame after it
      def resume(first)
        (first - 1).downto(@plan.frames.first) do |frame|
          state = @states.read(@keys[frame])
          return [state, frame + 1] if state
        end
        [@stage.still, @plan.frames.first]
      end

      def advance(state, frame)
        @task.check
        began = clock
        state, report = @stage.advance(state, frame)
        if report.broken
          raise Refused.new("At frame #{frame} the liquid's #{report.broken} is no longer a number, so the run stops " \
            "there; the frames before it are kept. " \
            "Take more substeps, or less of what was changed last: #{@change}.", code: "not_a_number")
        end
        seconds = clock - began
        keep(state, frame, report, seconds) unless @frames.frame?(@keys[frame])
        report(@wanted.count { |other| other <= frame }, "#{seconds.round(2)} s a frame")
        state
      end

      def keep(state, frame, report, seconds)
        key = @keys[frame]
        facts = {
          seconds: seconds.round(4), speed: report.speed.round(3), substeps: report.substeps,
          iterations: report.iterations, residual: report.residual, limited: report.limited, drops: report.drops,
          sprayed: report.sprayed, volume: report.volume.round(6), energy: report.energy.round(4),
          poured: report.poured, left: report.left, liquid_cells: @plan.cells, flow: @flows[frame]
        }
        @states.write(key, state) if ((frame - @plan.frames.first + 1) % CHECKPOINT).zero? || frame == @plan.frames.last
        @dressing << [
          frame, key, facts,
          @task.workshop.liquids.flowing(@plan, state, @stage, @plan.seconds(frame) / [report.substeps, 1].max)
        ]
      end

      # @param row [Array] as {#keep} hands it on
      def dress(row)
        frame, key, facts, parts = row
        facts =
          facts.merge(flowing: parts.sum { |ending, (head, buffers)| @frames.write_part(key, ending, head, buffers) })
        skins.look if @skins
        return skins.hand_over(frame, key, facts) if @task.respond_to?(:id) && skins.wanted?(facts[:drops])

        @task.workshop.liquids.dress(key, frame, @plan, facts)
        @told&.call(frame, key, facts)
      end

      # Made elsewhere, where somebody is there.
      def skins
        @skins ||=
          Farm::Skins.new(@task, @plan) do |frame, key|
            @told&.call(frame, key, @frames.facts([key])[key].to_h.transform_keys(&:to_sym))
          end
      end
    end
  end
end
