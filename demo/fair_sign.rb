# frozen_string_literal: true

module Vumbral
  module Demo
    # The letters of the fair, raised and still warm from the kiln, smoke in the evening sun between a lantern and a fence.
    module FairSign
      ID = "fair-sign"
      NAME = "Fair sign"
      PRINT = 64

      module_function

      def meshes = {}

      # @return [Array<Hash>]
      def edits(_mesh)
        props + operations + [Scene.ground,
          Scene.add("source", "smoulder", "Smoulder", "prop" => "sign", "from" => "surface", "skin" => 0.03, "smoke" => 3.4, "temperature" => 520.0,
            "breakup" => 0.85, "breakup_size" => 0.3, "breakup_speed" => 0.8),
          Scene.add("force", "breeze", "Breeze", "what" => "wind", "strength" => 0.55, "grip" => 0.5, "direction" => [1.0, 0.1, -0.25]),
          Scene.add("lamp", "glim", "Glim", "position" => [1.32, 0.33, 0.55], "strength" => 1.6, "colour" => [1.0, 0.5, 0.18])] +
          Scene.set("general", "last" => 72) +
          Scene.set("chamber", "position" => [0.25, 0.0, -0.1], "size" => [3.4, 2.3, 1.7], "voxel" => 0.025, "draft" => 1.6, "stir" => 0.12, "stir_size" => 0.3, "smoke_fade" => 0.12) +
          Scene.set("sun-1", "strength" => 5.0, "aired" => true, "around" => -68.0, "height" => 9.0) +
          Scene.set("sky", "model" => "clear", "strength" => 0.55, "colour" => [1.0, 1.0, 1.0], "haze" => 2.4, "fade" => 300.0) +
          Scene.set("look", "thickness" => 16.0, "colour" => [0.9, 0.89, 0.88], "shadow" => 0.9, "forward" => 0.45) +
          Scene.set("camera", "position" => [-1.25, 0.62, 3.5], "target" => [0.12, 0.72, 0.0], "focal" => 40.0, "aperture" => 5.6, "focus" => 3.7) +
          Scene.set("picture", "behind" => "sky", "exposure" => 0.15, "contrast" => 1.12)
      end

      def props
        board = {"shape" => "box", "colour" => [0.16, 0.1, 0.065], "uneven" => 0.3, "uneven_size" => 0.2}
        [Scene.add("prop", "sign", "Sign", "shape" => "words", "words" => "FAIR", "letter" => 0.62, "depth" => 0.13, "bevel" => 0.018, "bevel_steps" => 2, "apart" => 0.06,
          "position" => [0.0, 0.66, 0.0], "turn" => [0.0, 6.0, 0.0], "colour" => [0.42, 0.13, 0.055], "uneven" => 0.12, "uneven_size" => 0.08, "collider" => true),
          Scene.add("prop", "beam", "Beam", board.merge("size" => [2.3, 0.1, 0.2], "position" => [0.0, 0.3, 0.0], "turn" => [0.0, 6.0, 0.0])),
          Scene.add("prop", "posts", "Posts", board.merge("size" => [0.13, 0.52, 0.13], "position" => [0.0, 0.13, 0.0], "turn" => [0.0, 6.0, 0.0])),
          Scene.add("prop", "lantern", "Lantern", "shape" => "capsule", "radius" => 0.17, "tall" => 0.62, "sides" => 20, "position" => [1.32, 0.305, 0.55], "colour" => [0.3, 0.16, 0.09], "uneven" => 0.2, "uneven_size" => 0.1),
          Scene.add("prop", "fence", "Fence", board.merge("size" => [0.09, 0.8, 0.03], "position" => [0.2, 0.36, -2.1], "colour" => [0.2, 0.15, 0.1]))]
      end

      def operations
        [["posts", "makes", "what" => "copies", "spread" => "grid", "counts" => [2.0, 1.0, 1.0], "step" => [1.7, 1.0, 1.0], "size_vary" => 0.0, "turn_vary" => 0.0],
          ["lantern", "finer", "what" => "subdivide", "steps" => 1, "soft" => false, "order" => 0],
          ["lantern", "pierced", "what" => "pierce", "share" => 0.2, "seed" => 5, "order" => 1],
          ["lantern", "walled", "what" => "thicken", "thickness" => 0.02, "order" => 2],
          ["lantern", "smooth", "what" => "smooth", "rounds" => 12, "order" => 3],
          ["fence", "pales", "what" => "copies", "spread" => "grid", "counts" => [34.0, 1.0, 1.0], "step" => [0.17, 1.0, 1.0], "loose" => [0.03, 0.04, 0.03], "size_vary" => 0.06, "turn_vary" => 6.0]].map do |prop, name, dials|
          Scene.add("operation", "#{prop}-#{name}", {"makes" => "Makes many of it", "finer" => "Makes faces finer", "pierced" => "Takes faces away", "walled" => "Gives it thickness",
                                                     "smooth" => "Smooths", "pales" => "Makes many of it"}[name], dials.merge("prop" => prop))
        end
      end
      private_class_method :props, :operations
    end
  end
end
