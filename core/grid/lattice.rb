# frozen_string_literal: true

module Vumbral
  module Grid
    # Where a grid stands: the centre of its first cell and the size of a cell, metres.
    Lattice = Kernel::Record.of(x: Kernel::Types::F32, y: Kernel::Types::F32, z: Kernel::Types::F32,
      voxel: Kernel::Types::F32)
  end
end
