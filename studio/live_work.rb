# frozen_string_literal: true

module Vumbral
  module Studio
    # Runs a live draft, and tells each frame as it comes.
    class LiveWork
      def initialize(task)
        @task = task
        @workshop = task.workshop
      end

      # @return [Hash] as {Simulation#call}
      def call
        document = @workshop.shots.read(@task.payload["document"])
        plan = @workshop.live_draft.plan(document)
        here(document, plan)
        simulation =
          Simulation.new(@task, document, plan, views: :quick) { |frame, key, facts| tell(document, frame, key, facts) }
        # Frames come no quicker than whoever looks can draw them, on the same machine.
        Kernel.sparing { simulation.call }
      end

      # The hand may have let go while a frame was being made: what is left then goes, unless another one goes on.
      def ended
        return unless @workshop.jobs.cancelled?(@task.id)

        if @workshop.jobs.active(@task.shot).none? { |job| [LiveDraft::KIND, "run"].include?(job[:kind]) }
          @workshop.live_draft.tidy(@task.shot)
        end
      end

      private

      # What was made before, of the one before or of another, is told at once.
      def here(document, plan)
        keys = @workshop.runs.shown_keys(plan)
        facts = @workshop.frames.facts(keys.values)
        keys.select { |_, key| facts.key?(key) }.each do |frame, key|
          light = @workshop.views.quick_key(document, frame)
          next unless @workshop.views.made?(key, light)

          tell(document, frame, key, facts[key])
        end
      end

      def tell(document, frame, key, facts)
        @workshop.events.tell(
          LiveDraft::KIND, @task.shot, job: @task.id, frame: frame, key: key,
          light: @workshop.views.quick_key(document, frame), facts: facts
        )
      end
    end
  end
end
