# frozen_string_literal: true

module Vumbral
  module Picture
    # Where a ray meets a triangle: how far off, which, how much its second and third corner count,
    # and a turn that is another one for each pixel.
    Spot = Kernel::Record.of(far: Kernel::Types::F32, triangle: Kernel::Types::I32, b: Kernel::Types::F32,
      g: Kernel::Types::F32, turn: Kernel::Types::F32)
  end
end
