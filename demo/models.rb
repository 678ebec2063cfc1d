# frozen_string_literal: true

module Vumbral
  module Demo
    # The objects of the Ash Hollow yard, built by code. Metres, Y up, standing on the ground.
    module Models
      module_function

      # Outlines go up along the outside and, where they close, down again along the inside:
      # [radius, height].
      KILN = [[1.02, 0.0], [1.06, 0.35], [1.05, 0.75], [0.98, 1.1], [0.84, 1.42], [0.66, 1.68], [0.5, 1.88], [0.4, 2.1],
        [0.36, 2.42],
        [0.35, 2.62], [0.4, 2.66], [0.4, 2.78], [0.24, 2.78], [0.22, 2.4], [0.26, 2.1], [0.36, 1.86], [0.52, 1.62],
        [0.7, 1.34],
        [0.84, 1.05], [0.9, 0.7], [0.9, 0.35], [0.88, 0.08], [0.0, 0.08]].freeze
      VASE = [[0.0, 0.0], [0.13, 0.0], [0.15, 0.02], [0.2, 0.14], [0.23, 0.26], [0.22, 0.36], [0.16, 0.46], [0.1, 0.52],
        [0.085, 0.58],
        [0.12, 0.64], [0.1, 0.63], [0.065, 0.58], [0.08, 0.51], [0.13, 0.44], [0.18, 0.35], [0.19, 0.25], [0.16, 0.12],
        [0.0, 0.05]].freeze
      BOWL = [[0.0, 0.0], [0.12, 0.0], [0.12, 0.03], [0.24, 0.09], [0.33, 0.19], [0.36, 0.3], [0.33, 0.3], [0.3, 0.2],
        [0.22, 0.12], [0.0, 0.07]].freeze

      POT_KILN = [[0.0, 0.0], [0.95, 0.0], [1.0, 0.4], [0.98, 0.9], [0.86, 1.3], [0.74, 1.55], [0.74, 1.66],
        [0.5, 1.66], [0.5, 1.5], [0.62, 1.25],
        [0.76, 0.85], [0.78, 0.4], [0.74, 0.18], [0.0, 0.18]].freeze
      LID = [[0.0, 0.0], [0.78, 0.0], [0.78, 0.1], [0.52, 0.2], [0.14, 0.25], [0.13, 0.37], [0.0, 0.37]].freeze

      # A squat kiln, open above.
      def pot_kiln = Geometry::Builders.turned(thrown(POT_KILN), 64)

      def lid = Geometry::Builders.turned(LID, 40)

      # A beehive kiln with an open chimney, hollow, its walls some 14 cm thick.
      def kiln = Geometry::Builders.turned(thrown([[0.0, 0.0]] + KILN), 72)

      def vase = Geometry::Builders.turned(thrown(VASE), 56)

      # What the vase holds, as a body of its own, closed at its neck.
      def vase_inside =
        Geometry::Builders.turned(
          thrown(VASE.last(8).reverse.map { |radius, height| [radius, height] } + [[0.0, 0.615]]), 56
        )

      def bowl = Geometry::Builders.turned(thrown(BOWL), 56)

      # An outline with its corners cut twice (Chaikin 1974), as a potter's hand leaves them.
      def thrown(outline)
        2.times.reduce(outline) do |points, _|
          cut =
            points
              .each_cons(2)
              .flat_map { |a, b| [0.25, 0.75].map { |t| a.zip(b).map { |from, to| from + t * (to - from) } } }
          [points.first, *cut, points.last]
        end
      end

      # The arched frame around the firing mouth.
      def arch(radius: 0.34, thick: 0.11, deep: 0.3, foot: 0.22)
        ring = lambda do |r|
          [[-r, 0.0], [-r, foot]] +
            (1..15).map { |n| [-r * Math.cos(Math::PI * n / 16), foot + r * Math.sin(Math::PI * n / 16)] } +
            [[r, foot], [r, 0.0]]
        end
        swept(ring.call(radius), ring.call(radius + thick), deep)
      end

      # A trough hewn from one block, brim-full: outer and inner box joined at the rim.
      def trough(length: 1.5, width: 0.52, height: 0.46, wall: 0.08, water: 0.41)
        level = lambda { |l, w, y| [[-l, y, w], [l, y, w], [l, y, -w], [-l, y, -w]] }
        outer, inner = [length / 2, width / 2], [length / 2 - wall, width / 2 - wall]
        rings = [level.call(outer[0] - 0.04, outer[1] - 0.04, 0.0), level.call(*outer, height),
          level.call(*inner, height), level.call(*inner, water)]
        sides = rings.each_cons(2).each_with_index.flat_map do |_, n|
          4.times.flat_map { |i| quad(4 * n + i, 4 * n + (i + 1) % 4, 4 * n + 4 + (i + 1) % 4, 4 * n + 4 + i) }
        end
        Geometry::Mesh.from(rings.flatten, sides + quad(3, 2, 1, 0) + quad(12, 13, 14, 15))
      end

      # A stack of split logs, each a little out of line.
      def logs(count: 9, length: 0.7, radius: 0.075)
        random = Random.new(7)
        rows = []
        left = count
        row = 0
        per = 4
        while left.positive?
          here = [per - row, left].min
          here.times { |i| rows << [(i - (here - 1) / 2.0) * radius * 2.05, radius + row * radius * 1.76] }
          left -= here
          row += 1
        end
        Geometry::Mesh.joined(rows.map do |x, y|
          Geometry::Builders.cylinder(radius * random.rand(0.86..1.0), length * random.rand(0.9..1.05), sides: 10)
            .transformed(Geometry::Transform.place(position: [x, y, random.rand(-0.03..0.03)],
              turn: [90.0, random.rand(-3.0..3.0), random.rand(0.0..90.0)]))
        end)
      end

      # The body between two outlines in the x-y plane, `deep` along z, centred.
      def swept(inner, outer, deep)
        count = inner.size
        points =
          [[inner, 1], [outer, 1], [outer, -1], [inner, -1]].flat_map do |ring, side|
            ring.flat_map { |x, y| [x, y, side * deep / 2] }
          end
        faces = 4.times.flat_map do |n|
          a, b = n * count, (n + 1) % 4 * count
          (count - 1).times.flat_map { |i| quad(a + i, a + i + 1, b + i + 1, b + i) }
        end
        ends = quad(0, count, 2 * count, 3 * count) + quad(4 * count - 1, 3 * count - 1, 2 * count - 1, count - 1)
        Geometry::Mesh.from(points, faces + ends)
      end

      def quad(a, b, c, d) = [a, b, c, a, c, d]
      private_class_method :swept, :quad
    end
  end
end
