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
        document = Shot::Document.load(asked["document"])
        bricks, head = @workshop.frames.read(asked["key"])
        renderer = Picture::Renderer.new(Picture::Renderer.settings(document, asked["frame"]), @workshop.assets)
        medium = Light::Medium.of(bricks, head, moving: renderer.moves?)
        sparks = Picture::Sparks.new(document, @workshop.assets)
        image = renderer.image(medium, asked["width"], asked["height"],
          sparks: sparks.any? ? sparks.at(asked["frame"]) : nil) { |done, count|
          if count > 1
            @task.progress(done, count,
              "exposing")
          end
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
