# frozen_string_literal: true

module Vumbral
  module Studio
    # Makes one picture.
    class PrintWork
      def initialize(task)
        @task = task
        @workshop = task.workshop
      end

      def call
        began = Process.clock_gettime(Process::CLOCK_MONOTONIC)
        asked = @task.payload
        document = @workshop.shots.read(asked["document"])
        renderer, image = @workshop.painting.image(document, asked["frame"], asked["key"],
          asked.values_at("width", "height")) { |done, count|
          @task.progress(done, count, "exposing") if count > 1
        }
        png = Pixels.png(renderer.develop(image))
        seconds = (Process.clock_gettime(Process::CLOCK_MONOTONIC) - began).round(3)
        @workshop.prints.keep(@task.shot, png, frame: asked["frame"], quality: asked["quality"],
          width: asked["width"], height: asked["height"],
          seconds: seconds, document: document)
      end
    end
  end
end
