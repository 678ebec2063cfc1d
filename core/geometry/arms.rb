# frozen_string_literal: true

module Vumbral
  module Geometry
    # Two ways, or a place and a way, where fractions of a millimetre count.
    Arms = Kernel::Record.of(ox: Kernel::Types::F64, oy: Kernel::Types::F64, oz: Kernel::Types::F64,
      dx: Kernel::Types::F64, dy: Kernel::Types::F64, dz: Kernel::Types::F64)
  end
end
