# frozen_string_literal: true

module Vumbral
  module Geometry
    # The convex hull of a body, as a few corners and the planes between them, for bodies that meet each other. Built
    # point by point (Clarkson and Shor 1989) from the outermost points in many directions.
    class Hull
      include Vectors

      # Directions in which the outermost point is a corner.
      WAYS = 42
      # An edge longer than so much of the whole has a point in its middle, where others may touch it.
      LONG = 0.25

      # @return [Array<Array<Float>>] corners, and points on long edges
      # @return [Array<Array<Float>>] outward normals with their distance from the origin
      attr_reader :points, :planes

      # @param points [Array<Array<Float>>] not all in one plane
      def initialize(points)
        corners = outermost(points)
        faces = faces(corners)
        @planes = faces.map { |face| plane(*face.map { |n| corners[n] }) }.uniq { |plane| plane.map { |c| c.round(5) } }
        used = faces.flatten.uniq
        @points = used.map { |n| corners[n] } + middles(corners, faces)
      end

      # @return [Float] how far its farthest corner is from the origin
      def radius = @points.map { |point| Math.sqrt(dot(point, point)) }.max

      private

      def dot(a, b) = a[0] * b[0] + a[1] * b[1] + a[2] * b[2]

      def less(a, b) = [a[0] - b[0], a[1] - b[1], a[2] - b[2]]

      # Spread evenly over a ball.
      def ways
        @@ways ||= Array.new(WAYS) do |n|
          y = 1.0 - 2.0 * (n + 0.5) / WAYS
          [Math.sqrt(1.0 - y * y) * Math.cos(2.39996323 * n), y, Math.sqrt(1.0 - y * y) * Math.sin(2.39996323 * n)]
        end + [0, 1, 2].flat_map { |axis| [-1.0, 1.0].map { |side| Array.new(3) { |c| (c == axis) ? side : 0.0 } } } +
          [-1.0, 1.0].product([-1.0, 1.0], [-1.0, 1.0])
      end

      def outermost(points)
        points = points.uniq { |point| point.map { |c| c.round(6) } }
        (points.size <= WAYS) ? points : ways.map { |way| points.max_by { |point| dot(point, way) } }.uniq
      end

      def plane(a, b, c)
        normal = unit(cross(less(b, a), less(c, a)))
        [*normal, dot(normal, a)]
      end

      # Triangles around the points, each anticlockwise from outside.
      def faces(points)
        first = tetrahedron(points)
        size = points.transpose.map { |cs| cs.max - cs.min }.max
        middle = first.map { |n| points[n] }.transpose.map { |cs| cs.sum / 4.0 }
        faces = first.combination(3).map { |face| outwards(face, points, middle) }
        planes = faces.to_h { |face| [face, plane(*face.map { |n| points[n] })] }
        (points.each_index.to_a - first).each do |n|
          seen = faces.select { |face| planes[face].then { |p| dot(p, points[n]) > p[3] + 1e-7 * size } }
          next if seen.empty?

          edges = seen.flat_map { |a, b, c| [[a, b], [b, c], [c, a]] }
          rim = edges.reject { |a, b| edges.include?([b, a]) }
          faces -= seen
          fresh = rim.map { |a, b| [a, b, n] }
          fresh.each { |face| planes[face] = plane(*face.map { |m| points[m] }) }
          faces += fresh
        end
        faces
      end

      def outwards(face, points, middle)
        p = plane(*face.map { |n| points[n] })
        (dot(p, middle) > p[3]) ? face.reverse : face
      end

      # Four points far from one plane.
      def tetrahedron(points)
        a = points.each_index.min_by { |n| points[n][0] }
        b = points.each_index.max_by { |n| less(points[n], points[a]).then { |d| dot(d, d) } }
        along = unit(less(points[b], points[a]))
        c = points.each_index.max_by { |n| cross(along, less(points[n], points[a])).then { |d| dot(d, d) } }
        normal = unit(cross(along, less(points[c], points[a])))
        d = points.each_index.max_by { |n| dot(normal, less(points[n], points[a])).abs }
        found = [a, b, c, d].uniq
        if found.size < 4
          raise Refused.new("A piece is flat and cannot be moved as a body; take fewer pieces.", code: "no_volume")
        end

        found
      end

      def middles(points, faces)
        long = LONG * 2.0 * points.map { |point| Math.sqrt(dot(point, point)) }.max
        edges = faces.flat_map { |a, b, c| [[a, b].minmax, [b, c].minmax, [c, a].minmax] }.uniq
        edges.filter_map do |a, b|
          across = less(points[b], points[a])
          points[a].zip(across).map { |x, y| x + 0.5 * y } if Math.sqrt(dot(across, across)) > long
        end
      end
    end
  end
end
