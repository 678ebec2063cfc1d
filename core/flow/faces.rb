# frozen_string_literal: true

module Vumbral
  module Flow
    # A velocity on the faces of cells (Harlow & Welch 1965), m/s: `u` along x, `v` along y, `w` along z,
    # each one longer along its own axis than there are cells.
    Faces = Kernel::Record.of(u: Kernel::Types::F32[3], v: Kernel::Types::F32[3], w: Kernel::Types::F32[3]) do
      # @param size [Array<Integer>] cells along z, y, x
      # @return [Faces] of gas at rest
      def self.still(size)
        nz, ny, nx = size
        new(Kernel::Buffer.new(:f32, nz, ny, nx + 1), Kernel::Buffer.new(:f32, nz, ny + 1, nx),
          Kernel::Buffer.new(:f32, nz + 1, ny, nx))
      end
    end
  end
end
