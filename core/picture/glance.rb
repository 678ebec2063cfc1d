# frozen_string_literal: true

module Vumbral
  module Picture
    # What the middle of each pixel sees: how far off, and which triangle (-1 for none); whether several places of it are
    # looked at ({EdgeKernels}). All [h, w].
    Glance = Kernel::Record.of(depth: Kernel::Types::F32[2], seen: Kernel::Types::I32[2],
      several: Kernel::Types::U8[2])
  end
end
