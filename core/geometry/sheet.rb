# frozen_string_literal: true

module Vumbral
  module Geometry
    # A surface as a front runs over it: points f32 [n, 3] (one in each place), triangles i32 [m, 3], which triangles
    # are at each point (`around[starts[p] ... starts[p + 1]]`), and how many seconds a metre takes there, f32 [n].
    Sheet = Kernel::Record.of(points: Kernel::Types::F32[2], triangles: Kernel::Types::I32[2],
      starts: Kernel::Types::I32[1], around: Kernel::Types::I32[1], slowness: Kernel::Types::F32[1])
  end
end
