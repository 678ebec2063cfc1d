# frozen_string_literal: true

module Vumbral
  module Geometry
    # One part of {Operations}.
    module Operations
      # Moves points along their normals by noise.
      module Displace
        module_function

        # @return [Mesh]
        def call(mesh, row, _meshes)
          edges = Edges.new(mesh)
          points = Kernel::Buffer.new(:f32, edges.count, 3)
          normals = Kernel::Buffer.of(:f32, edges.normals.flatten, edges.count, 3)
          OperationKernels.displace(points, edges.mesh.points, normals, row["strength"], 1.0 / row["size"], row["octaves"], row.fetch("time", 0.0), row["seed"])
          edges.mesh.with(points)
        end
      end
    end
  end
end
