# frozen_string_literal: true

module Vumbral
  module Geometry
    # What lies on a surface, in its tree's order: texture places of each triangle's corners (f32 [m, 6])
    # with a picture, or numbers of the corners themselves (f32 [m, 3]) where it is painted.
    SurfaceMap = Kernel::Record.of(values: Kernel::Types::F32[2], picture: Kernel::Types::F32[2],
      painted: Kernel::Types::BOOL)
  end
end
