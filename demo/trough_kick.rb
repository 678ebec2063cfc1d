# frozen_string_literal: true

module Vumbral
  module Demo
    # The water in a trough is thrown up within a bowl's rim, and later within a leaf, whose likeness rises.
    module TroughKick
      ID = "trough-kick"
      NAME = "Trough kick"
      PRINT = 11
      # A leaf's outline in its plane, from its stalk on; metres.
      LEAF = [[-0.34, 0.0], [-0.22, 0.1], [-0.05, 0.16], [0.12, 0.13], [0.26, 0.06], [0.38, 0.0]].freeze

      module_function

      def meshes = {leaf: leaf}

      # @return [Array<Hash>]
      def edits(mesh)
        trough + shapes(mesh) + water + Scene.set("general", "last" => 90) +
          Scene.set("sun-1", "strength" => 5.0, "aired" => true, "around" => -150.0, "height" => 26.0, "size" => 1.5) +
          Scene.set("sky", "model" => "clear", "hills" => 4.0, "strength" => 0.6, "haze" => 1.8, "fade" => 90.0) +
          Scene.set("camera", "position" => [0.85, 1.5, 2.45], "target" => [0.0, 0.72, 0.0], "focal" => 36.0,
            "refined" => true, "samples" => 9) +
          Scene.set("look", "colour" => [0.95, 0.96, 0.97], "thickness" => 6.0, "shadow" => 0.6) +
          Scene.set("picture", "behind" => "sky", "exposure" => 0.2, "contrast" => 1.22)
      end

      # A flat leaf, as thick as a hand, that lies.
      def leaf
        ring = LEAF + LEAF[1..-2].reverse.map { |x, z| [x, -z] }
        low, high = [-0.06, 0.06].map { |y| ring.map { |x, z| [x, y, z] } }
        count = ring.size
        sides = count.times.flat_map do |n|
          after = (n + 1) % count
          [n, after, count + n, after, count + after, count + n]
        end
        lids = (1..(count - 2)).flat_map { |n| [0, n + 1, n, count, count + n, count + n + 1] }
        Geometry::Mesh.from((low + high).flatten, sides + lids)
      end

      # Its floor stands in the water: what lies a hair below that is no floor but a mirror.
      def trough
        [Scene.ground,
          Scene.add("prop", "trough", "Trough", "shape" => "box", "size" => [1.72, 0.56, 1.52],
            "position" => [0.0, 0.2, 0.0], "colour" => [0.1, 0.15, 0.15], "shine" => 0.4, "rough" => 0.25,
            "uneven" => 0.3, "uneven_size" => 0.1),
          Scene.add("prop", "hollow", "Its hollow", "shape" => "box", "size" => [1.6, 0.56, 1.4],
            "position" => [0.0, 0.3, 0.0], "shown" => false),
          Scene.add("operation", "hewn", "Hollowed", "prop" => "trough", "what" => "combine", "how" => "cut",
            "with" => "hollow", "edge" => 0.018)]
      end

      def shapes(mesh)
        [Scene.add("prop", "rim", "Bowl's rim", "shape" => "torus", "radius" => 0.3, "tube" => 0.05,
          "position" => [0.0, 0.36, 0.0], "shown" => false)] +
          Scene.props(mesh, leaf: ["Leaf", {"position" => [0.0, 0.34, 0.0], "turn" => [0.0, 24.0, 0.0],
                                            "scale" => [1.25, 1.0, 1.25], "shown" => false}])
      end

      def water
        [Scene.add("liquid", "liquid", "Water", "size" => [1.66, 1.9, 1.46], "voxel" => 0.018, "draft" => 1.6,
          "line" => 0.38, "own" => 0.1, "spray" => true, "trapped" => 1500.0, "crest" => 800.0, "foam_life" => 2.0,
          "spray_dense" => 0.04),
          Scene.add("prop", "water", "Water's surface", "shape" => "liquid", "clear" => 1.0, "bends" => 1.33,
            "shine" => 0.5, "rough" => 0.03, "colour" => [0.02, 0.03, 0.03], "clear_colour" => [0.3, 0.72, 0.7],
            "clear_depth" => 0.9, "casts" => false),
          Scene.add("kick", "crown", "Crown", "prop" => "rim", "velocity" => [0.0, 4.0, 0.0], "along" => 0.7,
            "uneven" => 0.4, "uneven_size" => 0.07, "soft" => 0.02, "first" => 4, "last" => 5),
          Scene.add("kick", "likeness", "Likeness of the leaf", "prop" => "leaf", "velocity" => [0.0, 4.3, 0.0],
            "uneven" => 0.08, "uneven_size" => 0.06, "first" => 46, "last" => 48)]
      end
      private_class_method :leaf, :trough, :shapes, :water
    end
  end
end
