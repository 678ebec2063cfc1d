# frozen_string_literal: true

module Vumbral
  module Demo
    # Cold mist wells up in a trough, spills over its rim and creeps across the yard.
    module MorningYard
      ID = "morning-yard"
      NAME = "Morning yard"
      PRINT = 88

      module_function

      def meshes
        {trough: Models.trough, vase: Models.vase, bowl: Models.bowl}
      end

      # @param mesh [Hash{Symbol => String}] digests
      # @return [Array<Hash>]
      def edits(mesh)
        Scene.props(mesh,
          trough: ["Trough", {"position" => [-0.35, 0.0, -0.25], "turn" => [0.0, 14.0, 0.0], "collider" => true,
                              "colour" => [0.2, 0.2, 0.19]}],
          vase: ["Vase", {"position" => [0.62, 0.0, 0.42], "scale" => [1.25, 1.25, 1.25], "collider" => true,
                          "colour" => [0.36, 0.25, 0.17]}],
          bowl: ["Bowl", {"position" => [-0.72, 0.0, 0.62], "collider" => true, "colour" => [0.15, 0.23, 0.25]}]) +
          [Scene.add("prop", "water", "Water", "shape" => "box", "size" => [1.34, 0.09, 0.36],
            "position" => [-0.35, 0.465, -0.25], "turn" => [0.0, 14.0, 0.0], "shown" => false),
            Scene.ground,
            Scene.add("source", "mist", "Mist", "prop" => "water", "smoke" => 5.0, "temperature" => 250.0,
              "breakup" => 0.5, "breakup_size" => 0.18, "breakup_speed" => 1.5),
            Scene.key("mist", "strength", 1, 0.5), Scene.key("mist", "strength", 30, 1.0),
            Scene.key("mist", "strength", 96, 0.7)] +
          Scene.set("general", "last" => 96) +
          Scene.set("chamber", "size" => [2.8, 0.95, 2.4], "voxel" => 0.025, "draft" => 1.5, "lift" => 1.0,
            "weight" => 3.0, "stir" => 0.08, "stir_size" => 0.3,
            "curl_boost" => 0.15, "heat_fade" => 0.14, "smoke_fade" => 0.07) +
          Scene.set("sun-1", "strength" => 5.5, "aired" => true, "around" => -118.0, "height" => 8.0) +
          Scene.set("sky", "model" => "clear", "strength" => 0.6, "colour" => [1.0, 1.0, 1.0], "haze" => 2.2,
            "fade" => 400.0) +
          Scene.set("look", "thickness" => 14.0, "colour" => [0.95, 0.95, 0.95], "shadow" => 0.8, "forward" => 0.5) +
          Scene.set("camera", "position" => [0.7, 0.78, 3.7], "target" => [-0.08, 0.42, 0.0], "focal" => 44.0) +
          Scene.set("picture", "behind" => "sky", "exposure" => 0.1, "contrast" => 1.08) +
          [Scene.add("lamp", "lantern", "Lantern", "position" => [1.0, 0.85, -0.5], "strength" => 1.1,
            "colour" => [1.0, 0.58, 0.26])]
      end
    end
  end
end
