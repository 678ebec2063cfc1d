# frozen_string_literal: true

module Vumbral
  module Light
    # Fogs, and beams that are seen, as kernels take them. `veils` f32 [n, {Haze::WIDTH}] one row each ({HazeKernels}),
    # `fields` distances of those that fill a prop, one after the other; `textures` as {Geometry::Textures} makes them;
    # `maps` and `faces` what props hide from lamps ({ShadowKernels}); `left` f32 [lamp, z, y, x] how much of each
    # lamp's light fog and smoke leave, `open` f32 [z, y, x] of light from all around, both on a coarse lattice; the
    # mean of the sky, and the lamps that light them.
    HazeLight = Kernel::Record.of(veils: Kernel::Types::F32[2], fields: Kernel::Types::F32[1],
      textures: Kernel::Types::F32[2],
      maps: Kernel::Types::F32[1], faces: Kernel::Types::F32[2], left: Kernel::Types::F32[4],
      open: Kernel::Types::F32[3],
      x: Kernel::Types::F32, y: Kernel::Types::F32, z: Kernel::Types::F32, voxel: Kernel::Types::F32,
      red: Kernel::Types::F32, green: Kernel::Types::F32, blue: Kernel::Types::F32, lamps: Kernel::Types::F32[2])
  end
end
