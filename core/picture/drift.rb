# frozen_string_literal: true

module Vumbral
  module Picture
    # Smoke, how it moves (m/s along each axis), how thick it is to the eye (per metre of density 1), and seconds of a
    # frame.
    Drift = Kernel::Record.of(smoke: Kernel::Types::F32[3], along: Kernel::Types::F32[3], up: Kernel::Types::F32[3],
      across: Kernel::Types::F32[3], thickness: Kernel::Types::F32, seconds: Kernel::Types::F32)
  end
end
