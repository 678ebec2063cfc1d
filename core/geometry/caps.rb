# frozen_string_literal: true

module Vumbral
  module Geometry
    # Closes rings of points that lie in one plane with triangles: rings may hold others as holes.
    # Ear clipping (Meisters 1975), holes joined to their rim by a bridge (Eberly 2002).
    class Caps
      include Vectors

      # @param points [Array<Array<Float>>]
      # @param rings [Array<Array<Integer>>] anticlockwise seen with `normal` towards the eye; holes clockwise
      def initialize(points, rings, normal)
        @rings = rings
        right = axis(normal)
        up = cross(normal, right)
        @flat = Hash.new { |kept, n| kept[n] = [dot(points[n], right), dot(points[n], up)] }
      end

      # @return [Array<Array<Integer>>]
      def triangles
        outer, holes = @rings.partition { |ring| area(ring).positive? }
        outer.flat_map do |rim|
          mine, holes = holes.partition { |hole| within?(@flat[hole[0]], rim) }
          ears(
            mine
              .sort_by { |hole| -hole.map { |n| @flat[n][0] }.max }
              .reduce(rim) { |joined, hole| bridge(joined, hole) }
          )
        end
      end

      private

      def dot(a, b) = a[0] * b[0] + a[1] * b[1] + a[2] * b[2]

      def axis(normal)
        side = cross(normal, (normal[0].abs < 0.6) ? [1.0, 0.0, 0.0] : [0.0, 1.0, 0.0])
        length = Math.sqrt(dot(side, side))
        side.map { |c| c / length }
      end

      def turn(a, b, c) = (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])

      def area(ring)
        flat = ring.map { |n| @flat[n] }
        flat.each_with_index.sum { |p, i| flat[i - 1][0] * p[1] - p[0] * flat[i - 1][1] }
      end

      def within?(place, ring)
        inside = false
        ring.each_with_index do |n, i|
          a, b = @flat[ring[i - 1]], @flat[n]
          next unless (a[1] > place[1]) != (b[1] > place[1])

          inside = !inside if place[0] < a[0] + (place[1] - a[1]) / (b[1] - a[1]) * (b[0] - a[0])
        end
        inside
      end

      # Joins a hole to its rim where nothing lies between: from the hole's rightmost point to the
      # nearest point of the rim that it sees.
      def bridge(rim, hole)
        start = hole.each_index.max_by { |i| @flat[hole[i]][0] }
        from = @flat[hole[start]]
        order = rim.each_index.sort_by { |i| @flat[rim[i]].zip(from).sum { |a, b| (a - b)**2 } }
        at = order.find { |i| sees?(from, @flat[rim[i]], rim) && sees?(from, @flat[rim[i]], hole) } || order.first
        rim[0..at] + hole.rotate(start) + [hole[start]] + rim[at..]
      end

      def sees?(a, b, ring)
        ring.each_with_index.none? do |n, i|
          c, d = @flat[ring[i - 1]], @flat[n]
          next false if [c, d].any? { |p| p == a || p == b }

          turn(a, b, c) * turn(a, b, d) < 0 && turn(c, d, a) * turn(c, d, b) < 0
        end
      end

      def ears(ring)
        ring = ring.dup
        # Only corners that bend inwards can lie in an ear, and no cut makes new ones.
        @bent = ring.each_index.select { |i| corner(ring, i) < -1e-12 }.map { |i| ring[i] }.uniq
        found = []
        at = 0
        until ring.size < 3
          at = ear(ring, at)
          found << [ring[at - 1], ring[at], ring[(at + 1) % ring.size]]
          ring.delete_at(at)
        end
        found
      end

      def corner(ring, i) = turn(@flat[ring[i - 1]], @flat[ring[i]], @flat[ring[(i + 1) % ring.size]])

      # The first corner from one on that can be cut off; of a ring without one (flat or crossing
      # itself), the sharpest.
      def ear(ring, from)
        ring.size.times do |n|
          i = (from + n) % ring.size
          next unless corner(ring, i) > 0

          a, b, c = @flat[ring[i - 1]], @flat[ring[i]], @flat[ring[(i + 1) % ring.size]]
          return i if @bent.none? { |n| (p = @flat[n]) != a && p != b && p != c && inside?(p, a, b, c) }
        end
        ring.each_index.max_by { |i| corner(ring, i) }
      end

      def inside?(p, a, b, c) = turn(a, b, p) >= 0 && turn(b, c, p) >= 0 && turn(c, a, p) >= 0
    end
  end
end
