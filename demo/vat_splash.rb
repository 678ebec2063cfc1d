# frozen_string_literal: true

module Vumbral
  module Demo
    # What the lantern throws up as it goes into the vat, before black: for the finish of another shot to lay over its
    # own.
    module VatSplash
      ID = "vat-splash"
      NAME = "Vat splash"
      PRINT = 10
      # How high what plunges is at each frame.
      FALL = {1 => 0.95, 4 => 0.6, 7 => 0.25, 10 => 0.04, 16 => -0.1, 30 => -0.14}.freeze

      module_function

      def meshes = {}

      # @return [Array<Hash>]
      def edits(_mesh)
        plunge + water + light + Scene.set("general", "last" => 48) + Scene.set("sun-1", "strength" => 0.0) +
          Scene.set("sky", "model" => "even", "strength" => 0.02, "colour" => [0.5, 0.8, 0.9]) +
          Scene.set(
            "camera", "position" => [0.0, 1.38, 1.5], "target" => [0.0, 0.5, 0.0], "focal" => 46.0, "refined" => true,
            "samples" => 6
          ) + Scene.set("look", "colour" => [0.9, 0.95, 0.96], "thickness" => 8.0, "shadow" => 0.5) +
          Scene.set(
            "picture", "behind" => "colour", "background" => [0.0, 0.0, 0.0], "exposure" => 1.1, "contrast" => 1.2
          )
      end

      def plunge
        [
          Scene.add(
            "prop", "plunger", "What plunges", "shape" => "sphere", "radius" => 0.2, "scale" => [1.05, 1.25, 0.82],
            "turn" => [9.0, 31.0, 14.0], "collider" => true, "pictured" => false, "casts" => false
          )
        ] +
          FALL.map do |frame, height|
            Scene.key("plunger", "position", frame, [0.004 * frame - 0.06, height, 0.03 - 0.003 * frame]).merge(
              "ease" => "linear"
            )
          end
      end

      def water
        [
          Scene.add(
            "liquid", "liquid", "Glaze", "size" => [2.3, 1.3, 1.7], "voxel" => 0.0135, "draft" => 2.0, "band" => 6,
            "smooth" => 4, "line" => 0.4, "own" => 0.1, "spray" => true, "trapped" => 600.0, "crest" => 700.0,
            "foam_life" => 1.0, "spray_dense" => 0.03
          ),
          Scene.add(
            "prop", "water", "Its surface", "shape" => "liquid", "clear" => 0.85, "bends" => 1.36, "shine" => 0.5,
            "rough" => 0.13, "colour" => [0.03, 0.09, 0.085], "clear_colour" => [0.3, 0.75, 0.66], "clear_depth" => 0.3,
            "casts" => false
          )
        ]
      end

      def light
        [
          Scene.add(
            "lamp", "behind", "Behind", "as" => "spot", "position" => [0.15, 2.3, -2.0], "target" => [0.0, 0.5, 0.15],
            "radius" => 0.4, "cone" => 40.0, "soft" => 1.0, "strength" => 70.0, "colour" => [0.66, 0.95, 1.0]
          ),
          Scene.add(
            "lamp", "side", "From the side", "as" => "area", "position" => [-2.2, 1.5, 0.9],
            "target" => [0.0, 0.5, 0.0], "wide" => 0.8, "high" => 1.2, "strength" => 18.0, "colour" => [0.5, 0.9, 1.0]
          ),
          Scene.add(
            "lamp", "warm", "From within", "as" => "point", "position" => [0.0, 0.2, 0.3], "strength" => 0.35,
            "colour" => [1.0, 0.62, 0.3], "radius" => 0.1
          )
        ]
      end
      private_class_method :plunge, :water, :light
    end
  end
end
