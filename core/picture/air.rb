# frozen_string_literal: true

module Vumbral
  module Picture
    # What lies between props and their light: smoke with its thickness for shadows, how much of the sky
    # is left of it in each place; and what fogs leave of each lamp and of light from around, as {Light::HazeLight} has
    # it.
    Air = Kernel::Record.of(smoke: Kernel::Types::F32[3], up: Kernel::Types::F32[3], thickness: Kernel::Types::F32,
      left: Kernel::Types::F32[4], open: Kernel::Types::F32[3], x: Kernel::Types::F32, y: Kernel::Types::F32,
      z: Kernel::Types::F32,
      voxel: Kernel::Types::F32, hazy: Kernel::Types::BOOL)
  end
end
