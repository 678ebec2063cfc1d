# frozen_string_literal: true

module Vumbral
  module Studio
    # Carries a run out.
    class RunWork
      # So many damaged frames may turn up before the disk itself is to blame.
      MENDED = 20

      def initialize(task)
        @task = task
        @workshop = task.workshop
        @run = @workshop.runs.fetch(task.payload["run"])
        @revision = @workshop.shots.revision(@run[:shot_id], @run[:revision]) ||
          raise(Refused.new("The settings of this run are gone; run the shot again.", code: "unknown_run"))
        @document = @workshop.shots.read(@revision[:document])
      end

      # @return [Hash] frames computed, frames used again, seconds a frame
      def call
        poured = liquid&.call
        if poured && @document.of(:source).empty?
          poured
        else
          simulation.call.merge(poured ? {liquid: poured} : {})
        end
      rescue Refused => error
        # A frame that turned out to be damaged or gone is made again.
        raise unless %w[damaged no_frame].include?(error.code) && (@mended = @mended.to_i + 1) <= MENDED

        retry
      end

      # @param result [Hash] of {#call}
      def settle(result)
        @workshop.past_runs.draw(@run)
        # One that was under way when the hand let go has ended by now.
        @workshop.live_draft.tidy(@run[:shot_id])
        @workshop.room.keep_within
        result
      end

      private

      # @return [LiquidSimulation, nil]
      def liquid
        plan = @workshop.liquids.plan(@document, @run[:quality]) or return
        ahead = @document.of(:source).empty? ? 0 : (@task.payload["last"] || plan.frames.last) - plan.frames.first + 1
        LiquidSimulation.new(
          @task, plan, last: @task.payload["last"] || plan.frames.last, ahead: ahead, change: @revision[:label]
        ) do |frame, key, facts|
          @workshop.events.tell(
            "frame", @run[:shot_id], frame: frame, liquid: key, quality: @run[:quality], run: @run[:number],
            facts: facts
          )
        end
      end

      def simulation
        plan = @workshop.runs.plan_of(@document, @run[:quality])
        Simulation.new(
          @task, @document, plan, last: @task.payload["last"], views: @task.payload["views"], change: @revision[:label]
        ) do |frame, key, facts|
          @workshop.events.tell(
            "frame", @run[:shot_id], frame: frame, key: key, light: @workshop.views.light_key(@document, frame),
            quality: @run[:quality], run: @run[:number], facts: facts
          )
        end
      end
    end
  end
end
