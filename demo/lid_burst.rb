# frozen_string_literal: true

module Vumbral
  module Demo
    # A charge inside the kiln throws its lid in pieces; what burns rolls out through the top.
    module LidBurst
      ID = "lid-burst"
      NAME = "Lid burst"
      PRINT = 21
      # What burns too rich leaves this behind.
      SOOT = [0.05, 0.045, 0.04].freeze

      module_function

      def meshes
        {kiln: Models.pot_kiln, lid: Models.lid, vase: Models.vase, bowl: Models.bowl}
      end

      # @param mesh [Hash{Symbol => String}] digests
      # @return [Array<Hash>]
      def edits(mesh)
        Scene.props(mesh,
          kiln: ["Kiln", {"collider" => true, "colour" => [0.29, 0.18, 0.12], "uneven" => 0.5, "uneven_size" => 0.16}],
          lid: ["Lid", {"position" => [0.0, 1.67, 0.0], "collider" => true, "colour" => [0.34, 0.22, 0.15],
                        "uneven" => 0.4, "uneven_size" => 0.1,
                        "breaks" => true, "break_frame" => 9, "pieces" => 16, "piece_seed" => 4,
                        "blast" => [0.12, 0.9, 0.05], "blast_reach" => 4.5, "blast_strength" => 13.0,
                        "spin" => 420.0}],
          vase: ["Vase", {"position" => [1.65, 0.0, 0.8], "colour" => [0.36, 0.33, 0.27]}],
          bowl: ["Bowl", {"position" => [-1.5, 0.0, 1.0], "colour" => [0.15, 0.23, 0.25]}]) +
          [Scene.add("prop", "charge", "Charge", "shape" => "sphere", "radius" => 0.26,
            "position" => [0.05, 0.75, 0.0], "shown" => false), Scene.ground,
            Scene.add("source", "blast", "Charge", "prop" => "charge", "smoke" => 5.0, "coloured" => true,
              "colour" => SOOT, "fuel" => 80.0, "temperature" => 1500.0, "push" => 26.0,
              "breakup" => 0.7, "breakup_size" => 0.2,
              "rough" => 6.0, "first" => 8, "last" => 18),
            Scene.add("source", "afterburn", "Afterburn", "prop" => "charge", "smoke" => 5.0, "coloured" => true,
              "colour" => SOOT, "fuel" => 8.0, "temperature" => 900.0, "breakup" => 0.95,
              "breakup_size" => 0.2, "first" => 19, "last" => 70),
            Scene.key("afterburn", "strength", 19, 1.0), Scene.key("afterburn", "strength", 60, 0.15),
            Scene.add("source", "dust", "Lid dust", "prop" => "lid", "from" => "surface", "skin" => 0.05,
              "smoke" => 3.0, "coloured" => true, "colour" => [0.66, 0.5, 0.36], "heats" => false,
              "carried" => 60.0, "breakup" => 0.95, "breakup_size" => 0.12,
              "first" => 9, "last" => 24),
            Scene.key("dust", "strength", 9, 1.2), Scene.key("dust", "strength", 24, 0.0),
            Scene.add("emitter", "debris", "Debris", "position" => [0.0, 1.6, 0.0], "start_size" => 0.35,
              "rate" => 150.0, "life" => 1.1, "first" => 9, "last" => 12, "speed" => 9.0, "spread" => 55.0,
              "drag" => 0.5,
              "glow" => 3.0, "width" => 0.014),
            Scene.add("source", "trails", "Debris trails", "from" => "particles", "emitter" => "debris",
              "point_size" => 0.045, "smoke" => 10.0, "coloured" => true, "colour" => [0.45, 0.4, 0.35],
              "temperature" => 420.0, "carried" => 20.0, "breakup" => 0.0, "first" => 9, "last" => 40)] +
          Scene.set("general", "last" => 90) +
          Scene.set("chamber", "position" => [0.0, 0.0, 0.0], "size" => [6.0, 6.4, 6.0], "voxel" => 0.048,
            "draft" => 1.8, "lift" => 0.8, "stir" => 1.8, "stir_size" => 0.5, "stir_octaves" => 3,
            "curl_boost" => 0.5, "front" => 60.0, "sooty" => true, "soot" => [0.035, 0.031, 0.028],
            "burn_rate" => 9.0, "burn_heat" => 1150.0, "burn_smoke" => 2.6, "burn_swell" => 3.0,
            "cooling" => 1800.0, "shield" => 14.0, "heat_fade" => 0.25, "weight" => 0.1, "substeps_least" => 2,
            "substeps_most" => 4, "accuracy" => 5e-4, "smoke_fade" => 0.1) +
          Scene.finer(2.5, 3.0) +
          Scene.set("look", "thickness" => 42.0, "colour" => [0.95, 0.95, 0.95], "fire" => 45.0,
            "fire_from" => 880.0, "fire_offset" => 450.0, "fire_rise" => 6.0, "glow" => 0.15) +
          Scene.set("sun-1", "strength" => 7.0, "aired" => true, "around" => 68.0, "height" => 19.0) +
          Scene.set("sky", "model" => "clear", "hills" => 4.0, "strength" => 0.85, "colour" => [1.0, 1.0, 1.0],
            "haze" => 1.9,
            "fade" => 100.0) +
          Scene.set("camera", "position" => [1.4, 0.8, 9.6], "target" => [0.05, 2.55, 0.0],
            "focal" => 34.0) + Scene.set("picture", "behind" => "sky", "exposure" => 0.05, "contrast" => 1.2)
      end
    end
  end
end
