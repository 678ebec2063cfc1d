# frozen_string_literal: true

module Vumbral
  module Studio
    # Draws what a step of a sculpt comes to, or counts the values before it.
    class SketchWork
      def initialize(task)
        @task = task
      end

      def call
        recipe, path, ends = @task.payload.values_at("recipe", "path", "ends")
        return @task.workshop.swatches.tally(recipe, ends) if ends

        @task.workshop.swatches.sketch(recipe, path)
        {path: path}
      end
    end
  end
end
