# frozen_string_literal: true

module Vumbral
  module Demo
    # Glaze pours into a vase from inside, unsteadily, and shows its shape: the vase itself is hidden.
    module GlazeFill
      ID = "glaze-fill"
      NAME = "Glaze fill"
      PRINT = 84
      # Where each mouth stands, which way it pours, and from which frame.
      MOUTHS = [[[-0.1, 0.3, 0.03], [1.1, 2.3, 0.3], 1], [[0.13, 0.42, -0.06], [-0.9, 2.0, -0.5], 12],
        [[0.02, 0.62, 0.1], [0.2, 1.6, -1.0], 24]].freeze
      # Jars that dry behind: place, size, how dark.
      JARS = [[-1.75, -1.9, 1.0, 0.42], [-1.15, -1.85, 1.15, 0.34], [-0.62, -1.95, 0.85, 0.5], [1.55, -1.9, 1.1, 0.38]].freeze

      module_function

      def meshes = {vase: Models.vase_inside, jar: Models.vase, bowl: Models.bowl}

      # @return [Array<Hash>]
      def edits(mesh)
        stand(mesh) + mouths + glaze + Scene.set("general", "last" => 96) +
          Scene.set("sun-1", "strength" => 4.2, "aired" => true, "around" => -140.0, "height" => 19.0, "size" => 1.5) +
          Scene.set("sky", "model" => "clear", "hills" => 4.0, "strength" => 0.32, "haze" => 1.7, "fade" => 500.0) +
          Scene.set(
            "camera", "position" => [0.55, 0.72, 2.9], "target" => [0.0, 0.62, 0.0], "focal" => 52.0, "aperture" => 2.8,
            "focus" => 2.75, "refined" => true, "samples" => 16
          ) + Scene.set("look", "colour" => [0.93, 0.95, 0.95], "thickness" => 8.0) +
          Scene.set("picture", "behind" => "sky", "exposure" => 0.45, "contrast" => 1.2)
      end

      def stand(mesh)
        [
          Scene.ground,
          Scene.add(
            "prop", "block", "Block", "shape" => "cylinder", "radius" => 0.36, "tall" => 0.12,
            "position" => [0.0, 0.06, 0.0], "colour" => [0.14, 0.11, 0.09], "uneven" => 0.4, "uneven_size" => 0.08
          ),
          Scene.add(
            "prop", "board", "Drying board", "shape" => "box", "size" => [5.2, 0.08, 0.5],
            "position" => [-0.3, 0.36, -1.9], "colour" => [0.2, 0.14, 0.09], "uneven" => 0.3, "uneven_size" => 0.15
          )
        ] +
          Scene.props(
            mesh,
            vase: ["Vase's inside", {"position" => [0.0, 0.04, 0.0], "scale" => [2.0, 1.85, 2.0], "shown" => false}],
            bowl: ["Bowl", {"position" => [0.95, 0.4, -1.85], "colour" => [0.16, 0.24, 0.26], "shine" => 0.4}]
          ) +
          JARS.each_with_index.map do |(x, z, size, dark), n|
            Scene.add(
              "prop", "jar-#{n + 1}", "Jar #{n + 1}", "shape" => "mesh", "mesh" => mesh.fetch(:jar),
              "position" => [x, 0.4, z], "scale" => [size] * 3, "turn" => [0.0, 40.0 * n, 0.0],
              "colour" => [dark, 0.68 * dark, 0.48 * dark], "uneven" => 0.2, "uneven_size" => 0.1
            )
          end
      end

      def mouths
        MOUTHS.each_with_index.flat_map do |(place, way, first), n|
          [
            Scene.add(
              "prop", "mouth-#{n + 1}", "Mouth #{n + 1}", "shape" => "sphere", "radius" => 0.058, "position" => place,
              "shown" => false, "shake" => [0.07, 0.06, 0.07], "shake_speed" => 4.0, "shake_seed" => n + 1
            ),
            Scene.add(
              "inflow", "jet-#{n + 1}", "Jet #{n + 1}", "prop" => "mouth-#{n + 1}", "velocity" => way, "rough" => 0.7,
              "breakup" => 0.4, "breakup_size" => 0.04, "breakup_speed" => 9.0, "first" => first
            )
          ]
        end
      end

      def glaze
        [
          Scene.add(
            "liquid", "liquid", "Glaze", "size" => [0.86, 1.2, 0.86], "position" => [0.0, 0.08, 0.0], "voxel" => 0.012,
            "draft" => 1.6, "pool" => false, "tank" => "vase", "open_y1" => false, "substeps_least" => 2, "own" => 0.12,
            "smooth" => 9, "spray" => true, "trapped" => 800.0, "crest" => 800.0, "foam_life" => 1.2,
            "spray_dense" => 0.04
          ),
          Scene.add(
            "prop", "glaze", "Glaze's surface", "shape" => "liquid", "clear" => 1.0, "bends" => 1.4, "shine" => 0.5,
            "rough" => 0.03, "colour" => [0.02, 0.02, 0.02], "clear_colour" => [0.85, 0.42, 0.16],
            "clear_depth" => 0.34, "casts" => false
          )
        ]
      end
      private_class_method :stand, :mouths, :glaze
    end
  end
end
