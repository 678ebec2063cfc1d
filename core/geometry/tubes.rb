# frozen_string_literal: true

module Vumbral
  module Geometry
    # Round tubes along curves: a coil, or a way through places. Closed, with rounded ends, wound outwards; lengths in
    # metres. Rings do not turn about the curve from one to the next (double reflection; Wang, Jüttler, Zheng & Liu
    # 2008).
    module Tubes
      # Rings of a rounded end, and rings between two places of a way.
      ENDS, BETWEEN = 5, 12

      module_function

      # A coil about the y axis, from the bottom up, its middle at the origin.
      # @param radius [Array(Float, Float)] to the middle of the tube, at the bottom and at the top
      # @param tall [Float] how far it rises; @param turns [Float]; @param tube [Float] radius of the tube
      # @param uneven [Float] 0 to 1, how much thicker and thinner it gets, as a hand rolls it
      # @return [Mesh]
      def coil(radius, tall, turns, tube, uneven: 0.0, sides: 48, around: 24)
        count = [(turns * sides).ceil, 2].max
        places = (0..count).map do |n|
          part = n / count.to_f
          angle = 2.0 * Math::PI * turns * part
          reach = radius[0] + part * (radius[1] - radius[0])
          [reach * Math.cos(angle), tall * (part - 0.5), -reach * Math.sin(angle)]
        end
        widths =
          (0..count).map do |n|
            (2.0 * Math::PI * turns * n / count).then do |angle|
              tube * (1.0 + uneven * (0.6 * Math.sin(1.7 * angle) + 0.4 * Math.sin(4.3 * angle + 1.0)))
            end
          end
        along(places, widths, around: around)
      end

      # @param places [Array<Array<Float>>] that a tube goes smoothly through; one alone is a ball
      # @return [Mesh]
      def through(places, tube, around: 24)
        way = way(places)
        return Mesh.from([], []) if way.empty?
        return Builders.sphere(tube, divisions: 3).transformed(Transform.place(position: way[0])) if way.size == 1

        along(way, [tube] * way.size, around: around)
      end

      # @param places [Array<Array<Float>>] that a way goes smoothly through
      # @return [Array<Array<Float>>] close along it; one or none where there are no more apart from each other
      def way(places)
        apart = places.chunk_while { |a, b| Vectors.length(Vectors.minus(a, b)) < 1e-6 }.map(&:first)
        (apart.size < 2) ? apart : smooth(apart)
      end

      # @param places [Array<Array<Float>>] no two alike after each other; @param widths [Array<Float>] radius at each
      # @return [Mesh]
      def along(places, widths, around: 24)
        ways = tangents(places)
        sides = frames(places, ways)
        rings =
          places
            .zip(widths, ways, sides)
            .map { |place, width, way, side| [place, width, side, Vectors.cross(way, side)] }
        rings = cap(rings[0], ways[0], -1.0).reverse + rings + cap(rings[-1], ways[-1], 1.0)
        points =
          rings.flat_map { |ring| circle(ring, around) } +
          [ends(places[0], ways[0], -widths[0]), ends(places[-1], ways[-1], widths[-1])]
        Mesh.from(points.flatten, faces(rings.size, around))
      end

      # Catmull and Rom's curve, as even in its corners as in its length (centripetal).
      def smooth(places)
        first = places[0].zip(places[1]).map { |a, b| 2.0 * a - b }
        last = places[-1].zip(places[-2]).map { |a, b| 2.0 * a - b }
        all =
          [first, *places, last].each_cons(4)
            .flat_map { |four| BETWEEN.times.map { |n| between(four, n / BETWEEN.to_f) } }
        all << places[-1]
      end

      # Of the way from the second of four to the third (Barry & Goldman 1988).
      def between(four, part)
        at =
          four
            .each_cons(2)
            .reduce([0.0]) { |all, (a, b)| all << all[-1] + [Vectors.length(Vectors.minus(b, a)), 1e-9].max**0.5 }
        t = at[1] + part * (at[2] - at[1])
        mix = ->(a, b, from, to) { ((t - from) / (to - from)).then { |s| a.zip(b).map { |x, y| x + s * (y - x) } } }
        three = four.each_cons(2).each_with_index.map { |(a, b), n| mix[a, b, at[n], at[n + 1]] }
        two = three.each_cons(2).each_with_index.map { |(a, b), n| mix[a, b, at[n], at[n + 2]] }
        mix[two[0], two[1], at[1], at[2]]
      end

      def tangents(places)
        places.each_index.map do |n|
          Vectors.unit(Vectors.minus(places[[n + 1, places.size - 1].min], places[[n - 1, 0].max]))
        end
      end

      # A way across the curve at each place.
      def frames(places, ways)
        least = ways[0].each_with_index.min_by { |c, _| c.abs }[1]
        first = Vectors.unit(Vectors.cross(ways[0], [0.0, 0.0, 0.0].tap { |axis| axis[least] = 1.0 }))
        (1...places.size).reduce([first]) do |all, n|
          one, side, way = mirrored(Vectors.minus(places[n], places[n - 1]), all[-1], ways[n - 1])
          all << (one ? mirrored(Vectors.minus(ways[n], way), side, way)[1] : all[-1])
        end
      end

      # Two ways seen in the mirror that stands across a third, if that has a length.
      def mirrored(across, side, way)
        square = Vectors.dot(across, across)
        return [false, side, way] if square < 1e-16

        [true, *[side, way].map { |v| v.zip(across).map { |a, b| a - 2.0 * Vectors.dot(across, v) / square * b } }]
      end

      # Rings of a rounded end, from the tube outwards.
      def cap(ring, way, sign)
        place, width, side, up = ring
        (1...ENDS).map do |n|
          (0.5 * Math::PI * n / ENDS).then do |angle|
            [place.zip(way).map { |c, w| c + sign * width * Math.sin(angle) * w }, width * Math.cos(angle), side, up]
          end
        end
      end

      def ends(place, way, far) = place.zip(way).map { |c, w| c + far * w }

      def circle((place, width, side, up), around)
        around.times.map do |m|
          (2.0 * Math::PI * m / around).then do |angle|
            3.times.map { |a| place[a] + width * (Math.cos(angle) * side[a] + Math.sin(angle) * up[a]) }
          end
        end
      end

      # Between rings, and to a point at either end, which come last.
      def faces(rings, around)
        tube = (0...rings - 1).flat_map do |n|
          around.times.flat_map do |m|
            a, b = n * around + m, n * around + (m + 1) % around
            [a, b, b + around, a, b + around, a + around]
          end
        end
        low, high, last = rings * around, rings * around + 1, (rings - 1) * around
        tube + around.times.flat_map { |m| [low, (m + 1) % around, m, high, last + m, last + (m + 1) % around] }
      end
      private_class_method :smooth, :between, :tangents, :frames, :mirrored, :cap, :ends, :circle, :faces
    end
  end
end
