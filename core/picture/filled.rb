# frozen_string_literal: true

module Vumbral
  module Picture
    # A volume ready to be marched through. `smoke` and `glowing` (what fire follows) are read by {Grid::Spline}
    # (or between points in a draft); `depths` and `open` f32 [lamp, z, y, x] are smoke before each lamp (density
    # times metres) and how much of it props leave (`shaded`: whether there are any), `soft` f32 [3, z, y, x] light from
    # all around as it goes on, `skin` how far a lamp's light is that of a deep skin, on a grid coarser by `edge`
    # ({Light::Bounces}), `tint` the smoke's own colour, `along up across` (x, y, z) how the gas moves (m/s); `busy` u8
    # is 0 in blocks of four cells with nothing near; `table` what glows ({Light::Fire#table}).
    Filled = Kernel::Record.of(smoke: Kernel::Types::F32[3], glowing: Kernel::Types::F32[3],
      depths: Kernel::Types::F32[4], open: Kernel::Types::F32[4], soft: Kernel::Types::F32[4],
      skin: Kernel::Types::F32[3],
      edge: Kernel::Types::F32, tint: Kernel::Types::F32[4],
      along: Kernel::Types::F32[3], up: Kernel::Types::F32[3], across: Kernel::Types::F32[3],
      busy: Kernel::Types::U8[3], burns: Kernel::Types::BOOL, tinted: Kernel::Types::BOOL,
      shaded: Kernel::Types::BOOL, smooth: Kernel::Types::BOOL, pace: Kernel::Types::F32, table: Kernel::Types::F32[2])
  end
end
