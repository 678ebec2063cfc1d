# frozen_string_literal: true

module Vumbral
  module Demo
    # A look down a flue: a spiral of one long coil wrapped in haze, lamps of two colours within it.
    module DownTheFlue
      ID = "down-the-flue"
      NAME = "Down the flue"
      PRINT = 30
      # Lamps along the flue: how deep, what colour, how strong, how far off its middle.
      LAMPS = [[-1.4, [1.0, 0.36, 0.08], 1.3, [0.3, 0.2]], [-3.2, [0.12, 0.42, 1.0], 2.4, [-0.35, 0.15]],
        [-5.4, [1.0, 0.24, 0.06], 3.4, [0.2, -0.35]], [-8.2, [0.16, 0.5, 1.0], 5.0, [-0.1, 0.3]],
        [-10.6, [1.0, 0.5, 0.2], 9.0, [0.0, 0.0]]].freeze

      module_function

      def meshes = {}

      # @return [Array<Hash>]
      def edits(_meshes)
        [coil] + steps + lamps + Scene.set("general", "last" => 96) + Scene.set("sun-1", "strength" => 0.0) +
          Scene.set("sky", "strength" => 0.012, "colour" => [0.3, 0.45, 1.0]) +
          Scene.set("look", "thickness" => 55.0, "shadow" => 0.9, "forward" => 0.25, "colour" => [0.9, 0.86, 0.82]) +
          Scene.set("camera", "position" => [0.12, 0.05, 1.1], "target" => [0.0, 0.0, -4.0], "focal" => 24.0) +
          [
            Scene.key("camera", "position", 1, [0.12, 0.05, 1.1]),
            Scene.key("camera", "position", 96, [-0.05, 0.0, -0.4])
          ] + Scene.set("picture", "behind" => "colour", "exposure" => 1.0, "contrast" => 1.15)
      end

      def coil =
        Scene.add(
          "prop", "coil", "Coil", "shape" => "coil", "radius" => 0.72, "top_radius" => 0.72, "tall" => 11.6,
          "turns" => 7.5, "tube" => 0.12, "uneven" => 0.2, "position" => [0.0, 0.0, -5.8], "turn" => [-90.0, 0.0, 0.0],
          "shown" => false
        )

      def steps
        [
          Scene.add(
            "texture", "soot", "Soot", "what" => "noise", "basis" => "billows", "size" => 0.5, "octaves" => 5,
            "contrast" => 1.7, "drift" => [0.0, 0.0, 0.25], "change" => 0.2, "loops" => 96
          ),
          Scene.add("sculpt", "haze", "Haze", "prop" => "coil", "voxel" => 0.021, "room" => 0.3),
          step(0, "around", "Makes density of the distance", "what" => "density", "inside" => 0.05, "outside" => 0.11),
          step(
            1, "frayed", "Frays its edges", "what" => "fray", "size" => 0.3, "far" => 0.08, "octaves" => 6,
            "curl" => 0.8, "change" => 0.25, "loops" => 96
          ),
          step(
            2, "torn", "Takes a texture to it", "what" => "texture", "texture" => "soot", "sum" => "multiply",
            "factor" => 1.5, "offset" => 0.05
          ),
          step(3, "held", "Keeps what lies between", "what" => "limit", "low" => 0.04, "high" => 1.0),
          step(
            4, "eaten", "Is eaten by noise", "what" => "erode", "size" => 0.14, "octaves" => 6, "amount" => 0.34,
            "soft" => 0.12, "change" => 0.2, "loops" => 96
          )
        ]
      end

      def step(order, id, name, dials) = Scene.add("step", id, name, dials.merge("sculpt" => "haze", "order" => order))

      def lamps
        LAMPS.each_with_index.map do |(deep, colour, strength, (x, y)), n|
          Scene.add(
            "lamp", "lamp-#{n + 1}", "Lamp #{n + 1}", "position" => [x, y, deep], "colour" => colour,
            "strength" => strength
          )
        end
      end
      private_class_method :coil, :steps, :step, :lamps
    end
  end
end
