# frozen_string_literal: true

module Vumbral
  module Geometry
    # A tree of boxes over a mesh's triangles, for asking what is near, what is inside and what a
    # ray meets. The tree is complete, so node n has the children 2n + 1 and 2n + 2 and needs no links;
    # triangles are put in its order by halving, or along a Morton curve of their ranks.
    class BVH
      LEAF = 4
      # Larger meshes are sorted along the curve, which is quicker to make and a little slower to ask.
      MOST_SPLIT = 60_000

      # Kernels take these together: `corners` f32 [m, 9], `boxes` f32 [nodes, 6],
      # `far` f32 [nodes, 7] (area vector, centre, radius), `order` i32 [m] (number in the mesh).
      attr_reader :corners, :boxes, :far, :order, :mesh

      def initialize(mesh)
        @mesh = mesh
        count = mesh.count
        @order = Kernel::Buffer.of(:i32, (count <= MOST_SPLIT) ? split : curve)
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

      # Halves the triangles again and again across the axis on which their middles lie widest.
      def split
        middles = Kernel::Buffer.new(:f32, @mesh.count, 3)
        BVHKernels.middles(middles, @mesh.points, @mesh.triangles)
        @axes = middles.to_a.each_slice(3).to_a.transpose
        slots = LEAF
        slots *= 2 while slots < @mesh.count
        halved((0...@mesh.count).to_a, slots)
      end

      def halved(list, slots)
        return list if slots <= LEAF || list.size <= LEAF

        axis = @axes.max_by { |places| list.map { |n| places[n] }.minmax.then { |low, high| high - low } }
        sorted = list.sort_by { |n| axis[n] }
        halved(sorted.first(slots / 2), slots / 2) + halved(sorted.drop(slots / 2), slots / 2)
      end

      def curve
        codes = Kernel::Buffer.new(:i32, @mesh.count)
        BVHKernels.codes(codes, ranks)
        keys = codes.to_a
        (0...@mesh.count).sort_by { |n| [keys[n], n] }
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
    end
  end
end
