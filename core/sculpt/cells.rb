# frozen_string_literal: true

module Vumbral
  module Sculpt
    # A {Field} as kernels read it: which brick stands at each place, -1 where all its cells are alike; what they are
    # there; and the bricks' values one behind the other.
    Cells = Kernel::Record.of(index: Kernel::Types::I32[3], tiles: Kernel::Types::F32[3], values: Kernel::Types::F32[3])
  end
end
