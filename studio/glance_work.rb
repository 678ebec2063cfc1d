# frozen_string_literal: true

module Vumbral
  module Studio
    # Makes one picture to look at.
    class GlanceWork
      def initialize(task)
        @task = task
        @workshop = task.workshop
      end

      # @return [Hash] :name
      def call = {name: @workshop.glances.make(@task.shot, @task.payload)}
    end
  end
end
