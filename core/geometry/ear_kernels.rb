# frozen_string_literal: true

module Vumbral
  module Geometry
    # Cuts a polygon into triangles by taking off one ear after the other (Meisters 1975).
    module EarKernels
      extend Kernel::Library

      # `ring` i32 [n]: points in anticlockwise order, some of them twice where a hole hangs on by a cut. `triangles`
      # has room for n - 2.
      kernel triangles: I32[2], ring: I32[1], points: F64[2], before: I32[1], after: I32[1], returns: I32
      def clip(triangles, ring, points, before, after)
        count = ring.size
        count.times do |n|
          before[n] = (n + count - 1) % count
          after[n] = (n + 1) % count
        end
        made = 0
        left = count
        at = 0
        missed = 0
        while left > 2
          a = before[at]
          c = after[at]
          # Where nothing is an ear, as rounding may have it, any corner that turns the right way will do; then any.
          taken = missed > 2 * left ? true : (missed > left ? turn(points, ring[a], ring[at], ring[c]) > 0.0 : ear(ring, points, after, a, at, c))
          if taken
            triangles[made, 0] = ring[a]
            triangles[made, 1] = ring[at]
            triangles[made, 2] = ring[c]
            made += 1
            left -= 1
            after[a] = c
            before[c] = a
            missed = 0
            at = c
          else
            missed += 1
            at = c
          end
        end
        made
      end

      # Twice the area of a triangle, positive where it runs anticlockwise.
      kernel points: F64[2], a: I32, b: I32, c: I32, returns: F64
      def turn(points, a, b, c)
        (points[b, 0] - points[a, 0]) * (points[c, 1] - points[a, 1]) -
          (points[c, 0] - points[a, 0]) * (points[b, 1] - points[a, 1])
      end

      # Whether a corner turns the right way and no other point lies in it.
      kernel ring: I32[1], points: F64[2], after: I32[1], a: I32, b: I32, c: I32, returns: BOOL
      def ear(ring, points, after, a, b, c)
        return false if turn(points, ring[a], ring[b], ring[c]) <= 0.0

        found = true
        n = after[c]
        while n != a && found
          p = ring[n]
          if p != ring[a] && p != ring[b] && p != ring[c]
            inside =
              turn(points, ring[a], ring[b], p) >= 0.0 && turn(points, ring[b], ring[c], p) >= 0.0 &&
              turn(points, ring[c], ring[a], p) >= 0.0
            found = false if inside
          end
          n = after[n]
        end
        found
      end
    end
  end
end
