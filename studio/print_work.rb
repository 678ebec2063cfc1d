# frozen_string_literal: true

module Vumbral
  module Studio
    # Makes one picture.
    class PrintWork
      # A picture of so many pixels is made in parts, where other machines help.
      LARGE = 1_500_000

      def initialize(task)
        @task = task
        @workshop = task.workshop
      end

      # @return [Hash] :seconds; elsewhere the picture itself lies in the folder
      def call
        began = Process.clock_gettime(Process::CLOCK_MONOTONIC)
        @png = Pixels.png(asked["rushes"] ? finished(document) : developed(document))
        @workshop.home.write(file, @png) if @workshop.elsewhere? || @task.compared?
        {seconds: (Process.clock_gettime(Process::CLOCK_MONOTONIC) - began).round(3)}
      end

      # Hangs it up. @param result [Hash] of {#call}
      def settle(result)
        @workshop.prints.keep(
          @task.shot, @png || File.binread(file), frame: asked["frame"], quality: asked["quality"], size: size,
          seconds: result.transform_keys(&:to_s)["seconds"].to_f, document: document, revision: asked["revision"]
        )
      ensure
        FileUtils.rm_rf(File.dirname(file)) if File.exist?(file)
      end

      private

      def asked = @task.payload

      def document = @document ||= @workshop.shots.read(asked["document"])

      def size = asked.values_at("width", "height")

      def file = @workshop.home.within("cuts", @task.id.to_s, "print.png")

      def exposing = ->(done, count) { @task.progress(done, count, "exposing") if count > 1 }

      def developed(document)
        return tiled(document) if size.reduce(:*) >= LARGE && @workshop.machines.any?

        renderer, image = @workshop.painting.image(document, asked["frame"], asked["key"], size, &exposing)
        renderer.develop(image)
      end

      # In strips, top to bottom, by all machines; the film sees all of it.
      def tiled(document)
        strips = Tiles.strips(size, Farm::Division.parts(@workshop, size[1] / Tiles::LEAST))
        parts =
          Farm::Division
            .new(@task)
            .call(
              "tile",
              strips.map { |strip| asked.slice("document", "frame", "key", "width", "height").merge("strip" => strip) }
            ) { |done| @task.progress(done, strips.size, "parts of the picture") }
        image = Tiles.together(size, parts.map { |part| @workshop.home.within(part.fetch("file")) })
        Picture::Renderer.new(@workshop.painting.settings(document, asked["frame"]), @workshop.assets).develop(image)
      end

      # With all layers.
      def finished(document)
        finishing = @workshop.finishing
        image =
          finishing.image(
            finishing.gathered(Rushes.from(@workshop, document, asked["rushes"]), asked["frame"], size, &exposing)
          )
        @workshop.finishing.developed(document, asked["frame"], image)
      end
    end
  end
end
