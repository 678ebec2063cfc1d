# frozen_string_literal: true

module Vumbral
  module Demo
    # A vase of sculpted dust that ripples from drifting points, is blown off and forms again; beside it the same volume
    # as two skins at two thresholds.
    module ClayCloud
      ID = "clay-cloud"
      NAME = "Clay cloud"
      PRINT = 20

      module_function

      def meshes = {vase: Models.vase}

      # @param mesh [Hash{Symbol => String}] digests
      # @return [Array<Hash>]
      def edits(mesh)
        props(mesh) + steps + skins + Scene.set("general", "last" => 96) +
          Scene.set("sun-1", "strength" => 2.6, "aired" => true, "around" => -62.0, "height" => 16.0) +
          Scene.set(
            "sky", "model" => "clear", "hills" => 4.0, "strength" => 0.34, "colour" => [0.75, 0.86, 1.0], "haze" => 1.8,
            "fade" => 160.0
          ) +
          Scene.set("look", "thickness" => 58.0, "shadow" => 1.0, "forward" => 0.3, "colour" => [0.86, 0.62, 0.44]) +
          Scene.set("camera", "position" => [1.0, 0.86, 4.6], "target" => [0.72, 0.66, 0.0], "focal" => 42.0) +
          Scene.set("picture", "behind" => "sky", "exposure" => 0.15, "contrast" => 1.12)
      end

      def props(mesh)
        Scene.props(
          mesh, vase: ["Vase", {"position" => [-0.35, 0.09, 0.0], "scale" => [1.9, 1.9, 1.9], "shown" => false}]
        ) +
          [
            Scene.ground,
            Scene.add(
              "prop", "slab", "Slab", "shape" => "box", "size" => [3.5, 0.08, 0.95], "position" => [0.7, 0.04, 0.0],
              "colour" => [0.2, 0.185, 0.17], "uneven" => 0.3, "uneven_size" => 0.1
            )
          ]
      end

      def steps
        [
          Scene.add(
            "texture", "grit", "Grit", "what" => "noise", "basis" => "billows", "size" => 0.16, "octaves" => 5,
            "contrast" => 1.8, "turn" => [34.0, 20.0, 51.0], "drift" => [0.05, 0.11, 0.0], "loops" => 96
          ),
          Scene.add("sculpt", "dust", "Dust", "prop" => "vase", "voxel" => 0.011, "room" => 0.3),
          step(
            0, "waves", "Lets waves run", "what" => "ripples", "points" => "scattered", "spacing" => 0.3,
            "drift" => 0.08, "drift_rate" => 0.25, "waves" => 9.0, "wave_speed" => 0.18, "reach" => 0.38,
            "sum" => "add", "factor" => 0.022, "loops" => 96
          ),
          step(1, "body", "Makes density of the distance", "what" => "density", "inside" => 0.05, "outside" => 0.015),
          step(
            2, "blown", "Frays its edges", "what" => "fray", "size" => 0.22, "far" => 0.05, "octaves" => 5,
            "curl" => 0.5, "change" => 0.3, "loops" => 96
          ),
          step(
            3, "grain", "Takes a texture to it", "what" => "texture", "texture" => "grit", "sum" => "multiply",
            "factor" => 1.5, "offset" => 0.25
          ),
          step(
            4, "eaten", "Is eaten by noise", "what" => "erode", "size" => 0.3, "octaves" => 5, "soft" => 0.25,
            "change" => 0.2, "loops" => 96, "amount" => 0.25
          ),
          Scene.key("eaten", "amount", 1, 0.18),
          Scene.key("eaten", "amount", 52, 0.62),
          Scene.key("eaten", "amount", 96, 0.18)
        ]
      end

      def step(order, id, name, dials) = Scene.add("step", id, name, dials.merge("sculpt" => "dust", "order" => order))

      # The same volume where it is thin, and where it is dense.
      def skins
        [
          Scene.add(
            "prop", "outer", "Outer skin", "shape" => "sculpt", "surface_of" => "dust", "threshold" => 0.22,
            "least_part" => 0.004, "position" => [1.1, 0.0, 0.0], "colour" => [0.62, 0.29, 0.14]
          ),
          Scene.add("operation", "outer-smooth", "Smooths", "prop" => "outer", "what" => "smooth", "rounds" => 3),
          Scene.add(
            "prop", "inner", "Inner skin", "shape" => "sculpt", "surface_of" => "dust", "threshold" => 0.75,
            "least_part" => 0.002, "position" => [2.1, 0.0, 0.0], "colour" => [0.1, 0.32, 0.34]
          ),
          Scene.add("operation", "inner-smooth", "Smooths", "prop" => "inner", "what" => "smooth", "rounds" => 3)
        ]
      end
      private_class_method :props, :steps, :step, :skins
    end
  end
end
