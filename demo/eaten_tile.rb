# frozen_string_literal: true

module Vumbral
  module Demo
    # A roof tile carved by a cellular pattern that drifts through it and loops: a distance, a density, divided,
    # smoothed, made a skin; with a hollow as a thumb leaves it.
    module EatenTile
      ID = "eaten-tile"
      NAME = "Eaten tile"
      PRINT = 12

      module_function

      def meshes = {}

      # @return [Array<Hash>]
      def edits(_mesh)
        props + steps + skin + Scene.set("general", "last" => 48) +
          Scene.set("sun-1", "strength" => 3.4, "aired" => true, "around" => -60.0, "height" => 30.0) +
          Scene.set(
            "sky", "model" => "clear", "hills" => 4.0, "strength" => 0.3, "colour" => [0.75, 0.86, 1.0], "haze" => 1.8,
            "fade" => 160.0
          ) + Scene.set("camera", "position" => [0.62, 0.62, 1.75], "target" => [0.0, 0.34, 0.0], "focal" => 50.0) +
          Scene.set("picture", "behind" => "sky", "exposure" => 0.0, "contrast" => 1.12)
      end

      def props
        [
          Scene.ground,
          Scene.add(
            "prop", "tile", "Tile", "shape" => "box", "size" => [0.62, 0.6, 0.075], "position" => [0.0, 0.33, 0.0],
            "turn" => [-14.0, 18.0, 0.0], "shown" => false
          ),
          Scene.add(
            "prop", "thumb", "Thumb", "shape" => "capsule", "radius" => 0.075, "tall" => 0.26,
            "position" => [0.14, 0.44, 0.105], "turn" => [58.0, 18.0, 20.0], "shown" => false
          ),
          Scene.add(
            "prop", "block", "Block", "shape" => "box", "size" => [0.9, 0.06, 0.4], "position" => [0.0, 0.03, 0.02],
            "turn" => [0.0, 18.0, 0.0], "colour" => [0.17, 0.15, 0.13], "uneven" => 0.3, "uneven_size" => 0.08
          )
        ]
      end

      def steps
        [
          Scene.add(
            "texture", "glaze", "Glaze", "what" => "cells", "measure" => "nearest", "size" => 0.092, "octaves" => 2,
            "drift" => [0.184, 0.046, 0.0], "loops" => 48
          ),
          Scene.add("sculpt", "clay", "Clay", "prop" => "tile", "voxel" => 0.006, "room" => 0.05, "shown" => false),
          step(
            0, "hollow", "Joins or cuts with another", "what" => "combine", "with" => "prop", "other" => "thumb",
            "how" => "cut", "blend" => 0.03
          ),
          step(
            1, "body", "Makes density of the distance", "what" => "density", "inside" => 0.035, "outside" => 0.004,
            "whole" => 0.5
          ),
          step(
            2, "divided", "Takes a texture to it", "what" => "texture", "texture" => "glaze", "sum" => "divide",
            "factor" => 1.05, "offset" => 0.1
          ),
          step(3, "specks", "Takes specks out", "what" => "median"),
          step(4, "soft", "Blurs", "what" => "blur", "radius" => 0.012)
        ]
      end

      def skin
        [
          Scene.add(
            "prop", "eaten", "Eaten tile", "shape" => "sculpt", "surface_of" => "clay", "threshold" => 0.68,
            "least_part" => 0.002, "colour" => [0.42, 0.2, 0.12], "uneven" => 0.2, "uneven_size" => 0.03
          ),
          Scene.add("operation", "smooth", "Smooths", "prop" => "eaten", "what" => "smooth", "rounds" => 4)
        ]
      end

      def step(order, id, name, dials) = Scene.add("step", id, name, dials.merge("sculpt" => "clay", "order" => order))
      private_class_method :props, :steps, :skin, :step
    end
  end
end
