# frozen_string_literal: true

module Vumbral
  module Demo
    # The kiln draws well: smoke leaves its chimney and leans with the day.
    module KilnDraw
      ID = "kiln-draw"
      NAME = "Kiln draw"
      PRINT = 84

      module_function

      def meshes
        {kiln: Models.kiln, arch: Models.arch, vase: Models.vase, logs: Models.logs}
      end

      # @param mesh [Hash{Symbol => String}] digests
      # @return [Array<Hash>]
      def edits(mesh)
        Scene.props(mesh,
          kiln: ["Kiln", {"collider" => true, "colour" => [0.3, 0.19, 0.13]}],
          arch: ["Firing mouth", {"position" => [0.0, 0.0, 1.02], "colour" => [0.2, 0.17, 0.15]}],
          vase: ["Vase", {"position" => [1.5, 0.0, 0.75], "colour" => [0.36, 0.33, 0.27]}],
          logs: ["Firewood", {"position" => [-1.55, 0.0, 0.7], "turn" => [0.0, 64.0, 0.0], "colour" => [0.27, 0.19, 0.12]}]) +
          [Scene.add("prop", "flue", "Flue", "shape" => "cylinder", "radius" => 0.19, "tall" => 0.22, "position" => [0.0, 2.62, 0.0], "shown" => false),
            Scene.ground,
            Scene.add("source", "chimney-smoke", "Chimney smoke", "prop" => "flue", "smoke" => 7.0, "temperature" => 470.0, "breakup" => 0.75, "breakup_size" => 0.16,
              "breakup_speed" => 4.0),
            Scene.notch("chimney-smoke", "strength", 1, 0.35), Scene.notch("chimney-smoke", "strength", 22, 1.1),
            Scene.notch("chimney-smoke", "strength", 40, 0.6), Scene.notch("chimney-smoke", "strength", 58, 1.25),
            Scene.notch("chimney-smoke", "strength", 96, 0.8)] +
          Scene.set("general", "last" => 96) +
          Scene.set("chamber", "position" => [0.0, 2.2, 0.0], "size" => [2.4, 3.4, 2.4], "voxel" => 0.03, "draft" => 1.6, "stir" => 2.4, "stir_size" => 0.45,
            "curl_boost" => 2.5, "weight" => 0.12, "heat_half" => 0.9, "open_y0" => true) +
          Scene.set("sun-1", "strength" => 3.4, "around" => 118.0, "height" => 27.0, "colour" => [1.0, 0.82, 0.62]) +
          Scene.set("sky", "strength" => 0.5) + Scene.set("look", "thickness" => 11.0, "colour" => [0.74, 0.73, 0.73]) +
          Scene.set("camera", "position" => [1.8, 1.7, 11.2], "target" => [0.0, 2.42, 0.0], "focal" => 44.0) +
          Scene.set("picture", "background" => [0.02, 0.0255, 0.033]) +
          [Scene.add("lamp", "mouth-glow", "Mouth glow", "position" => [0.0, 0.35, 1.25], "strength" => 0.55, "colour" => [1.0, 0.42, 0.14])]
      end
    end
  end
end
