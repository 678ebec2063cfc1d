# frozen_string_literal: true

module Vumbral
  module Studio
    # Starters with a liquid.
    module Waters
      ALL = %w[plunge kick pour fill].freeze
      # What is like water.
      WATER = {"clear" => 1.0, "bends" => 1.33, "shine" => 0.5, "rough" => 0.03, "colour" => [0.02, 0.03, 0.03],
               "clear_colour" => [0.3, 0.72, 0.7], "clear_depth" => 0.9, "casts" => false}.freeze
      CLAY = {"colour" => [0.16, 0.085, 0.05], "uneven" => 0.25, "uneven_size" => 0.2}.freeze
      GLAZE = {"colour" => [0.1, 0.16, 0.16], "shine" => 0.4, "rough" => 0.25, "uneven" => 0.3, "uneven_size" => 0.1}.freeze

      module_function

      # @param thing [Hash, nil] an edit that adds a mesh which was brought along: it takes the place of the starter's
      #   own
      # @return [Array<Hash>] edits
      def edits(starter, thing) = send(starter, thing)

      # Seen from above, against the sun, water glitters.
      def against_the_sun
        set("sun-1", "around" => -150.0, "height" => 32.0) + set("picture", "exposure" => 0.2, "contrast" => 1.25, "bloom" => 0.02)
      end

      def plunge(thing)
        ball =
          thing ||
          add(
            "prop", "Ball", "prop-1", "shape" => "sphere", "radius" => 0.14, "colour" => [0.42, 0.15, 0.07],
            "shine" => 0.4, "rough" => 0.3
          )
        foot = thing ? thing["dials"]["position"] : [0.0, 0.0, 0.0]
        fall = {1 => 1.25, 4 => 1.17, 8 => 0.83, 11 => 0.42, 13 => 0.18, 16 => 0.15}
        [with(ball, "collider" => true)] + keyed(fall, foot) + trough([1.7, 0.56, 1.2]) +
          water([1.6, 1.5, 1.1], 0.4, "voxel" => 0.018, "draft" => 1.7) + foam + against_the_sun + frames(60) +
          camera([0.75, 1.3, 1.75], [0.0, 0.47, 0.0])
      end

      def kick(thing)
        rim =
          thing ||
          add(
            "prop", "Bowl's rim", "prop-1", "shape" => "torus", "radius" => 0.3, "tube" => 0.05,
            "position" => [0.0, 0.34, 0.0]
          )
        [with(rim, "shown" => false)] + trough([1.7, 0.56, 1.7]) +
          water([1.6, 1.7, 1.6], 0.4, "voxel" => 0.02, "draft" => 1.6) +
          [
            add(
              "kick", "Kick", "kick", "prop" => "prop-1", "velocity" => [0.0, 4.2, 0.0], "along" => 0.6,
              "uneven" => 0.35, "uneven_size" => 0.07, "soft" => 0.03, "first" => 4, "last" => 5
            )
          ] + foam + set("liquid", "trapped" => 300.0, "crest" => 150.0) + against_the_sun + frames(60) +
          camera([0.95, 1.35, 2.3], [0.0, 0.62, 0.0])
      end

      def pour(thing)
        bowl = thing ? [with(thing, "collider" => true, "body" => "shell", "shell" => 2.5)] : bowl()
        bowl +
          [
            add(
              "prop", "Spout", "spout", "shape" => "sphere", "radius" => 0.06, "position" => [-0.16, 1.12, 0.03],
              "shown" => false
            ),
            add(
              "inflow", "Stream", "inflow", "prop" => "spout", "velocity" => [0.3, -0.8, 0.0], "rough" => 0.1,
              "breakup" => 0.12, "breakup_size" => 0.05, "last" => 80
            )
          ] +
          water(
            [1.5, 1.3, 1.2], 0.0, "voxel" => 0.014, "draft" => 1.6, "pool" => false, "open_x0" => true,
            "open_x1" => true, "open_z0" => true, "open_z1" => true, "smooth" => 4
          ) + frames(96) + camera([0.62, 1.42, 1.72], [-0.05, 0.45, 0.0])
      end

      def fill(thing)
        vase =
          thing ||
          add(
            "prop", "Vase", "prop-1", "shape" => "capsule", "radius" => 0.3, "tall" => 1.1,
            "position" => [0.0, 0.58, 0.0], "colour" => [0.5, 0.5, 0.5]
          )
        jets = [[-0.1, 0.3, 0.02, 0.55], [0.12, 0.42, -0.05, -0.45]].each_with_index.flat_map do |(x, y, z, turn), n|
          [
            add(
              "prop", "Mouth #{n + 1}", "mouth-#{n + 1}", "shape" => "sphere", "radius" => 0.06,
              "position" => [x, y, z], "shown" => false, "shake" => [0.06, 0.05, 0.06], "shake_speed" => 5.0
            ),
            add(
              "inflow", "Jet #{n + 1}", "inflow-#{n + 1}", "prop" => "mouth-#{n + 1}",
              "velocity" => [turn, 1.5, 0.4 * turn], "rough" => 0.25, "breakup" => 0.2, "breakup_size" => 0.04,
              "breakup_speed" => 8.0, "first" => 1 + 14 * n
            )
          ]
        end
        [with(vase, "opacity" => 0.12, "shine" => 0.5, "rough" => 0.1)] + jets +
          water(
            [0.8, 1.3, 0.8], 0.0, "voxel" => 0.014, "draft" => 1.6, "pool" => false, "tank" => "prop-1",
            "open_y1" => false, "smooth" => 8, "round" => 0.75, "sheets" => 2.0
          ) + frames(96) + camera([0.5, 0.95, 2.5], [0.0, 0.6, 0.0])
      end

      # Spray and foam, as white as they are.
      def foam =
        set("liquid", "spray" => true) +
          set("look", "colour" => [0.95, 0.96, 0.97], "thickness" => 7.0, "shadow" => 0.6)

      # Walls about the inside of a box that has no lid.
      def trough(size)
        width, tall, depth = size
        [
          add(
            "prop", "Trough", "trough",
            {"shape" => "box", "size" => size, "position" => [0.0, 0.5 * tall - 0.05, 0.0]}.merge(GLAZE)
          ),
          add(
            "prop", "Its hollow", "hollow", "shape" => "box", "size" => [width - 0.12, tall, depth - 0.12],
            # Its floor stands in the water: what lies a hair below that is no floor but a mirror.
            "position" => [0.0, 0.5 * tall + 0.02, 0.0], "shown" => false
          ),
          add(
            "operation", "Hollowed", "hollowed", "prop" => "trough", "what" => "combine", "how" => "cut",
            "with" => "hollow", "edge" => 0.02
          )
        ]
      end

      # Half of a hollow ball that stands on the ground.
      def bowl
        [
          add(
            "prop",
            "Bowl",
            "prop-1",
            {
              "shape" => "sphere", "radius" => 0.42, "divisions" => 5, "position" => [0.0, 0.4, 0.0], "collider" => true
            }.merge(CLAY, "shine" => 0.3, "rough" => 0.35)
          ),
          add(
            "prop", "Its hollow", "hollow", "shape" => "sphere", "radius" => 0.36, "divisions" => 5,
            "position" => [0.0, 0.4, 0.0], "shown" => false
          ),
          add(
            "prop", "Above it", "above", "shape" => "box", "size" => [1.2, 0.6, 1.2], "position" => [0.0, 0.75, 0.0],
            "shown" => false
          ),
          add(
            "operation", "Hollowed", "hollowed", "prop" => "prop-1", "what" => "combine", "how" => "cut",
            "with" => "hollow", "edge" => 0.02
          ),
          add(
            "operation", "Open above", "opened", "prop" => "prop-1", "what" => "combine", "how" => "cut",
            "with" => "above", "edge" => 0.02, "order" => 1
          )
        ]
      end

      # A liquid with its surface.
      def water(size, line, dials)
        [
          add("liquid", "Water", "liquid", {"size" => size, "line" => line}.merge(dials)),
          add("prop", "Water's surface", "water", {"shape" => "liquid"}.merge(WATER))
        ]
      end

      def keyed(heights, foot)
        heights.map do |frame, height|
          {
            "do" => "key", "node" => "prop-1", "dial" => "position", "frame" => frame,
            "value" => [foot[0], foot[1] + height, foot[2]], "ease" => "linear"
          }
        end
      end

      def with(edit, dials) = edit.merge("dials" => edit["dials"].merge(dials))

      def add(kind, name, id, dials = {}) =
        {"do" => "add", "kind" => kind, "name" => name, "id" => id, "dials" => dials}

      def set(node, dials) =
        dials.map { |dial, value| {"do" => "set", "node" => node, "dial" => dial, "value" => value} }

      def frames(last) = set("general", "last" => last) + set("camera", "refined" => true, "samples" => 9)

      def camera(place, target) = set("camera", "position" => place, "target" => target)
      private_class_method :against_the_sun,
        :plunge,
        :kick,
        :pour,
        :fill,
        :foam,
        :trough,
        :bowl,
        :water,
        :keyed,
        :with,
        :add,
        :set,
        :frames,
        :camera
    end
  end
end
