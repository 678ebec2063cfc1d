# frozen_string_literal: true

module Vumbral
  module Demo
    # A glowing vase plunges into a trough: a crown of water, foam that stays, and steam from where it went in.
    module Quench
      ID = "quench"
      NAME = "Quench"
      PRINT = 15
      # How high it stands at each frame: let go, and caught by the water.
      FALL = {1 => 1.2, 4 => 1.12, 8 => 0.8, 11 => 0.42, 13 => 0.14, 16 => 0.06, 20 => 0.05}.freeze

      module_function

      def meshes = {vase: Models.vase}

      # @return [Array<Hash>]
      def edits(mesh)
        trough + pot(mesh) + water + steam + Scene.set("general", "last" => 72) +
          Scene.set("sun-1", "strength" => 1.6, "aired" => true, "around" => -125.0, "height" => 8.0, "size" => 2.0) +
          Scene.set("sky", "model" => "clear", "hills" => 4.0, "strength" => 0.34, "haze" => 2.0, "fade" => 90.0) +
          Scene.set("camera", "position" => [0.62, 1.3, 1.62], "target" => [-0.04, 0.46, 0.0], "focal" => 36.0,
            "refined" => true, "samples" => 9) +
          Scene.set("look", "colour" => [0.94, 0.95, 0.96], "thickness" => 20.0, "shadow" => 0.7) +
          Scene.set("picture", "behind" => "sky", "exposure" => 0.35, "contrast" => 1.15, "bloom" => 0.14)
      end

      def trough
        [Scene.ground,
          Scene.add("prop", "trough", "Trough", "shape" => "box", "size" => [1.72, 0.52, 1.12],
            "position" => [0.0, 0.2, 0.0], "colour" => [0.15, 0.1, 0.07], "uneven" => 0.6, "uneven_size" => 0.07),
          Scene.add("prop", "hollow", "Its hollow", "shape" => "box", "size" => [1.56, 0.52, 0.96],
            "position" => [0.0, 0.27, 0.0], "shown" => false),
          Scene.add("operation", "hewn", "Hewn out", "prop" => "trough", "what" => "combine", "how" => "cut",
            "with" => "hollow", "edge" => 0.016)]
      end

      # It glows, brighter here and darker there, and lights what is around it.
      def pot(mesh)
        dials = {"turn" => [0.0, 0.0, 7.0], "scale" => [0.82, 0.82, 0.82], "collider" => true, "friction" => 0.2,
                 "colour" => [0.07, 0.03, 0.02], "light_colour" => [1.0, 0.26, 0.045], "lit_by" => "ember",
                 "casts" => false}
        [Scene.add("texture", "ember", "Ember", "what" => "noise", "basis" => "billows", "size" => 0.2, "octaves" => 4,
          "contrast" => 1.5)] +
          Scene.props(mesh, vase: ["Glowing vase", dials]) +
          Scene.set("ember", "follows" => "vase") +
          FALL.map { |frame, y| Scene.key("vase", "position", frame, [0.0, y, 0.0]).merge("ease" => "linear") } +
          {1 => 5.0, 12 => 4.6, 22 => 1.6, 60 => 0.1}.map { |frame, light| Scene.key("vase", "light", frame, light) } +
          [Scene.add("lamp", "glow", "Its glow", "position" => [0.0, 0.28, 0.0], "leader" => "vase", "radius" => 0.15,
            "colour" => [1.0, 0.42, 0.12])] +
          {1 => 1.2, 12 => 1.1, 22 => 0.5, 60 => 0.03}.map { |frame, lit| Scene.key("glow", "strength", frame, lit) }
      end

      def water
        [Scene.add("liquid", "liquid", "Water", "size" => [1.62, 1.5, 1.02], "voxel" => 0.016, "draft" => 1.5,
          "line" => 0.42, "own" => 0.15, "spray" => true, "trapped" => 1500.0, "crest" => 1500.0, "foam_life" => 2.5,
          "spray_dense" => 0.05),
          Scene.add("prop", "water", "Water's surface", "shape" => "liquid", "clear" => 0.5, "bends" => 1.33,
            "shine" => 0.5, "rough" => 0.03, "colour" => [0.02, 0.025, 0.02], "clear_colour" => [0.42, 0.62, 0.5],
            "clear_depth" => 0.45, "casts" => false)]
      end

      # It comes off the water wherever that is near the vase, as long as that is hot.
      def steam
        [Scene.add("source", "steam", "Steam", "prop" => "water", "from" => "surface", "skin" => 0.05, "smoke" => 7.0,
          "temperature" => 430.0, "breakup" => 0.9, "breakup_size" => 0.12, "breakup_speed" => 5.0, "first" => 12),
          Scene.add("map", "about", "Near the vase", "to" => "steam", "what" => "near", "near" => "vase",
            "reach" => 0.22, "soft" => 0.9, "heats" => true)] +
          {12 => 1100.0, 20 => 800.0, 30 => 680.0, 60 => 420.0}.map { |frame, k| Scene.key("about", "hot", frame, k) } +
          Scene.set("chamber", "size" => [1.8, 2.0, 1.3], "position" => [0.0, 0.25, 0.0], "voxel" => 0.022,
            "draft" => 1.7, "smoke_fade" => 0.9, "stir" => 0.9, "stir_size" => 0.25, "weight" => 0.02)
      end
      private_class_method :trough, :pot, :water, :steam
    end
  end
end
