# frozen_string_literal: true

module Vumbral
  module Picture
    # A volume to be tracked through by chance: smoke and what its fire follows, [z, y, x], and
    # how that glows ({Light::Fire#table}); an extinction that it nowhere passes (per metre); how many paths for each
    # pixel, how often light may go on, and a seed.
    Tracked = Kernel::Record.of(smoke: Kernel::Types::F32[3], glowing: Kernel::Types::F32[3],
      table: Kernel::Types::F32[2], most: Kernel::Types::F32,
      paths: Kernel::Types::I32, bounces: Kernel::Types::I32, seed: Kernel::Types::I32)
  end
end
