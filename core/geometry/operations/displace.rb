# frozen_string_literal: true

module Vumbral
  module Geometry
    # One part of {Operations}.
    module Operations
      # Moves points along their normals by noise or by waves.
      module Displace
        SOFT, BILLOWS, RIDGES, WAVES = 0, 1, 2, 3
        KINDS = {"soft" => SOFT, "billows" => BILLOWS, "ridges" => RIDGES, "waves" => WAVES}.freeze

        module_function

        # @param meshes [#pattern] gives the numbers of a texture that is read from something besides its dials
        # @return [Mesh]
        def call(mesh, row, meshes)
          mesh = Welding.welded(mesh)
          points, normals = Array.new(2) { Kernel::Buffer.new(:f32, *mesh.points.shape) }
          OperationKernels.normals(normals, mesh.points, mesh.triangles)
          return textured(mesh, points, normals, row, meshes) if row["bumps"] == "texture"

          # What is not said is as it was before there was a choice.
          kind = KINDS.fetch(row.fetch("bumps", "soft"))
          setting = [
            row["strength"], 1.0 / row["size"], row["octaves"], row.fetch("time", 0.0), row["seed"], kind,
            row.fetch("rest", 0.0), *along(row)
          ]
          OperationKernels.displace(
            points, mesh.points, places(mesh, row), normals, Kernel::Buffer.of(:f32, setting.map(&:to_f))
          )
          mesh.with(points)
        end

        def textured(mesh, points, normals, row, meshes)
          rows = (row["row"].size > Textures::WIDTH) ? meshes.pattern(row["row"]) : Kernel::Buffer.of(:f32, row["row"], 1, Textures::WIDTH)
          OperationKernels.press(
            points, mesh.points, mesh.transformed(Transform.new(row["world"])).points, normals, rows, row["strength"],
            row.fetch("rest", 0.0)
          )
          mesh.with(points)
        end

        def along(row)
          way = row.fetch("along", [1.0, 0.0, 0.0])
          length = Math.sqrt(way.sum { |c| c * c })
          length.zero? ? [1.0, 0.0, 0.0] : way.map { |c| c / length }
        end

        # Where the noise is read for each point.
        def places(mesh, row)
          case row.fetch("space", "own")
          when "world" then mesh.transformed(Transform.new(row["world"])).points
          when "surface" then on_surface(mesh, row)
          else mesh.points
          end
        end

        def on_surface(mesh, row)
          unless mesh.places
            raise Refused.new(
              "#{row["name"]} reads its noise on the surface, but the prop has no texture places; lay them " \
                "out first, or read it in its own space.",
              code: "no_texture_places"
            )
          end

          Kernel::Buffer
            .new(:f32, *mesh.points.shape)
            .tap { |out| DeformKernels.unrolled(out, mesh.places, mesh.triangles) }
        end
        private_class_method :textured, :along, :places, :on_surface
      end
    end
  end
end
