# frozen_string_literal: true

module Vumbral
  module Picture
    # What lies between props and their light: smoke with its thickness for shadows, and how much of the sky
    # is left of it in each place.
    Air = Kernel::Record.of(smoke: Kernel::Types::F32[3], up: Kernel::Types::F32[3], thickness: Kernel::Types::F32)
  end
end
