# frozen_string_literal: true

module Vumbral
  module Studio
    # Lights some frames for the browser.
    class LightingWork
      def initialize(task)
        @task = task
        @workshop = task.workshop
      end

      # @return [Hash] how many were lit
      def call
        document = @workshop.shots.read(@task.payload["document"])
        rows = @task.payload["rows"]
        rows.each_with_index do |(frame, key, light), n|
          @workshop.views.light(document, frame, key, light) unless @workshop.views.made?(key, light)
          @workshop.events.tell(
            "lit", @task.shot, frame: frame, key: key, light: light, quality: @task.payload["quality"],
            **@task.payload.slice("run").transform_keys(&:to_sym)
          )
          @task.progress(n + 1, rows.size, "lighting")
        end
        {lit: rows.size}
      end
    end
  end
end
