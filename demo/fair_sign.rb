# frozen_string_literal: true

module Vumbral
  module Demo
    # The letters of the fair at dusk: a front lights each after the other, they char behind a glowing edge, and in the
    # end they break, one by one, and fall over the beam.
    module FairSign
      ID = "fair-sign"
      NAME = "Fair sign"
      PRINT = 62
      # Where each stands along the sign, when it is set alight and when it breaks; where its fire begins.
      LETTERS = {"f" => [-0.78, 4, 92, [0.1, -0.3, 0.0]], "a" => [-0.207, 18, 97, [-0.25, -0.3, 0.0]],
                 "i" => [0.268, 32, 102, [0.0, -0.3, 0.0]], "r" => [0.707, 42, 107, [-0.22, -0.3, 0.0]]}.freeze
      TURN = 6.0

      module_function

      def meshes = {}

      # @return [Array<Hash>]
      def edits(_mesh)
        LETTERS.keys.flat_map { |letter| letter(letter) } + props + operations +
          [
            Scene.ground,
            Scene.add(
              "force", "breeze", "Breeze", "what" => "wind", "strength" => 0.35, "grip" => 0.35,
              "direction" => [1.0, 0.05, -0.25]
            ),
            Scene.add(
              "lamp", "glim", "Glim", "position" => [1.32, 0.33, 0.55], "strength" => 1.6, "colour" => [1.0, 0.5, 0.18]
            )
          ] + Scene.set("general", "last" => 130) +
          Scene.set(
            "chamber", "position" => [0.3, 0.0, -0.1], "size" => [3.5, 2.6, 1.4], "voxel" => 0.02, "draft" => 1.7,
            "stir" => 0.4, "stir_size" => 0.25, "smoke_fade" => 0.1, "burn_smoke" => 0.6
          ) + Scene.finer(1.6, 4.0) +
          Scene.set("sun-1", "strength" => 1.3, "aired" => true, "around" => -68.0, "height" => 4.0) +
          Scene.set(
            "sky", "model" => "clear", "hills" => 4.0, "strength" => 0.16, "colour" => [0.75, 0.85, 1.0], "haze" => 2.4,
            "fade" => 300.0
          ) +
          Scene.set(
            "look", "thickness" => 10.0, "fire" => 2.0, "fire_from" => 1100.0, "fire_offset" => 120.0,
            "fire_rise" => 8.0, "glow" => 0.3, "edge" => 0.6, "colour" => [0.7, 0.68, 0.66], "shadow" => 0.9,
            "forward" => 0.35
          ) + Scene.set("camera", "position" => [-1.25, 0.62, 3.5], "target" => [0.1, 0.86, 0.0], "focal" => 38.0) +
          Scene.set("picture", "behind" => "sky", "exposure" => 0.95, "contrast" => 1.12)
      end

      # A letter, its front, what burns on it and what chars.
      def letter(id)
        along, lit, breaks, start = LETTERS.fetch(id)
        angle = TURN * Math::PI / 180.0
        place = [along * Math.cos(angle), 0.672, -along * Math.sin(angle)]
        [
          Scene.add(
            "prop", id, "Letter #{id.upcase}", "shape" => "words", "words" => id.upcase, "letter" => 0.62,
            "depth" => 0.13, "bevel" => 0.018, "bevel_steps" => 1, "position" => place, "turn" => [0.0, TURN, 0.0],
            "colour" => [0.45, 0.16, 0.06], "second" => [0.03, 0.024, 0.02], "between" => 5.0,
            "between_colour" => [1.0, 0.26, 0.04], "uneven" => 0.15, "uneven_size" => 0.06, "breaks" => true,
            "break_frame" => breaks, "pieces" => 7, "blast" => place.zip([0.1, -0.25, -0.35]).map(&:sum),
            "blast_strength" => 1.5, "blast_reach" => 1.2, "spin" => 90.0, "inside_own" => true,
            "inside" => [0.5, 0.27, 0.13], "bounce" => 0.15, "drop_outside" => false
          ),
          Scene.add("operation", "#{id}-even", "Makes faces even", "what" => "remesh", "edge" => 0.026, "prop" => id),
          Scene.add(
            "front", "#{id}-flames", "Flames #{id.upcase}", "prop" => id, "places" => [start], "speed" => 0.5,
            "uneven" => 0.5, "uneven_size" => 0.18, "first" => lit
          ),
          Scene.add(
            "source", "#{id}-blaze", "Blaze #{id.upcase}", "prop" => id, "from" => "surface", "skin" => 0.035,
            "smoke" => 16.0, "fuel" => 14.0, "temperature" => 1150.0, "breakup" => 0.85, "breakup_size" => 0.1,
            "breakup_speed" => 5.0
          ),
          Scene.add(
            "map", "#{id}-alight", "Alight", "to" => "#{id}-blaze", "what" => "front", "front" => "#{id}-flames",
            "rise" => 0.1, "lasts" => 0.8, "fall" => 2.2
          ),
          Scene.add(
            "map", "#{id}-charred", "Charred", "to" => id, "what" => "front", "front" => "#{id}-flames", "rise" => 0.3,
            "lasts" => 0.0
          )
        ]
      end

      def props
        board = {"shape" => "box", "colour" => [0.16, 0.1, 0.065], "uneven" => 0.3, "uneven_size" => 0.2}
        [
          Scene.add(
            "prop",
            "beam",
            "Beam",
            board.merge(
              "collider" => true, "size" => [2.3, 0.1, 0.2], "position" => [0.0, 0.3, 0.0], "turn" => [0.0, 6.0, 0.0]
            )
          ),
          Scene.add(
            "prop", "posts", "Posts",
            board.merge("size" => [0.13, 0.52, 0.13], "position" => [0.0, 0.13, 0.0], "turn" => [0.0, 6.0, 0.0])
          ),
          Scene.add(
            "prop", "lantern", "Lantern", "shape" => "capsule", "radius" => 0.17, "tall" => 0.62, "sides" => 20,
            "position" => [1.32, 0.305, 0.55], "colour" => [0.3, 0.16, 0.09], "uneven" => 0.2, "uneven_size" => 0.1
          ),
          Scene.add(
            "prop", "fence", "Fence",
            board.merge("size" => [0.09, 0.8, 0.03], "position" => [0.2, 0.36, -2.1], "colour" => [0.2, 0.15, 0.1])
          )
        ]
      end

      def operations
        [
          [
            "posts", "makes", "what" => "copies", "spread" => "grid", "counts" => [2.0, 1.0, 1.0],
                              "step" => [1.7, 1.0, 1.0], "size_vary" => 0.0, "turn_vary" => 0.0
          ],
          ["lantern", "finer", "what" => "subdivide", "steps" => 1, "soft" => false, "order" => 0],
          ["lantern", "pierced", "what" => "pierce", "share" => 0.2, "seed" => 5, "order" => 1],
          ["lantern", "walled", "what" => "thicken", "thickness" => 0.02, "order" => 2],
          ["lantern", "smooth", "what" => "smooth", "rounds" => 12, "order" => 3],
          [
            "fence", "pales", "what" => "copies", "spread" => "grid", "counts" => [34.0, 1.0, 1.0],
                              "step" => [0.17, 1.0, 1.0], "loose" => [0.03, 0.04, 0.03], "size_vary" => 0.06,
                              "turn_vary" => 6.0
          ]
        ].map do |prop, name, dials|
          Scene.add(
            "operation",
            "#{prop}-#{name}",
            {
              "makes" => "Makes many of it", "finer" => "Makes faces finer", "pierced" => "Takes faces away",
              "walled" => "Gives it thickness", "smooth" => "Smooths", "pales" => "Makes many of it"
            }[
              name
            ],
            dials.merge("prop" => prop)
          )
        end
      end
      private_class_method :letter, :props, :operations
    end
  end
end
