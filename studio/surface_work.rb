# frozen_string_literal: true

module Vumbral
  module Studio
    # Makes the surface of a sculpt at a frame.
    class SurfaceWork
      def initialize(task)
        @task = task
      end

      def call = {path: @task.workshop.surfaces.make(*@task.payload.values_at("key", "number"))}
    end
  end
end
