# frozen_string_literal: true

module Vumbral
  module Geometry
    # Simple bodies, centred on the origin, Y up, wound outwards. Lengths in metres.
    module Builders
      module_function

      # @param size [Array<Float>] full lengths along x, y, z
      def box(size)
        x, y, z = size.map { |s| s / 2.0 }
        points = [-1, 1].flat_map { |c| [-1, 1].flat_map { |b| [-1, 1].flat_map { |a| [a * x, b * y, c * z] } } }
        quads = [[0, 2, 3, 1], [4, 5, 7, 6], [0, 1, 5, 4], [2, 6, 7, 3], [0, 4, 6, 2], [1, 3, 7, 5]]
        Mesh.from(points, quads.flat_map { |a, b, c, d| [a, b, c, a, c, d] })
      end

      # A square-based sheet lying flat, facing up.
      def plane(size)
        x, z = size[0] / 2.0, size[2] / 2.0
        Mesh.from([-x, 0, -z, -x, 0, z, x, 0, z, x, 0, -z].map(&:to_f), [0, 1, 2, 0, 2, 3])
      end

      # An icosahedron divided until it is round.
      def sphere(radius, divisions: 4)
        t = (1.0 + Math.sqrt(5.0)) / 2.0
        points = [[-1, t, 0], [1, t, 0], [-1, -t, 0], [1, -t, 0], [0, -1, t], [0, 1, t], [0, -1, -t], [0, 1, -t],
          [t, 0, -1], [t, 0, 1], [-t, 0, -1], [-t, 0, 1]].map { |p| on_sphere(p, 1.0) }
        faces = [
          [0, 11, 5], [0, 5, 1], [0, 1, 7], [0, 7, 10], [0, 10, 11], [1, 5, 9], [5, 11, 4], [11, 10, 2], [10, 7, 6],
          [7, 1, 8], [3, 9, 4], [3, 4, 2], [3, 2, 6], [3, 6, 8], [3, 8, 9], [4, 9, 5], [2, 4, 11], [6, 2, 10],
          [8, 6, 7], [9, 8, 1]
        ]
        divisions.times { faces = divide(points, faces) }
        Mesh.from(points.flat_map { |p| p.map { |c| c * radius } }, faces.flatten)
      end

      # @param height [Float] along y; capped
      def cylinder(radius, height, sides: 48)
        turned([[0.0, -height / 2], [radius, -height / 2], [radius, height / 2], [0.0, height / 2]], sides)
      end

      def cone(radius, height, sides: 48)
        turned([[0.0, -height / 2], [radius, -height / 2], [0.0, height / 2]], sides)
      end

      # A cylinder with round ends. @param height [Float] with them
      def capsule(radius, height, sides: 48)
        steps = [sides / 4, 2].max
        straight = [0.5 * height - radius, 0.0].max
        round =
          Array.new(steps + 1) do |n|
            (n * Math::PI / 2 / steps).then { |angle| [radius * Math.sin(angle), radius * Math.cos(angle)] }
          end
        lower = round.map { |r, y| [r, -straight - y] }
        upper = round.reverse.map { |r, y| [r, straight + y] }
        outline = (lower + (straight.zero? ? upper.drop(1) : upper)).map { |r, y| [(r < 1e-9) ? 0.0 : r, y] }
        turned(outline, sides)
      end

      # @param radius [Float] to the middle of the tube
      # @param tube [Float] radius of the tube itself
      def torus(radius, tube, sides: 64, around: 24)
        points = []
        faces = []
        sides.times do |i|
          a = 2 * Math::PI * i / sides
          around.times do |j|
            b = 2 * Math::PI * j / around
            r = radius + tube * Math.cos(b)
            points.push(r * Math.cos(a), tube * Math.sin(b), -r * Math.sin(a))
            here, over = i * around, ((i + 1) % sides) * around
            k = (j + 1) % around
            faces.push(here + j, over + j, over + k, here + j, over + k, here + k)
          end
        end
        Mesh.from(points, faces)
      end

      # Turns an outline of [radius, height] about the y axis, from the bottom up along the
      # outside. Radius 0 closes it with a point. `close` joins the last to the first, which
      # makes a vessel with thick walls.
      def turned(outline, sides = 48, close: false)
        points = []
        rings = outline.map do |radius, height|
          first = points.size / 3
          count = radius.zero? ? 1 : sides
          count.times do |i|
            points.push(
              radius * Math.cos(2 * Math::PI * i / sides), height.to_f, -radius * Math.sin(2 * Math::PI * i / sides)
            )
          end
          [first, count]
        end
        pairs = rings.each_cons(2).to_a
        pairs << [rings.last, rings.first] if close
        Mesh.from(points, pairs.flat_map { |low, high| band(low, high, sides) })
      end

      def band(low, high, sides)
        (0...sides).flat_map do |i|
          k = (i + 1) % sides
          a, b = low[0] + i % low[1], low[0] + k % low[1]
          c, d = high[0] + k % high[1], high[0] + i % high[1]
          ((low[1] == 1) ? [] : [a, b, c]) + ((high[1] == 1) ? [] : [a, c, d])
        end
      end

      def divide(points, faces)
        middles = {}
        middle = lambda do |a, b|
          middles[[a, b].minmax] ||= begin
            points << on_sphere(points[a].zip(points[b]).map { |p, q| p + q }, 1.0)
            points.size - 1
          end
        end
        faces.flat_map do |a, b, c|
          ab, bc, ca = middle.call(a, b), middle.call(b, c), middle.call(c, a)
          [[a, ab, ca], [b, bc, ab], [c, ca, bc], [ab, bc, ca]]
        end
      end

      def on_sphere(point, radius)
        length = Math.sqrt(point.sum { |c| c * c })
        point.map { |c| c / length * radius }
      end
      private_class_method :band, :divide, :on_sphere
    end
  end
end
