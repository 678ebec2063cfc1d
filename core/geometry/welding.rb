# frozen_string_literal: true

module Vumbral
  module Geometry
    # Points that stand in the same place, as one.
    module Welding
      module_function

      # @param points [Kernel::Buffer] f32 [n, 3]
      # @return [Array(Kernel::Buffer, Kernel::Buffer)] for each point the number of its place, i32 [n], and
      #   the places, f32 [m, 3], in the order in which they first come
      def weld(points)
        count = points.dim(0)
        numbers = Kernel::Buffer.new(:i32, count)
        firsts = Kernel::Buffer.new(:i32, count)
        bits = Kernel::Buffer.new(:i32, count, 3, bytes: points.bytes)
        table = Kernel::Buffer.new(:i32, 1 << [(2 * count).bit_length, 4].max).fill(-1)
        places = WeldKernels.number(numbers, firsts, table, points, bits)
        out = Kernel::Buffer.new(:f32, places, 3)
        WeldKernels.take(out, points, firsts)
        [numbers, out]
      end

      # @param points [Kernel::Buffer] f32 [n, 3]; @param triangles [Kernel::Buffer] i32 [m, 3]
      # @return [Integer] edges that do not have as many triangles along them one way as the other; points
      #   in the same place count as one
      def open_edges(points, triangles)
        numbers, places = weld(points)
        starts = Kernel::Buffer.new(:i32, places.dim(0) + 1)
        ends = Kernel::Buffer.new(:i32, 3 * triangles.dim(0))
        WeldKernels.gather(starts, ends, numbers, triangles)
        WeldKernels.unbalanced(starts, ends).to_i
      end
    end
  end
end
