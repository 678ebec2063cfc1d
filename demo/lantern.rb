# frozen_string_literal: true

module Vumbral
  module Demo
    # A pierced clay lantern turns in a dark store room: shafts through the haze, and in the finish a glow, the ghosts
    # of the lens, darker corners and grain.
    module Lantern
      ID = "lantern"
      NAME = "Lantern"
      PRINT = 30

      module_function

      def meshes = {vase: Models.vase, bowl: Models.bowl}

      # @return [Array<Hash>]
      def edits(mesh)
        lantern + room(mesh) + finish + Scene.set("general", "last" => 96) + Scene.set("sun-1", "strength" => 0.0) +
          Scene.set("sky", "model" => "even", "strength" => 0.035, "colour" => [0.42, 0.56, 0.95]) +
          Scene.set(
            "camera", "position" => [0.55, 1.02, 3.5], "target" => [0.0, 1.12, 0.0], "focal" => 34.0, "refined" => true,
            "samples" => 8
          ) + Scene.set("picture", "exposure" => 0.4, "contrast" => 1.1, "bloom" => 0.03)
      end

      def lantern
        clay = {"colour" => [0.34, 0.19, 0.1], "uneven" => 0.25, "uneven_size" => 0.05}
        [
          Scene.add(
            "prop", "globe", "Globe",
            clay.merge("shape" => "sphere", "radius" => 0.3, "divisions" => 3, "position" => [0.0, 1.35, 0.0])
          ),
          {"do" => "formula", "node" => "globe", "dial" => "turn", "part" => "y", "text" => "90 * (frame - 1) / 96"},
          Scene.add(
            "operation", "holes", "Takes faces away", "prop" => "globe", "what" => "pierce", "share" => 0.09,
            "seed" => 5
          ),
          Scene.add(
            "operation", "wall", "Gives it thickness", "prop" => "globe", "order" => 1, "what" => "thicken",
            "thickness" => 0.016
          ),
          Scene.add(
            "prop",
            "cap",
            "Cap",
            clay.merge(
              "shape" => "cone", "radius" => 0.16, "tall" => 0.12, "sides" => 36, "position" => [0.0, 1.69, 0.0]
            )
          ),
          Scene.add(
            "prop",
            "ring",
            "Ring",
            clay.merge(
              "shape" => "torus", "radius" => 0.05, "tube" => 0.01, "turn" => [90.0, 0.0, 0.0],
              "position" => [0.0, 1.79, 0.0]
            )
          ),
          Scene.add(
            "prop", "rope", "Rope", "shape" => "cylinder", "radius" => 0.008, "tall" => 2.4, "sides" => 12,
            "position" => [0.0, 3.0, 0.0], "colour" => [0.2, 0.16, 0.1]
          ),
          Scene.add(
            "prop", "wick", "Flame", "shape" => "sphere", "radius" => 0.035, "scale" => [1.0, 1.9, 1.0],
            "position" => [0.0, 1.33, 0.0], "colour" => [0.0, 0.0, 0.0], "light" => 60.0,
            "light_colour" => [1.0, 0.55, 0.2], "casts" => false
          ),
          Scene.add(
            "lamp", "light", "Light", "as" => "point", "position" => [0.0, 1.35, 0.0], "strength" => 34.0,
            "kelvin" => "kelvin", "temperature" => 2300.0, "radius" => 0.012
          ),
          Scene.add(
            "lamp", "moon", "Moon", "as" => "area", "position" => [2.6, 3.2, 1.6], "target" => [0.0, 0.9, -0.8],
            "wide" => 1.2, "high" => 1.6, "strength" => 42.0, "colour" => [0.35, 0.52, 1.0]
          ),
          {
            "do" => "formula", "node" => "light", "dial" => "stops",
            "text" => "0.22 * noise(9 * t, 3, 1) + 0.1 * noise(23 * t, 7, 2)"
          }
        ]
      end

      def room(mesh)
        wall = {"shape" => "box", "colour" => [0.22, 0.2, 0.18], "uneven" => 0.5, "uneven_size" => 0.6}
        [
          Scene.add(
            "prop", "floor", "Floor", wall.merge("size" => [9.0, 0.1, 7.0], "position" => [0.0, -0.05, -0.5])
          ).merge("locked" => true),
          Scene.add(
            "prop", "back", "Back wall", wall.merge("size" => [9.0, 4.5, 0.2], "position" => [0.0, 2.2, -2.0])
          ).merge("locked" => true),
          Scene.add(
            "prop", "side", "Side wall", wall.merge("size" => [0.2, 4.5, 7.0], "position" => [-2.7, 2.2, 0.0])
          ).merge("locked" => true),
          Scene.add(
            "prop", "board", "Shelf board", "shape" => "box", "size" => [2.2, 0.05, 0.4],
            "position" => [1.3, 0.75, -1.7], "colour" => [0.2, 0.13, 0.08], "uneven" => 0.3, "uneven_size" => 0.1
          ),
          Scene.add(
            "fog", "haze", "Haze", "thickness" => 0.11, "colour" => [0.85, 0.82, 0.78], "forward" => 0.3,
            "reach" => 8.0, "around" => 0.4
          )
        ] +
          Scene.props(
            mesh,
            jar: [
              "Jar",
              {
                "mesh" => mesh[:vase], "position" => [-1.15, 0.0, -0.9], "scale" => [1.7] * 3,
                "colour" => [0.3, 0.2, 0.14], "uneven" => 0.15, "uneven_size" => 0.06
              }
            ],
            bowl: [
              "Bowl", {"position" => [0.85, 0.775, -1.65], "scale" => [0.8] * 3, "colour" => [0.16, 0.24, 0.26]}
            ],
            small: [
              "Small jar",
              {
                "mesh" => mesh[:vase], "position" => [1.55, 0.775, -1.68], "scale" => [0.75] * 3,
                "colour" => [0.34, 0.22, 0.14]
              }
            ]
          )
      end

      def finish
        [
          Scene.add("layer", "shot-layer", "The shot", "order" => 0),
          Scene.add("layer", "change", "Lens and film", "what" => "change", "order" => 1),
          effect(0, "glow", "Glow", "from" => 0.9, "size" => 1.4, "amount" => 0.55, "colour" => [1.0, 0.86, 0.7]),
          effect(
            1, "flare", "Ghosts", "source" => "lamp", "lamp" => "light", "amount" => 0.5, "ghosts" => 7,
            "streak" => 26.0, "arms" => 2, "angle" => 14.0, "colour" => [1.0, 0.72, 0.45]
          ),
          effect(2, "fringes", "Fringes", "amount" => 0.25),
          effect(3, "vignette", "Darker corners", "amount" => 0.6, "inner" => 35.0),
          effect(4, "grain", "Grain", "amount" => 0.35, "grain_size" => 0.22)
        ]
      end

      def effect(order, what, name, dials) =
        Scene.add("effect", "lantern-#{what}", name, dials.merge("layer" => "change", "what" => what, "order" => order))
      private_class_method :lantern, :room, :finish, :effect
    end
  end
end
