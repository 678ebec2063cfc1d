# frozen_string_literal: true

module Vumbral
  module Geometry
    # One part of {Operations}.
    module Operations
      # Pulls a shape by the eight corners of the box around it (Sederberg and Parry 1986, of the lowest degree).
      module Cage
        # The dials of the corners, the lowest first: along x, then y, then z.
        CORNERS = 8.times.map { |n| :"corner_#{n}" }.freeze

        module_function

        # @return [Mesh]
        def call(mesh, row, _meshes)
          low, high = mesh.bounds
          size = low.zip(high).map { |a, b| [b - a, 1e-9].max }
          pulls = CORNERS.flat_map { |corner| row[corner.to_s] }
          points = Kernel::Buffer.new(:f32, *mesh.points.shape)
          DeformKernels.pull(
            points, mesh.points, Kernel::Buffer.of(:f32, low + size), Kernel::Buffer.of(:f32, pulls, 8, 3)
          )
          mesh.with(points)
        end
      end
    end
  end
end
