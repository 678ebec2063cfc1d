# frozen_string_literal: true

module Vumbral
  module Flow
    # A cell at a side: which axis the side stands across (0 x, 1 y, 2 z), whether it is the upper one (1),
    # the cell, and how many cells out one looks at most.
    Border = Kernel::Record.of(axis: Kernel::Types::I32, side: Kernel::Types::I32, i: Kernel::Types::I32,
      j: Kernel::Types::I32, k: Kernel::Types::I32, reach: Kernel::Types::I32)
  end
end
