# frozen_string_literal: true

module Vumbral
  module Geometry
    # Where a ray begins (metres) and which way it goes.
    Ray = Kernel::Record.of(ox: Kernel::Types::F32, oy: Kernel::Types::F32, oz: Kernel::Types::F32,
      dx: Kernel::Types::F32, dy: Kernel::Types::F32, dz: Kernel::Types::F32)
  end
end
