# frozen_string_literal: true

module Vumbral
  module Studio
    # Makes one strip of a large picture.
    class TileWork
      def initialize(task)
        @task = task
        @workshop = task.workshop
      end

      # @return [Hash] :file, in the data folder
      def call
        asked = @task.payload
        width, height = asked.values_at("width", "height")
        first, after = asked["strip"]
        document = @workshop.shots.read(asked["document"])
        settings = @workshop.painting.settings(document, asked["frame"])
        settings =
          settings.merge(
            "camera" => settings["camera"].merge("crop" => [0.0, first.fdiv(height), 1.0, after.fdiv(height)])
          )
        _, image =
          @workshop
            .painting
            .image(document, asked["frame"], asked["key"], [width, after - first], settings: settings) { @task.check }
        name = ["cuts", @task.id.to_s, "strip.half"]
        @workshop.home.write(@workshop.home.within(*name), Tiles.pack(image))
        {file: name.join("/")}
      end
    end
  end
end
