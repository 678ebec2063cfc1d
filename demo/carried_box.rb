# frozen_string_literal: true

module Vumbral
  module Demo
    # What stands in for footage: a crate on a rope travels across a yard at dusk, before a camera that is held by hand.
    # The movie of it comes along ({PLATE}); `bin/demo-plate` makes it again.
    module CarriedBox
      PLATE = File.join(ROOT, "demo", "plates", "carried-box.mp4")
      NAME = "Carried box"
      LAST = 48
      SIZE = [0.44, 0.34, 0.4].freeze
      # Nails on its front, which can be followed: where their heads are, from its middle.
      NAILS = [[-0.16, -0.11], [0.16, -0.11], [0.16, 0.11], [-0.16, 0.11]].map { |x, y| [x, y, 0.206] }.freeze

      module_function

      # @return [Array<Hash>]
      def edits(mesh)
        crate + yard(mesh) + Scene.set("general", "last" => LAST) +
          Scene.set("sun-1", "strength" => 1.5, "aired" => true, "around" => -62.0, "height" => 13.0, "size" => 2.0) +
          Scene.set(
            "sky", "model" => "clear", "hills" => 4.0, "strength" => 0.4, "colour" => [0.72, 0.86, 1.0], "haze" => 2.6,
            "fade" => 120.0
          ) +
          Scene.set(
            "camera", "position" => [0.0, 1.45, 5.4], "target" => [0.0, 1.2, 0.0], "focal" => 36.0,
            "shake_turn" => [0.35, 0.45, 0.0], "shake_speed" => 0.8, "shutter" => 150.0, "samples" => 5
          ) + Scene.set("picture", "behind" => "sky", "exposure" => 0.1, "contrast" => 1.05) +
          [
            Scene.add("layer", "shot-layer", "The shot"),
            Scene.add(
              "effect", "grain", "Grain", "layer" => "shot-layer", "what" => "grain", "amount" => 0.2,
              "grain_size" => 0.25
            )
          ]
      end

      def crate
        [
          Scene.add(
            "prop", "box", "Crate", "shape" => "box", "size" => SIZE, "colour" => [0.62, 0.47, 0.3], "uneven" => 0.5,
            "uneven_size" => 0.06
          ),
          Scene.add(
            "prop", "rope", "Rope", "shape" => "cylinder", "radius" => 0.012, "tall" => 3.0, "sides" => 12,
            "leader" => "box", "position" => [0.0, 1.67, 0.0], "colour" => [0.24, 0.2, 0.14]
          )
        ] + nails +
          pose.map do |dial, text|
            {"do" => "formula", "node" => "box", "dial" => dial[0], "part" => dial[1], "text" => text}
          end
      end

      def nails
        NAILS.each_with_index.map do |place, n|
          Scene.add(
            "prop", "nail-#{n + 1}", "Nail #{n + 1}", "shape" => "cylinder", "radius" => 0.026, "tall" => 0.012,
            "sides" => 24, "leader" => "box", "position" => [*place.first(2), 0.2], "turn" => [90.0, 0.0, 0.0],
            "colour" => [0.02, 0.02, 0.022]
          )
        end
      end

      # It goes on, sways and turns.
      def pose
        {
          %w[position x] => "-1.35 + 2.5 * smooth(0, 1, (frame - 1) / 52)",
          %w[position y] => "1.12 + 0.05 * sin(5.2 * t) - 0.1 * t", %w[position z] => "0.5 - 0.35 * t",
          %w[turn x] => "4 * sin(4.1 * t)", %w[turn y] => "-22 + 17 * t", %w[turn z] => "6 * sin(3.3 * t + 0.6)"
        }
      end

      def yard(mesh)
        [
          Scene.ground,
          Scene.add(
            "prop", "wall", "Wall", "shape" => "box", "size" => [7.0, 1.9, 0.3], "position" => [-1.2, 0.95, -2.6],
            "turn" => [0.0, 8.0, 0.0], "colour" => [0.36, 0.31, 0.26], "uneven" => 0.55, "uneven_size" => 0.3
          ),
          Scene.add(
            "prop", "post", "Post", "shape" => "box", "size" => [0.14, 2.6, 0.14], "position" => [1.7, 1.3, -1.0],
            "colour" => [0.2, 0.14, 0.09], "uneven" => 0.4, "uneven_size" => 0.1
          )
        ] +
          Scene.props(
            mesh,
            jar: [
              "Jar",
              {
                "mesh" => mesh[:vase], "position" => [-1.55, 0.0, -0.7], "scale" => [1.7] * 3,
                "colour" => [0.36, 0.24, 0.16], "uneven" => 0.2, "uneven_size" => 0.06
              }
            ],
            tall: [
              "Tall jar",
              {
                "mesh" => mesh[:vase], "position" => [0.95, 0.0, -1.5], "scale" => [2.4] * 3,
                "colour" => [0.3, 0.2, 0.14], "uneven" => 0.2, "uneven_size" => 0.08
              }
            ],
            bowl: ["Bowl", {"position" => [0.3, 0.0, 0.6], "scale" => [0.8] * 3, "colour" => [0.2, 0.27, 0.28]}]
          )
      end
      private_class_method :crate, :nails, :pose, :yard
    end
  end
end
