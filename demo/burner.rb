# frozen_string_literal: true

module Vumbral
  module Demo
    # Two flames side by side: one built from shapes and textures alone, with an inner and an outer cone, one simulated.
    module Burner
      ID = "burner"
      NAME = "Burner"
      PRINT = 24

      module_function

      def meshes = {}

      # @return [Array<Hash>]
      def edits(_mesh)
        props + flame + jet + Scene.set("general", "last" => 60) +
          Scene.set(
            "chamber", "position" => [0.55, 0.0, 0.0], "size" => [0.8, 2.0, 0.8], "voxel" => 0.011, "draft" => 1.6,
            "smoke_fade" => 1.5, "burn_rate" => 5.0, "burn_heat" => 1350.0, "burn_smoke" => 0.05, "burn_swell" => 1.4,
            "cooling" => 900.0, "heat_fade" => 0.6, "stir" => 1.2, "stir_size" => 0.14, "stir_speed" => 3.0,
            "curl_boost" => 0.3, "substeps_most" => 4
          ) + Scene.set("sun-1", "strength" => 0.9, "aired" => true, "around" => -118.0, "height" => 3.0) +
          Scene.set(
            "sky", "model" => "clear", "hills" => 4.0, "strength" => 0.22, "colour" => [0.7, 0.84, 1.0], "haze" => 2.0,
            "fade" => 160.0
          ) +
          Scene.set(
            "look", "thickness" => 8.0, "fire" => 7.0, "fire_from" => 850.0, "fire_offset" => 400.0, "fire_rise" => 5.0,
            "shadow" => 0.6
          ) + Scene.set("camera", "position" => [0.05, 0.72, 2.7], "target" => [0.03, 0.62, 0.0], "focal" => 42.0) +
          Scene.set("picture", "behind" => "sky", "exposure" => 0.6, "contrast" => 1.1)
      end

      def props
        pipe = {
          "shape" => "cylinder", "sides" => 40, "colour" => [0.1, 0.095, 0.09], "uneven" => 0.15, "uneven_size" => 0.05
        }
        [Scene.ground,
          Scene.add("prop", "mouth", "Mouth", pipe.merge("radius" => 0.085, "tall" => 0.32,
            "position" => [-0.5, 0.16, 0.0])),
          Scene.add("prop", "collar", "Collar", pipe.merge("shape" => "torus", "radius" => 0.09, "tube" => 0.02,
            "position" => [-0.5, 0.31, 0.0])),
          Scene.add("prop", "nozzle", "Nozzle", pipe.merge("radius" => 0.085, "tall" => 0.32,
            "position" => [0.55, 0.16, 0.0], "collider" => true)),
          # What the flames are made of: they stand on the mouth, so that they grow upwards alone.
          Scene.add("prop", "outer", "Outer cone", "shape" => "cone", "radius" => 0.12, "tall" => 1.0, "sides" => 40,
            "position" => [-0.5, 0.82, 0.0], "shown" => false),
          Scene.add("prop", "inner", "Inner cone", "shape" => "cone", "radius" => 0.06, "tall" => 0.34, "sides" => 40,
            "position" => [-0.5, 0.5, 0.0], "shown" => false)]
      end

      def flame
        [
          Scene.add(
            "texture", "tongues", "Tongues", "what" => "noise", "size" => 0.16, "stretch" => [1.0, 2.6, 1.0],
            "octaves" => 4, "contrast" => 1.6, "drift" => [0.0, 1.9, 0.0], "change" => 1.2, "loops" => 60
          ),
          Scene.add("sculpt", "flame", "Flame", "prop" => "outer", "voxel" => 0.009, "room" => 0.14),
          step(0, "body", "Makes density of the distance", "what" => "density", "inside" => 0.08, "outside" => 0.02),
          step(
            1, "flicker", "Frays its edges", "what" => "fray", "size" => 0.2, "far" => 0.05, "octaves" => 3,
            "curl" => 0.4, "change" => 4.0, "loops" => 60
          ),
          step(
            2, "licks", "Takes a texture to it", "what" => "texture", "texture" => "tongues", "sum" => "multiply",
            "factor" => 1.6, "offset" => 0.0
          ),
          step(3, "fuel", "Burning", "what" => "number", "channel" => "heat", "sum" => "multiply", "amount" => 1500.0),
          step(
            4, "bluish", "Inner flame", "what" => "number", "channel" => "heat", "sum" => "multiply", "amount" => 1.5,
            "mask" => "prop", "mask_prop" => "inner", "mask_soft" => 0.04
          ),
          step(5, "clear", "Hardly any smoke", "what" => "number", "sum" => "multiply", "amount" => 0.02)
        ]
      end

      def step(order, id, name, dials) = Scene.add("step", id, name, dials.merge("sculpt" => "flame", "order" => order))

      def jet
        [
          Scene.add(
            "prop", "gas", "Gas", "shape" => "cylinder", "radius" => 0.075, "tall" => 0.06,
            "position" => [0.55, 0.355, 0.0], "shown" => false
          ),
          Scene.add(
            "source", "jet", "Jet", "prop" => "gas", "smoke" => 0.0, "fuel" => 18.0, "temperature" => 1250.0,
            "along" => 2.4, "breakup" => 0.5, "breakup_size" => 0.06, "breakup_speed" => 6.0
          )
        ]
      end
      private_class_method :props, :flame, :step, :jet
    end
  end
end
