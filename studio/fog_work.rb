# frozen_string_literal: true

module Vumbral
  module Studio
    # Makes fogs ready for the view.
    class FogWork
      def initialize(task)
        @task = task
        @workshop = task.workshop
      end

      # @return [Hash] :name
      def call = {name: @workshop.fog_views.make(@task.payload)}
    end
  end
end
