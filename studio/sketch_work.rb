# frozen_string_literal: true

module Vumbral
  module Studio
    # Draws what a step of a sculpt comes to.
    class SketchWork
      def initialize(task)
        @task = task
      end

      def call
        recipe, path = @task.payload.values_at("recipe", "path")
        @task.workshop.swatches.sketch(recipe, path)
        {path: path}
      end
    end
  end
end
