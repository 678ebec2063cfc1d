# frozen_string_literal: true

module Vumbral
  module Flow
    # How a source blows: along the surface's normal and in a direction of its own (m/s), and rough speed
    # (m/s) in patches of so many cells, at a time that counts changes, with a seed.
    Blast = Kernel::Record.of(along: Kernel::Types::F32, x: Kernel::Types::F32, y: Kernel::Types::F32,
      z: Kernel::Types::F32, rough: Kernel::Types::F32, cells: Kernel::Types::F32, time: Kernel::Types::F32,
      seed: Kernel::Types::I32)
  end
end
