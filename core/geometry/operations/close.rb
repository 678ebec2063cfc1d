# frozen_string_literal: true

module Vumbral
  module Geometry
    # One part of {Operations}.
    module Operations
      # Closes every hole with faces that meet in its middle.
      module Close
        module_function

        # @return [Mesh]
        def call(mesh, _row, _meshes)
          edges = Edges.new(mesh)
          rings = edges.rings
          return mesh if rings.empty?

          middles = rings.map { |ring| 3.times.map { |c| ring.sum { |n| edges.points[n][c] } / ring.size } }
          lids =
            rings.each_with_index.flat_map do |ring, k|
              ring.zip(ring.rotate).flat_map { |a, b| [b, a, edges.count + k] }
            end
          points = edges.points + middles
          triangles = edges.triangles.flatten + lids
          Mesh.new(
            Kernel::Buffer.of(:f32, points.flatten, points.size, 3),
            Kernel::Buffer.of(:i32, triangles, triangles.size / 3, 3), nil,
            places: longer(edges.mesh.places, lids.size / 3), colours: longer(edges.mesh.colours, lids.size / 3)
          )
        end

        # The new faces have what the last of the others has.
        def longer(values, count)
          values &&
            Kernel::Buffer.new(
              :f32, values.dim(0) + count, values.dim(1),
              bytes: values.bytes + values.bytes.byteslice(-4 * values.dim(1)..) * count
            )
        end
        private_class_method :longer
      end
    end
  end
end
