# frozen_string_literal: true

module Vumbral
  module Geometry
    # One part of {Operations}.
    module Operations
      # Joins two shapes, cuts one from the other, or keeps what both have, through their distance fields.
      module Combine
        JOIN, CUT, BOTH = 0, 1, 2
        WAYS = {"union" => JOIN, "cut" => CUT, "intersect" => BOTH}.freeze

        module_function

        # @return [Mesh] closed; nothing where nothing is left
        def call(mesh, row, meshes)
          other =
            Shapes.build(row["other"]["outline"], meshes, row["other"]["at"]).transformed(
              Transform.new(row["other"]["rows"])
            )
          ends = (row["how"] == "union") ? [mesh.bounds, other.bounds].transpose.then { |lows, highs| [lows.transpose.map(&:min), highs.transpose.map(&:max)] } : mesh.bounds
          Remesh.surface(row["edge"], ends, row) do |grid|
            grid
              .distance(mesh)
              .tap { |field| OperationKernels.combine(field, grid.distance(other), WAYS.fetch(row["how"])) }
          end
        end
      end
    end
  end
end
