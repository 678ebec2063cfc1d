# frozen_string_literal: true

module Vumbral
  module Geometry
    # What a set of points without faces looks like to those who place it: a small octahedron for each.
    module Specks
      # How large they are, in parts of the whole, and at least and at most, metres.
      SHARE, LEAST, MOST = 0.008, 0.004, 0.06
      FACES = [[0, 2, 4], [2, 1, 4], [1, 3, 4], [3, 0, 4], [2, 0, 5], [1, 2, 5], [3, 1, 5], [0, 3, 5]].freeze
      private_constant :SHARE, :LEAST, :MOST, :FACES

      module_function

      # @param mesh [Mesh]; @return [Mesh] itself, unless it is but points, and several
      def of(mesh)
        return mesh unless mesh.empty? && mesh.points.dim(0) > 1

        far = (SHARE * mesh.bounds.transpose.map { |low, high| high - low }.max).clamp(LEAST, MOST)
        points = mesh.points.to_a.each_slice(3).flat_map do |x, y, z|
          [x + far, y, z, x - far, y, z, x, y, z + far, x, y, z - far, x, y + far, z, x, y - far, z]
        end
        Mesh.from(points, mesh.points.dim(0).times.flat_map { |n| FACES.flatten.map { |corner| 6 * n + corner } })
      end
    end
  end
end
