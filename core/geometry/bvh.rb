# frozen_string_literal: true

module Vumbral
  module Geometry
    # A tree of boxes over a mesh's triangles, for asking what is near, what is inside and what a
    # ray meets. The tree is complete, so node n has the children 2n + 1 and 2n + 2 and needs no links;
    # triangles are put in its order by halving.
    class BVH
      LEAF = 4

      # Kernels take these together: `corners` f32 [m, 9], `boxes` f32 [nodes, 6],
      # `far` f32 [nodes, 7] (area vector, centre, radius), `order` i32 [m] (number in the mesh).
      attr_reader :corners, :boxes, :far, :order, :mesh

      # @param order [Kernel::Buffer, nil] i32 [m], that of another mesh with the same triangles, which it was made from
      def initialize(mesh, order: nil)
        @mesh = mesh
        count = mesh.count
        @order = order || split
        @corners = Kernel::Buffer.new(:f32, count, 9)
        BVHKernels.corners(@corners, mesh.points, mesh.triangles, @order)
        leaves = 1
        leaves *= 2 while leaves * LEAF < count
        @boxes = Kernel::Buffer.new(:f32, 2 * leaves - 1, 6)
        @far = Kernel::Buffer.new(:f32, 2 * leaves - 1, 7)
        BVHKernels.build(@boxes, @far, @corners)
      end

      # For kernels that ask about places.
      def tree = Tree.new(@corners, @boxes, @far)

      private

      # Halves the triangles again and again, down to the leaves.
      def split
        middles = Kernel::Buffer.new(:f32, @mesh.count, 3)
        SplittingKernels.middles(middles, @mesh.points, @mesh.triangles)
        order = Kernel::Buffer.of(:i32, (0...@mesh.count).to_a)
        slots = LEAF
        slots *= 2 while slots < @mesh.count
        while slots > LEAF
          SplittingKernels.halve(order, middles, slots)
          slots /= 2
        end
        order
      end
    end
  end
end
