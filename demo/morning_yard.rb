# frozen_string_literal: true

module Vumbral
  module Demo
    # A fog bank lies in the yard in the first sun. Cold mist wells up in a trough and creeps away under it, vessels are
    # half lost in the haze, and a lantern's beam, cut by a lattice, stands warm in the cool air.
    module MorningYard
      ID = "morning-yard"
      NAME = "Morning yard"
      PRINT = 88
      # Jars that stand further off: place, size, how dark.
      JARS = [[-2.3, -3.2, 2.1, 0.3], [2.6, -4.6, 2.5, 0.26], [-0.4, -6.4, 2.3, 0.34], [-4.6, -7.5, 3.0, 0.28],
        [4.9, -9.0, 3.2, 0.3], [-1.9, -11.5, 3.0, 0.3]].freeze

      module_function

      def meshes
        {trough: Models.trough, vase: Models.vase, bowl: Models.bowl}
      end

      def pictures = {motes: Dust.picture(5, 170, 0.028), sparks: Dust.picture(11, 70, 0.02)}

      # @param mesh [Hash{Symbol => String}] digests
      # @return [Array<Hash>]
      def edits(mesh)
        vessels(mesh) + lantern + mist + air + dust(mesh) + Scene.set("general", "last" => 96) +
          Scene.set(
            "chamber", "size" => [2.8, 0.95, 2.4], "voxel" => 0.025, "draft" => 1.5, "lift" => 1.0, "weight" => 3.0,
            "stir" => 0.08, "stir_size" => 0.3, "curl_boost" => 0.15, "heat_fade" => 0.14, "smoke_fade" => 0.07
          ) + Scene.set("sun-1", "strength" => 1.1, "aired" => true, "around" => -128.0, "height" => 5.0) +
          Scene.set(
            "sky", "model" => "clear", "hills" => 4.0, "strength" => 0.42, "colour" => [0.72, 0.86, 1.0], "haze" => 2.2,
            "fade" => 240.0
          ) +
          Scene.set("look", "thickness" => 14.0, "colour" => [0.95, 0.95, 0.95], "shadow" => 0.8, "forward" => 0.5) +
          Scene.set("camera", "position" => [0.8, 0.95, 4.6], "target" => [0.0, 0.72, 0.0], "focal" => 36.0) +
          Scene.set("picture", "behind" => "sky", "exposure" => 0.0, "contrast" => 1.1)
      end

      def vessels(mesh)
        Scene.props(
          mesh,
          trough: [
            "Trough",
            {
              "position" => [-0.5, 0.0, -0.25], "turn" => [0.0, 14.0, 0.0], "collider" => true,
              "colour" => [0.2, 0.2, 0.19], "uneven" => 0.3, "uneven_size" => 0.12
            }
          ],
          vase: [
            "Vase",
            {
              "position" => [0.4, 0.0, 0.62], "scale" => [1.25, 1.25, 1.25], "collider" => true,
              "colour" => [0.36, 0.25, 0.17], "uneven" => 0.1, "uneven_size" => 0.05
            }
          ],
          bowl: ["Bowl", {"position" => [-0.95, 0.0, 0.7], "collider" => true, "colour" => [0.15, 0.23, 0.25]}]
        ) +
          JARS.each_with_index.map do |(x, z, size, dark), n|
            Scene.add(
              "prop", "jar-#{n + 1}", "Jar #{n + 1}", "shape" => "mesh", "mesh" => mesh.fetch(:vase),
              "position" => [x, 0.0, z], "scale" => [size] * 3, "turn" => [0.0, 40.0 * n, 0.0],
              "colour" => [dark, 0.72 * dark, 0.52 * dark], "uneven" => 0.2, "uneven_size" => 0.1
            )
          end + [Scene.ground]
      end

      # A post with a lamp behind a lattice of laths.
      def lantern
        wood = {"shape" => "box", "colour" => [0.12, 0.085, 0.06], "uneven" => 0.3, "uneven_size" => 0.1}
        [
          Scene.add(
            "prop", "post", "Post", wood.merge("size" => [0.09, 1.75, 0.09], "position" => [1.95, 0.87, -0.75])
          ),
          Scene.add("prop", "arm", "Arm", wood.merge("size" => [0.5, 0.07, 0.07], "position" => [1.72, 1.72, -0.75])),
          Scene.add(
            "prop",
            "hood",
            "Hood",
            wood.merge(
              "shape" => "cone", "radius" => 0.2, "tall" => 0.16, "sides" => 24, "position" => [1.5, 1.75, -0.75]
            )
          ),
          Scene.add(
            "prop", "lattice", "Lattice",
            wood.merge("size" => [0.012, 0.3, 0.02], "position" => [1.3, 1.55, -0.68], "turn" => [0.0, 70.0, 0.0])
          ),
          Scene.add(
            "operation", "laths", "Makes many of it", "prop" => "lattice", "what" => "copies", "spread" => "grid",
            "counts" => [5.0, 1.0, 1.0], "step" => [0.062, 1.0, 1.0], "size_vary" => 0.0, "turn_vary" => 0.0
          ),
          Scene.add(
            "prop", "bars", "Cross bars",
            wood.merge("size" => [0.3, 0.012, 0.02], "position" => [1.3, 1.55, -0.68], "turn" => [0.0, 70.0, 0.0])
          ),
          Scene.add(
            "operation", "cross", "Makes many of it", "prop" => "bars", "what" => "copies", "spread" => "grid",
            "counts" => [1.0, 4.0, 1.0], "step" => [1.0, 0.075, 1.0], "size_vary" => 0.0, "turn_vary" => 0.0
          ),
          Scene.add(
            "lamp", "lantern", "Lantern", "as" => "spot", "position" => [1.5, 1.6, -0.75],
            "target" => [-0.55, 0.55, 0.0], "cone" => 46.0, "soft" => 0.25, "strength" => 34.0, "kelvin" => "kelvin",
            "temperature" => 2100.0, "beam" => 0.2, "beam_soft" => 0.3
          )
        ]
      end

      def mist
        [
          Scene.add(
            "prop", "water", "Water", "shape" => "box", "size" => [1.34, 0.09, 0.36],
            "position" => [-0.5, 0.465, -0.25], "turn" => [0.0, 14.0, 0.0], "shown" => false
          ),
          Scene.add(
            "source", "mist", "Mist", "prop" => "water", "smoke" => 5.0, "temperature" => 250.0, "breakup" => 0.5,
            "breakup_size" => 0.18, "breakup_speed" => 1.5
          ),
          Scene.key("mist", "strength", 1, 0.5),
          Scene.key("mist", "strength", 30, 1.0),
          Scene.key("mist", "strength", 96, 0.7)
        ]
      end

      # The bank, torn by a slow texture, and a thin haze over all.
      def air
        [
          Scene.add(
            "texture", "drifts", "Drifts", "what" => "noise", "size" => 2.2, "stretch" => [1.6, 0.5, 1.0],
            "octaves" => 3, "contrast" => 2.2, "drift" => [0.12, 0.0, 0.03], "change" => 0.08
          ),
          Scene.add(
            "fog", "bank", "Fog bank", "course" => "low", "level" => 0.25, "thins" => 0.55, "thickness" => 0.2,
            "texture" => "drifts", "textured" => 0.75, "reach" => 45.0, "forward" => 0.55,
            "colour" => [0.93, 0.94, 0.96]
          )
        ]
      end

      # Cards of motes before the camera: some in the light there, some that catch the sun by themselves.
      def dust(mesh)
        card = {
          "shape" => "card", "to_camera" => true, "casts" => false, "even_lit" => true,
          "light_colour" => [1.0, 0.86, 0.66]
        }
        [
          Scene.add(
            "prop",
            "motes",
            "Motes",
            card.merge(
              "picture" => mesh.fetch(:motes), "size" => [2.6, 2.6, 1.0], "position" => [0.35, 0.95, 2.3],
              "opacity" => 0.4
            )
          ),
          Scene.add(
            "prop",
            "motes-far",
            "Motes further off",
            card.merge(
              "picture" => mesh.fetch(:motes), "size" => [2.2, 2.2, 1.0], "position" => [0.9, 1.1, 0.7],
              "turn" => [0.0, 0.0, 130.0], "opacity" => 0.55, "light" => 0.25
            )
          ),
          Scene.add(
            "prop",
            "sparks",
            "Motes that shine",
            card.merge(
              "picture" => mesh.fetch(:sparks), "size" => [1.5, 1.5, 1.0], "position" => [0.75, 1.15, 0.1],
              "opacity" => 0.6, "light" => 1.1
            )
          ),
          Scene.key("motes", "position", 1, [0.35, 0.9, 2.3]),
          Scene.key("motes", "position", 96, [0.45, 1.0, 2.3]),
          Scene.key("sparks", "position", 1, [0.75, 1.12, 0.1]),
          Scene.key("sparks", "position", 96, [0.68, 1.2, 0.1])
        ]
      end
      private_class_method :vessels, :lantern, :mist, :air, :dust
    end
  end
end
