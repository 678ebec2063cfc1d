# frozen_string_literal: true

module Vumbral
  module Studio
    # Measures the light of a frame with a small picture.
    class MeterWork
      WIDTH = 160

      def initialize(task)
        @task = task
        @workshop = task.workshop
      end

      # @return [Hash] :exposure in stops
      def call
        document = @workshop.shots.document(@task.shot)
        frame = @task.payload["frame"]
        _, key = @workshop.runs.best(@task.shot, frame)
        picture = document.the(:picture)
        size = [WIDTH, [WIDTH * picture[:height] / picture[:width], 16].max]
        renderer, image = @workshop.painting.image(document, frame, key, size, sharp: true, glow: false)
        {exposure: Picture::Meter.stops(renderer.light(image)).clamp(-10.0, 10.0)}
      end
    end
  end
end
