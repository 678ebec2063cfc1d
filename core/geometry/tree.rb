# frozen_string_literal: true

module Vumbral
  module Geometry
    # A tree of boxes over triangles, as kernels take it: corners [m, 9], boxes [nodes, 6] and what of
    # each node counts from far off [nodes, 7] (area vector, centre, radius).
    Tree = Kernel::Record.of(corners: Kernel::Types::F32[2], boxes: Kernel::Types::F32[2], far: Kernel::Types::F32[2])
  end
end
