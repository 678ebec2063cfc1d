# frozen_string_literal: true

module Vumbral
  module Geometry
    # A tree of boxes over a mesh's triangles, for asking what is near, what is inside and what a
    # ray meets. Triangles are sorted along a Morton curve of their ranks on each axis, so that a
    # small thing on a wide ground is divided as finely as one alone; the tree over them is
    # complete, so node n has the children 2n + 1 and 2n + 2 and needs no links.
    class BVH
      LEAF = 4

      # Kernels take these together: `corners` f32 [m, 9], `boxes` f32 [nodes, 6],
      # `far` f32 [nodes, 7] (area vector, centre, radius), `order` i32 [m] (number in the mesh).
      attr_reader :corners, :boxes, :far, :order, :mesh

      def initialize(mesh)
        @mesh = mesh
        count = mesh.count
        codes = Kernel::Buffer.new(:i32, count)
        BVHKernels.codes(codes, ranks)
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

      # Where each triangle's middle comes along x, y and z, 0 to 1023. Equal middles have equal ranks.
      def ranks
        middles = Kernel::Buffer.new(:f32, mesh.count, 3)
        BVHKernels.middles(middles, mesh.points, mesh.triangles)
        axes = middles.to_a.each_slice(3).to_a.transpose.map do |places|
          sorted = places.uniq.sort
          scale = 1023.0 / [sorted.size - 1, 1].max
          numbers = sorted.each_with_index.to_h { |place, n| [place, (n * scale).to_i] }
          places.map { |place| numbers[place] }
        end
        Kernel::Buffer.of(:i32, axes.transpose.flatten, mesh.count, 3)
      end

      # For kernels that ask about places.
      def arrays = [@corners, @boxes, @far]
    end
  end
end
