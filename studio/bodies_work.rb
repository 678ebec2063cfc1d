# frozen_string_literal: true

module Vumbral
  module Studio
    # Works out where the pieces of a shot's props fly.
    class BodiesWork
      def initialize(task)
        @task = task
      end

      def call
        @task.workshop.bodies.make(@task.workshop.shots.read(@task.payload["document"]))
        {}
      end
    end
  end
end
