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
        bricks, head = @workshop.frames.read(key)
        picture = document.the(:picture)
        renderer = Picture::Renderer.new(Picture::Renderer.sharp(Picture::Renderer.settings(document, frame)),
          @workshop.assets)
        image = renderer.image(Light::Medium.of(bricks, head), WIDTH, [WIDTH * picture[:height] / picture[:width],
          16].max)
        {exposure: Picture::Meter.stops(renderer.light(image)).clamp(-10.0, 10.0)}
      end
    end
  end
end
