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
        png = Pixels.png(asked["rushes"] ? finished(document, asked) : developed(document, asked))
        seconds = (Process.clock_gettime(Process::CLOCK_MONOTONIC) - began).round(3)
        @workshop.prints.keep(@task.shot, png, frame: asked["frame"], quality: asked["quality"],
          size: asked.values_at("width", "height"), seconds: seconds, document: document, revision: asked["revision"])
      end

      private

      def exposing = ->(done, count) { @task.progress(done, count, "exposing") if count > 1 }

      def developed(document, asked)
        renderer, image = @workshop.painting.image(document, asked["frame"], asked["key"], asked.values_at("width", "height"), &exposing)
        renderer.develop(image)
      end

      # With all layers.
      def finished(document, asked)
        finishing = @workshop.finishing
        image = finishing.image(finishing.gathered(Rushes.from(@workshop, document, asked["rushes"]), asked["frame"], asked.values_at("width", "height"), &exposing))
        @workshop.finishing.developed(document, asked["frame"], image)
      end
    end
  end
end
