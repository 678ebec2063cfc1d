# frozen_string_literal: true

module Vumbral
  module Geometry
    # A tree of boxes over a mesh's triangles, for asking what is near, what is inside and what a
    # ray meets. Triangles are sorted along a Morton curve; the tree over them is complete, so
    # node n has the children 2n + 1 and 2n + 2 and needs no links.
    class BVH
      LEAF = 4

      # Kernels take these together: `corners` f32 [m, 9], `boxes` f32 [nodes, 6],
      # `far` f32 [nodes, 7] (area vector, centre, radius), `order` i32 [m] (number in the mesh).
      attr_reader :corners, :boxes, :far, :order, :mesh

      def initialize(mesh)
        @mesh = mesh
        count = mesh.count
        codes = Kernel::Buffer.new(:i32, count)
        low, high = mesh.bounds
        span = low.zip(high).map { |a, b| [b - a, 1e-12].max }.max
        BVHKernels.codes(codes, mesh.points, mesh.triangles, *low, 1.0 / span)
        keys = codes.to_a
        @order = Kernel::Buffer.of(:i32, (0...count).sort_by { |n| [keys[n], n] })
        @corners = Kernel::Buffer.new(:f32, count, 9)
        BVHKernels.corners(@corners, mesh.points, mesh.triangles, @order)
        leaves = 1
        leaves *= 2 while leaves * LEAF < count
        @boxes = Kernel::Buffer.new(:f32, 2 * leaves - 1, 6)
        @far = Kernel::Buffer.new(:f32, 2 * leaves - 1, 7)
        BVHKernels.build(@boxes, @far, @corners)
      end

      # For kernels that ask about places.
      def arrays = [@corners, @boxes, @far]
    end
  end
end
