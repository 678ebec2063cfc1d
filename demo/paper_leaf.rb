# frozen_string_literal: true

module Vumbral
  module Demo
    # A paper leaf of the fair's garland: fire runs over it from its tip, it curls and chars behind the glowing edge,
    # and smokes only where it is young.
    module PaperLeaf
      ID = "paper-leaf"
      NAME = "Paper leaf"
      PRINT = 78
      # The outline, as somebody cut it: a stem, two lobes, a tip.
      OUTLINE = <<~SVG
        <svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 320">
          <path d="M96 318 L97 262 C70 268 44 258 28 236 C38 236 46 232 50 226 C28 214 14 190 12 160 C22 166 32 166 38 160
            C26 132 28 98 46 70 C50 80 56 84 62 82 C66 52 80 24 104 2 C126 26 138 54 140 84 C146 86 152 82 156 72
            C172 102 174 134 162 162 C168 168 178 168 188 162 C186 192 172 216 150 228 C154 234 162 238 172 238
            C156 260 130 270 104 263 L105 318 Z"/>
        </svg>
      SVG

      module_function

      def meshes = {}

      def drawings = {leaf: OUTLINE}

      # @param brought [Hash{Symbol => String}] digests
      # @return [Array<Hash>]
      def edits(brought)
        Scene.set("general", "last" => 120) + props(brought) + shape + fronts + sources + maps +
          Scene.set(
            "chamber", "position" => [0.0, 0.1, 0.0], "size" => [1.5, 2.6, 1.3], "voxel" => 0.02, "draft" => 1.6,
            "lift" => 1.0, "stir" => 0.35, "stir_size" => 0.25, "smoke_fade" => 0.25, "open_y0" => true
          ) +
          Scene.set("sun-1", "strength" => 0.5, "aired" => true, "around" => -118.0, "height" => 7.0, "size" => 2.0) +
          Scene.set(
            "sky", "model" => "clear", "hills" => 4.0, "strength" => 0.075, "colour" => [0.7, 0.82, 1.0], "haze" => 2.2,
            "fade" => 160.0
          ) + Scene.set(
            "look", "thickness" => 9.0, "colour" => [0.62, 0.6, 0.58], "shadow" => 0.9, "fire" => 1.3,
            "fire_from" => 950.0, "fire_offset" => 300.0, "fire_rise" => 5.0
          ) +
          [
            Scene.add(
              "lamp", "lantern", "Lantern light", "position" => [-1.5, 1.3, 1.9], "strength" => 3.2,
              "colour" => [1.0, 0.62, 0.3]
            )
          ] +
          Scene.set(
            "camera", "position" => [-0.75, 0.95, 2.9], "target" => [0.02, 1.02, 0.0], "focal" => 50.0, "focus" => 2.95
          ) + Scene.set("picture", "behind" => "sky", "exposure" => 0.9, "contrast" => 1.12)
      end

      def props(brought)
        [
          Scene.add(
            "prop", "leaf", "Leaf", "shape" => "drawing", "drawing" => brought.fetch(:leaf), "wide" => 1.15,
            "depth" => 0.036, "position" => [0.0, 0.95, 0.0], "turn" => [0.0, 24.0, -8.0],
            "colour" => [0.62, 0.48, 0.2], "second" => [0.016, 0.013, 0.011], "between" => 9.0,
            "between_colour" => [1.0, 0.23, 0.03], "uneven" => 0.1, "uneven_size" => 0.05
          ),
          Scene.add(
            "prop", "rod", "Rod", "shape" => "cylinder", "radius" => 0.016, "tall" => 0.62, "sides" => 16,
            "position" => [-0.06, 0.2, 0.0], "colour" => [0.16, 0.1, 0.06]
          ),
          Scene.ground
        ]
      end

      # Even faces, so that it bends and chars finely; it curls as it burns.
      def shape
        done = [
          ["even", "Makes faces even", "what" => "remesh", "edge" => 0.016, "order" => 0],
          ["soft", "Smooths", "what" => "smooth", "rounds" => 6, "order" => 1],
          [
            "curl", "Bends", "what" => "bend", "axis" => "y", "towards" => 0.0, "bend_from" => 0.35, "bend_to" => 1.0,
                             "order" => 2
          ],
          ["crumple", "Crumples", "what" => "displace", "strength" => 0.0, "size" => 0.3, "octaves" => 2, "order" => 3]
        ]
        done.map { |id, name, dials| Scene.add("operation", id, name, dials.merge("prop" => "leaf")) } +
          [[1, 0.0], [30, -6.0], [80, -62.0], [120, -88.0]].map do |frame, value|
            Scene.key("curl", "angle", frame, value)
          end + [[20, 0.0], [110, 0.05]].map { |frame, value| Scene.key("crumple", "strength", frame, value) }
      end

      def fronts
        [
          Scene.add(
            "front", "flames", "Flames", "prop" => "leaf", "places" => [[0.02, 0.56, 0.0]], "speed" => 0.26,
            "uneven" => 0.5, "uneven_size" => 0.2, "first" => 6
          ),
          Scene.add("front", "char", "Char", "starts" => "after", "after" => "flames", "delay" => 5, "speed" => 0.25)
        ]
      end

      def maps
        [
          Scene.add(
            "map", "charred", "Charred", "to" => "leaf", "what" => "front", "front" => "char", "rise" => 0.34,
            "lasts" => 0.0
          ),
          Scene.add(
            "map", "alight", "Alight", "to" => "blaze", "what" => "front", "front" => "flames", "rise" => 0.06,
            "lasts" => 0.45, "fall" => 0.35, "order" => 0
          ),
          Scene.add(
            "map", "patches", "Patches", "to" => "blaze", "what" => "noise", "grain" => 0.12, "change" => 2.5,
            "hard" => 2.0, "opacity" => 0.7, "order" => 1
          ),
          Scene.add(
            "map", "young", "Young", "to" => "reek", "what" => "front", "front" => "char", "rise" => 0.1,
            "lasts" => 0.5, "fall" => 0.9, "order" => 0
          ),
          Scene.add(
            "map", "gaps", "Gaps", "to" => "reek", "what" => "noise", "grain" => 0.16, "change" => 1.0, "hard" => 1.6,
            "how" => "minus", "opacity" => 0.5, "order" => 1
          )
        ]
      end

      def sources
        [
          Scene.add(
            "source", "blaze", "Blaze", "prop" => "leaf", "from" => "surface", "skin" => 0.035, "smoke" => 0.0,
            "fuel" => 60.0, "temperature" => 1400.0, "breakup" => 0.7, "breakup_size" => 0.1, "breakup_speed" => 6.0
          ),
          Scene.add(
            "source", "reek", "Reek", "prop" => "leaf", "from" => "surface", "skin" => 0.03, "smoke" => 5.0,
            "temperature" => 480.0, "breakup" => 0.8, "breakup_size" => 0.12
          ),
          Scene.add(
            "emitter", "flakes", "Flakes", "prop" => "leaf", "rate" => 60.0, "life" => 1.4, "speed" => 0.5,
            "spread" => 70.0, "drag" => 1.5, "fall" => -0.12, "stir" => 4.0, "stir_size" => 0.3, "glow" => 5.0,
            "width" => 0.006
          ),
          Scene.add(
            "map", "sparking", "Sparking", "to" => "flakes", "what" => "front", "front" => "flames", "rise" => 0.0,
            "lasts" => 0.4, "fall" => 0.3
          ),
          Scene.add(
            "force", "air", "Air", "what" => "wind", "strength" => 0.25, "grip" => 0.4, "direction" => [0.8, 0.0, 0.4]
          )
        ]
      end
      private_class_method :props, :shape, :fronts, :maps, :sources
    end
  end
end
