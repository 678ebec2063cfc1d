# frozen_string_literal: true

module Vumbral
  module Flow
    # The values of two by two by two cells, along x first, then y, then z.
    Eight = Kernel::Record.of(a: Kernel::Types::F32, b: Kernel::Types::F32, c: Kernel::Types::F32,
      d: Kernel::Types::F32,
      e: Kernel::Types::F32, f: Kernel::Types::F32, g: Kernel::Types::F32, h: Kernel::Types::F32)
  end
end
