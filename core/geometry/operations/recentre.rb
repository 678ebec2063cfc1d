# frozen_string_literal: true

module Vumbral
  module Geometry
    # One part of {Operations}.
    module Operations
      # Moves a shape so that its origin lies in its middle, under it, or at a place.
      module Recentre
        module_function

        # @return [Mesh]
        def call(mesh, row, _meshes)
          return mesh.transformed(Transform.place(position: row["pivot_at"].map(&:-@))) if row["pivot"] == "place"

          low, high = mesh.bounds
          middle = low.zip(high).map { |a, b| 0.5 * (a + b) }
          middle[1] = low[1] if row["pivot"] == "under"
          mesh.transformed(Transform.place(position: middle.map(&:-@)))
        end
      end
    end
  end
end
