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

      # @param mesh [Mesh]
      # @return [Mesh] the same with one point in each place; triangles without area there are gone
      def welded(mesh)
        numbers, places = weld(mesh.points)
        return mesh if places.dim(0) == mesh.points.dim(0)

        to = numbers.to_a
        rows = mesh.triangles.to_a.map { |n| to[n] }.each_slice(3).to_a
        kept = rows.each_index.select { |n| rows[n].uniq.size == 3 }
        paint =
          mesh.paint &&
          Array
            .new(places.dim(0), 0.0)
            .tap { |all| mesh.paint.to_a.each_with_index { |value, n| all[to[n]] = value } }
        corners = ->(values, width) do
          values &&
            Kernel::Buffer.of(:f32, values.to_a.each_slice(width).to_a.values_at(*kept).flatten, kept.size, width)
        end
        parts = (kept.size == rows.size) ? mesh.parts : nil
        Mesh.new(
          places, Kernel::Buffer.of(:i32, rows.values_at(*kept).flatten, kept.size, 3), parts,
          places: corners.call(mesh.places, 6), paint: paint && Kernel::Buffer.of(:f32, paint),
          colours: corners.call(mesh.colours, 9)
        )
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
