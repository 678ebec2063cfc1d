# frozen_string_literal: true

module Vumbral
  module Geometry
    # Bodies that fly, meet each other, a floor and what stands in their way, and come to rest, as kernels take them.
    # `bodies` f64 [n, 29]: place, turn (w, x, y, z), speed, spin (rad/s), place and turn at the step before, mass the
    # other way up (0: held), friction, bounce, gravity, floor, radius, whether it is gone, whether it touches
    # something, and for how many steps it has been all but still.
    # `tensors` f64 [n, 9]: inertia in the body's own directions, `inertia` the other way up.
    Pile = Kernel::Record.of(bodies: Kernel::Types::F64[2], tensors: Kernel::Types::F64[2],
      inertia: Kernel::Types::F64[2], points: Kernel::Types::F64[2],
      point_starts: Kernel::Types::I32[1], planes: Kernel::Types::F64[2], plane_starts: Kernel::Types::I32[1])
  end
end
