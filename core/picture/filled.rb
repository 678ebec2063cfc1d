# frozen_string_literal: true

module Vumbral
  module Picture
    # A volume ready to be marched through. `smoke` and `heat` are read by {Grid::Spline} (or between points in
    # a draft); `depths` f32 [lamp, z, y, x] is smoke before each lamp (density times metres), `soft` f32
    # [3, z, y, x] light from all around as it goes on, `shut` how far smoke stands around, `tint` the smoke's own colour; `busy` u8 is 0 in
    # blocks of four cells with nothing near.
    Filled = Kernel::Record.of(smoke: Kernel::Types::F32[3], heat: Kernel::Types::F32[3],
      depths: Kernel::Types::F32[4], soft: Kernel::Types::F32[4], shut: Kernel::Types::F32[3], tint: Kernel::Types::F32[4],
      busy: Kernel::Types::U8[3], burns: Kernel::Types::BOOL, tinted: Kernel::Types::BOOL,
      smooth: Kernel::Types::BOOL, pace: Kernel::Types::F32)
  end
end
