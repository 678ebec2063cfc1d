# frozen_string_literal: true

module Vumbral
  module Studio
    # Makes the small moving picture of a shot.
    class ReelWork
      def initialize(task)
        @task = task
        @workshop = task.workshop
      end

      # @return [Hash] :reel (its name)
      def call
        {reel: @workshop.reels.make(@task.shot) { |done, count| @task.progress(done, count, "moving picture") }}
      end
    end
  end
end
