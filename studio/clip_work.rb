# frozen_string_literal: true

module Vumbral
  module Studio
    # Puts a small movie together.
    class ClipWork
      def initialize(task)
        @task = task
      end

      # @return [Hash] its name
      def call
        files, rate = @task.payload.values_at("files", "rate")
        {clip: @task.workshop.clips.make(files, rate) { |done| @task.progress(done, files.size, "writing the movie") }}
      end
    end
  end
end
