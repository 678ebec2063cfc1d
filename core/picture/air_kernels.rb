# frozen_string_literal: true

module Vumbral
  module Picture
    # How much of their light smoke and fogs leave to props.
    module AirKernels
      extend Kernel::Library

      # How much of a lamp's light fogs leave at a place.
      kernel air: Picture::Air, n: I32, x: F32, y: F32, z: F32, returns: F32
      def clear(air, n, x, y, z)
        Grid::Sampling.one_of(air.left, n, (x - air.x) / air.voxel, (y - air.y) / air.voxel, (z - air.z) / air.voxel)
      end

      # The same of light from all around, with what fog sends on.
      kernel air: Picture::Air, x: F32, y: F32, z: F32, returns: F32
      def around(air, x, y, z)
        open =
          Grid::Sampling.linear(
            air.open, ((x - air.x) / air.voxel).clamp(0.0, air.open.dim(2) - 1.0),
            ((y - air.y) / air.voxel).clamp(0.0, air.open.dim(1) - 1.0),
            ((z - air.z) / air.voxel).clamp(0.0, air.open.dim(0) - 1.0)
          )
        open / (1.0 - 0.9 * (1.0 - open))
      end

      # How much of the sky smoke leaves at a place: 1 beyond the grid.
      kernel air: Picture::Air, lattice: Grid::Lattice, x: F32, y: F32, z: F32, returns: F32
      def skylit(air, lattice, x, y, z)
        per = 0.5 / lattice.voxel
        a = (x - lattice.x) * per - 0.25
        b = (y - lattice.y) * per - 0.25
        c = (z - lattice.z) * per - 0.25
        out = [-a, a - air.up.dim(2) + 1.0, -b, b - air.up.dim(1) + 1.0, -c, c - air.up.dim(0) + 1.0, 0.0].max
        inside = 2.0 * Grid::Sampling.linear(air.up, a, b, c)
        # Goes over softly, for the grid's edge is nothing that one may see.
        inside + (1.0 - inside) * (out / 24.0).clamp(0.0, 1.0)
      end
    end
  end
end
