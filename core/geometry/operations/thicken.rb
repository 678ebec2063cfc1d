# frozen_string_literal: true

module Vumbral
  module Geometry
    # One part of {Operations}.
    module Operations
      # Gives a sheet two sides and a rim between them; a closed body becomes hollow.
      module Thicken
        module_function

        # @return [Mesh] closed
        def call(mesh, row, _meshes)
          edges = Edges.new(mesh)
          Operations.check(2 * mesh.count + 2 * edges.open.size, row, "make its faces larger first")
          normals = edges.normals
          out, back =
            [0.5, -0.5].map do |share|
              edges
                .points
                .zip(normals)
                .flat_map { |point, normal| 3.times.map { |c| point[c] + share * row["thickness"] * normal[c] } }
            end
          count = edges.count
          inner = edges.triangles.flat_map { |a, b, c| [a + count, c + count, b + count] }
          # The rim goes from the outer edge to the inner one.
          rim = edges.open.flat_map { |a, b| [b, a, a + count, b, a + count, b + count] }
          triangles = edges.triangles.flatten + inner + rim
          Mesh.new(
            Kernel::Buffer.of(:f32, out + back, 2 * count, 3),
            Kernel::Buffer.of(:i32, triangles, triangles.size / 3, 3), nil,
            places: doubled(edges.mesh.places, 2, rim.size / 3), colours: doubled(edges.mesh.colours, 3, rim.size / 3)
          )
        end

        # What lies on corners, turned round for the inner side; the rim has what comes first.
        def doubled(values, width, rim)
          return unless values

          rows = values.to_a.each_slice(3 * width).to_a
          inner = rows.map { |row| row.each_slice(width).to_a.values_at(0, 2, 1).flatten }
          Kernel::Buffer.of(
            :f32, (rows + inner + [rows[0].first(width) * 3] * rim).flatten, 2 * rows.size + rim, 3 * width
          )
        end
        private_class_method :doubled
      end
    end
  end
end
