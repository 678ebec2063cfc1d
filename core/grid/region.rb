# frozen_string_literal: true

module Vumbral
  module Grid
    # A part of a grid: its first cell along each axis, and the one after its last.
    Region = Kernel::Record.of(k0: Kernel::Types::I32, k1: Kernel::Types::I32, j0: Kernel::Types::I32,
      j1: Kernel::Types::I32, i0: Kernel::Types::I32, i1: Kernel::Types::I32)
  end
end
