# frozen_string_literal: true

module Vumbral
  module Demo
    # Two bowls, one in the other, go to pieces under a lamp; each piece leaves fire and ochre smoke behind it.
    module BrokenBowls
      ID = "broken-bowls"
      NAME = "Broken bowls"
      PRINT = 17
      OCHRE = [0.62, 0.4, 0.16].freeze
      BREAKS = {"breaks" => true, "break_frame" => 8, "blast_reach" => 3.0, "spin" => 300.0, "uneven" => 0.4,
                "uneven_size" => 0.08}.freeze

      module_function

      def meshes = {large: Models.bowl, small: Models.bowl}

      # @param mesh [Hash{Symbol => String}] digests
      # @return [Array<Hash>]
      def edits(mesh)
        Scene.props(mesh,
          large: ["Large bowl", {"position" => [0.0, 0.35, 0.0], "scale" => [1.5, 1.5, 1.5],
                                 "colour" => [0.3, 0.19, 0.12], "pieces" => 26, "piece_seed" => 3, "gather" => 0.7,
                                 "taken" => [1, 4, 9], "blast" => [0.05, 0.3, 0.0],
                                 "blast_strength" => 7.5}.merge(BREAKS)],
          small: ["Small bowl", {"position" => [0.0, 0.62, 0.0], "colour" => [0.15, 0.23, 0.25], "pieces" => 9,
                                 "piece_seed" => 8, "blast" => [0.0, 0.5, 0.05],
                                 "blast_strength" => 9.0}.merge(BREAKS)]) +
          [Scene.ground, trail("large-fire", "Large bowl's fire", "large", 16.0),
            trail("small-fire", "Small bowl's fire", "small", 24.0),
            Scene.add("lamp", "spot", "Spot", "as" => "spot", "position" => [1.2, 5.2, 2.2],
              "target" => [0.0, 1.0, 0.0], "cone" => 62.0, "strength" => 120.0, "radius" => 0.2)] +
          keys + Scene.set("general", "last" => 60) +
          Scene.set("chamber", "size" => [4.4, 3.2, 4.4], "voxel" => 0.03, "draft" => 1.7, "lift" => 0.8,
            "curl_boost" => 0.5, "stir_size" => 0.3, "burn_rate" => 7.0, "burn_heat" => 1150.0, "burn_smoke" => 2.2,
            "sooty" => true, "soot" => [0.05, 0.043, 0.036], "shield" => 12.0, "front" => 60.0, "cooling" => 2000.0,
            "heat_fade" => 0.3, "substeps_most" => 4) + Scene.finer(1.5, 3.0) +
          Scene.set("look", "thickness" => 45.0, "colour" => [0.92, 0.9, 0.87], "glow" => 0.18, "fire" => 120.0,
            "fire_from" => 880.0, "fire_offset" => 450.0, "fire_rise" => 6.0) +
          Scene.set("sun-1", "strength" => 0.6, "aired" => true, "around" => 120.0, "height" => -3.0) +
          Scene.set("sky", "model" => "clear", "strength" => 0.06, "haze" => 2.2, "fade" => 120.0) +
          Scene.set("camera", "position" => [0.6, 0.9, 6.4], "target" => [0.0, 1.15, 0.0], "focal" => 32.0) +
          Scene.set("picture", "behind" => "sky", "exposure" => 0.6)
      end

      def trail(id, name, bowl, fuel)
        Scene.add("source", id, name, "prop" => bowl, "from" => "surface", "skin" => 0.06, "smoke" => 1.6,
          "coloured" => true, "colour" => OCHRE, "fuel" => fuel, "temperature" => 1200.0, "carried" => 40.0,
          "breakup" => 0.6, "breakup_size" => 0.12, "first" => 8, "last" => 40)
      end

      # What feeds soon dies, each by keys of its own; time, turbulence and swelling calm down.
      def keys
        [["large-fire", "strength", 8, 1.0], ["large-fire", "strength", 26, 0.0], ["small-fire", "strength", 8, 1.2],
          ["small-fire", "strength", 18, 0.0], ["chamber", "time_scale", 8, 1.0], ["chamber", "time_scale", 30, 0.5],
          ["chamber", "stir", 8, 3.0], ["chamber", "stir", 40, 0.3], ["chamber", "burn_swell", 8, 2.5],
          ["chamber", "burn_swell", 24, 1.0], ["look", "bounces", 8, 6.0], ["look", "bounces", 40, 20.0]]
          .map { |row| Scene.key(*row) }
      end
    end
  end
end
