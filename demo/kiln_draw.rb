# frozen_string_literal: true

module Vumbral
  module Demo
    # The kiln draws well: fire in its mouth, sparks, and smoke that leaves the chimney and leans with the day.
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
        Scene.props(
          mesh,
          kiln: ["Kiln", {"collider" => true, "colour" => [0.3, 0.19, 0.13]}],
          arch: ["Firing mouth", {"position" => [0.0, 0.0, 1.02], "colour" => [0.2, 0.17, 0.15]}],
          vase: ["Vase", {"position" => [1.5, 0.0, 0.75], "colour" => [0.36, 0.33, 0.27]}],
          logs: [
            "Firewood", {"position" => [-1.55, 0.0, 0.7], "turn" => [0.0, 64.0, 0.0], "colour" => [0.27, 0.19, 0.12]}
          ]
        ) +
          [
            Scene.add(
              "prop", "flue", "Flue", "shape" => "cylinder", "radius" => 0.19, "tall" => 0.22,
              "position" => [0.0, 2.62, 0.0], "shown" => false
            ),
            Scene.add(
              "prop", "embers", "Embers", "shape" => "box", "size" => [0.5, 0.12, 0.26],
              "position" => [0.0, 0.08, 1.08], "colour" => [0.06, 0.045, 0.04]
            ),
            Scene.ground,
            Scene.add(
              "source", "firebox", "Firebox", "prop" => "embers", "smoke" => 0.0, "fuel" => 18.0,
              "temperature" => 1250.0, "breakup" => 0.9, "breakup_size" => 0.16, "breakup_speed" => 5.0
            ),
            Scene.add(
              "force", "yard-wind", "Yard wind", "what" => "push", "strength" => 0.5, "direction" => [1.0, 0.0, -0.2],
              "falloff" => "box", "position" => [0.0, 4.4, 0.0], "extent" => [8.0, 3.4, 8.0], "soft" => 0.5
            ),
            Scene.key("yard-wind", "strength", 1, 0.1),
            Scene.key("yard-wind", "strength", 50, 0.45),
            Scene.key("yard-wind", "strength", 96, 0.25),
            Scene.add(
              "emitter", "sparks", "Sparks", "prop" => "embers", "rate" => 26.0, "life" => 1.2, "speed" => 1.8,
              "spread" => 40.0, "drag" => 0.8, "fall" => -0.15, "stir" => 5.0, "stir_size" => 0.35, "glow" => 5.0,
              "width" => 0.009
            ),
            Scene.add(
              "source", "chimney-smoke", "Chimney smoke", "prop" => "flue", "smoke" => 8.0, "temperature" => 560.0,
              "breakup" => 0.75, "breakup_size" => 0.16, "breakup_speed" => 4.0
            ),
            Scene.key("chimney-smoke", "strength", 1, 0.35),
            Scene.key("chimney-smoke", "strength", 22, 1.1),
            Scene.key("chimney-smoke", "strength", 40, 0.6),
            Scene.key("chimney-smoke", "strength", 58, 1.25),
            Scene.key("chimney-smoke", "strength", 96, 0.8)
          ] + Scene.set("general", "last" => 96) +
          Scene.set(
            "chamber", "position" => [0.7, 0.0, 0.2], "size" => [4.6, 6.0, 3.2], "voxel" => 0.034, "draft" => 2.0,
            "smoke_fade" => 0.17, "accuracy" => 5e-4, "stir" => 0.77, "stir_size" => 0.4, "stir_speed" => 2.0,
            "curl_boost" => 0.5, "weight" => 0.12, "heat_fade" => 0.77, "burn_rate" => 6.0, "burn_heat" => 1350.0,
            "burn_smoke" => 0.12, "burn_swell" => 1.5, "cooling" => 1000.0, "substeps_most" => 3
          ) + Scene.finer(1.6, 4.0) +
          Scene.set("sun-1", "strength" => 2.2, "aired" => true, "around" => 112.0, "height" => 2.5) +
          Scene.set(
            "sky", "model" => "clear", "hills" => 4.0, "strength" => 0.2, "colour" => [1.0, 1.0, 1.0], "haze" => 2.2,
            "fade" => 130.0
          ) +
          Scene.set(
            "look", "thickness" => 24.0, "colour" => [0.8, 0.79, 0.78], "fire" => 14.0, "fire_from" => 850.0,
            "fire_offset" => 400.0, "fire_rise" => 5.0, "glow" => 0.6
          ) + Scene.set("camera", "position" => [1.8, 1.7, 11.2], "target" => [0.0, 2.2, 0.0], "focal" => 42.0) +
          Scene.set("picture", "behind" => "sky", "exposure" => 0.4)
      end
    end
  end
end
