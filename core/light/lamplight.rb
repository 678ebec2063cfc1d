# frozen_string_literal: true

module Vumbral
  module Light
    # What lamps and fire send straight into smoke: `first` f32 [3, z, y, x] of it and `mean` density, both on a
    # grid coarser than the smoke's, made of the fire's part `direct` and, for each lamp, `depths` and `open` as
    # {Lit} has them.
    Lamplight = Kernel::Record.of(first: Kernel::Types::F32[4], mean: Kernel::Types::F32[3],
      direct: Kernel::Types::F32[4], depths: Kernel::Types::F32[4], open: Kernel::Types::F32[4])
  end
end
