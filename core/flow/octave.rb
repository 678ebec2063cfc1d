# frozen_string_literal: true

module Vumbral
  module Flow
    # One octave of noise on a grid: lattice steps a cell (`per`), where the first cell stands in the
    # lattice, how strong it is, and whether it is the first of its potential.
    Octave = Kernel::Record.of(per: Kernel::Types::F32, z: Kernel::Types::F32, y: Kernel::Types::F32,
      x: Kernel::Types::F32, gain: Kernel::Types::F32, first: Kernel::Types::BOOL)
  end
end
