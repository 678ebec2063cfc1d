# frozen_string_literal: true

module Vumbral
  module Geometry
    # A closed mesh cut by planes, one after the other, and closed again each time.
    class Clipping
      # @param points [Array<Array<Float>>]
      # @param skin [Array<Array<Integer>>] triangles that it had; @param inner [Array<Array<Integer>>] those of cuts
      def initialize(points, skin, inner = [])
        @points = points
        @skin, @inner = skin, inner
        @triangles = skin + inner
      end

      def empty? = @triangles.empty?

      # @return [Array<Array<Float>>] places of the corners that are left
      def corners = @corners ||= @triangles.flatten.uniq.map { |n| @points[n] }

      # @return [Mesh] what it had as one part, what cuts laid open as another
      def mesh
        used = @triangles.flatten.uniq
        numbers = used.each_with_index.to_h
        parts = {"outside" => @skin, Cells::INSIDE => @inner}.reject { |_, rows| rows.empty? }
        Mesh.from(used.flat_map { |n| @points[n] }, @triangles.flat_map { |t| t.map { |n| numbers[n] } },
          parts.map { |name, rows| Mesh::Part.new(name, (name == Cells::INSIDE) ? @skin.size : 0, rows.size) })
      end

      # Keeps what lies behind a plane: normal · place <= offset.
      # @return [Clipping]
      def behind(normal, offset)
        heights = {}
        @triangles.each { |t| t.each { |n| heights[n] ||= dot(@points[n], normal) - offset } }
        return self if heights.values.none?(&:positive?)

        @fresh = {}
        @after = @points.dup
        @following = {}
        skin, inner = [@skin, @inner].map { |rows| rows.flat_map { |t| clip(t, heights) } }
        Clipping.new(@after, skin, inner + Caps.new(@after, loops, normal).triangles)
      end

      private

      def dot(a, b) = a[0] * b[0] + a[1] * b[1] + a[2] * b[2]

      def clip(triangle, heights)
        above = triangle.map { |n| heights[n].positive? }
        return [triangle] if above.none?
        return [] if above.all?

        # Turned so that the corner that differs comes first.
        lone = (above.count(true) == 1) ? above.index(true) : above.index(false)
        a, b, c = triangle.rotate(lone)
        p, q = crossing(a, b, heights), crossing(a, c, heights)
        if above[lone]
          @following[p] = q
          [[p, b, c], [p, c, q]]
        else
          @following[q] = p
          [[a, p, q]]
        end
      end

      # One point for each edge, so that neighbours share it.
      def crossing(a, b, heights)
        @fresh[[a, b].minmax] ||= begin
          low, high = [a, b].minmax
          t = (heights[low] / (heights[low] - heights[high])).clamp(0.0, 1.0)
          @after << @points[low].zip(@points[high]).map { |x, y| x + t * (y - x) }
          @after.size - 1
        end
      end

      # The rims of the cut, each a ring of points in the cap's own order.
      def loops
        rest = @following.dup
        found = []
        until rest.empty?
          start, at = rest.first
          ring = [start]
          rest.delete(start)
          while at && at != start
            ring << at
            at = rest.delete(at)
          end
          found << ring if ring.size > 2
        end
        found
      end
    end
  end
end
