# frozen_string_literal: true

module Vumbral
  module Geometry
    # Raises outlines to bodies: front and back, walls between them in so many pieces, and round edges.
    class Extrusion
      # @param contours [Contours]
      # @param depth [Float] metres along z, half to either side
      # @param bevel [Float] how far the edges are rounded off, metres; @param bevel_steps [Integer]
      # @param pieces [Integer] segments along the depth
      def initialize(contours, depth:, bevel: 0.0, bevel_steps: 3, pieces: 1)
        @contours = contours
        @depth = depth
        @bevel = [bevel, 0.5 * depth].min
        @bevel_steps = @bevel.positive? ? bevel_steps : 0
        @pieces = pieces
      end

      # @return [Mesh] closed
      def mesh
        points, triangles = [], []
        @contours.solids.each { |rings| solid(rings, points, triangles) }
        Mesh.from(points, triangles)
      end

      private

      def solid(rings, points, triangles)
        first = points.size / 3
        flat = rings.flatten(1)
        layers = layers()
        insets = rings.flat_map { |ring| insets(ring) }
        layers.each do |inset, z|
          flat.zip(insets).each { |(x, y), (u, v)| points.push(x + inset * u, y + inset * v, z) }
        end
        cap = cap(rings)
        last = first + (layers.size - 1) * flat.size
        triangles.concat(
          cap.flat_map { |a, b, c| [first + a, first + c, first + b] },
          cap.flat_map { |triangle| triangle.map { |n| last + n } }
        )
        start = 0
        rings.each do |ring|
          walls(first + start, ring.size, flat.size, layers.size, triangles)
          start += ring.size
        end
      end

      # How far inwards and how deep each layer lies, from the back to the front.
      def layers
        round = Array.new(@bevel_steps) { |n| n.to_f / @bevel_steps * Math::PI / 2 }
        edge = round.map { |angle| [@bevel * (1.0 - Math.sin(angle)), @bevel * (1.0 - Math.cos(angle))] }
        straight = Array.new(@pieces + 1) { |n| [0.0, -0.5 * @depth + @bevel + (@depth - 2 * @bevel) * n / @pieces] }
        back = edge.map { |inset, deep| [inset, -0.5 * @depth + deep] }
        # Nothing is left between two edges that meet.
        straight = straight.first(1) if @depth - 2 * @bevel <= 0.0
        back + straight + back.reverse.map { |inset, z| [inset, -z] }
      end

      # Ways inwards at each point, as long as keeps the walls parallel.
      def insets(ring)
        ring.each_index.map do |n|
          before, here, after = ring[n - 1], ring[n], ring[(n + 1) % ring.size]
          one, two = normal(before, here), normal(here, after)
          along = 1.0 + one[0] * two[0] + one[1] * two[1]
          [one[0] + two[0], one[1] + two[1]].map { |c| c / [along, 0.35].max }
        end
      end

      # To the left, which is inwards.
      def normal((a, b), (c, d))
        x, y = a - c, d - b
        length = Math.sqrt(x * x + y * y)
        length.positive? ? [-y / length, -x / length] : [0.0, 0.0]
      end

      def walls(start, count, step, layers, triangles)
        (layers - 1).times do |layer|
          low = start + layer * step
          count.times do |n|
            a, b = low + n, low + (n + 1) % count
            triangles.push(a, b, b + step, a, b + step, a + step)
          end
        end
      end

      # @return [Array<Array<Integer>>] triangles over a ring with holes, anticlockwise
      def cap(rings)
        flat = rings.flatten(1)
        starts = rings.reduce([0]) { |all, ring| all << all.last + ring.size }
        order = (0...rings[0].size).to_a
        holes = rings.each_index.drop(1).sort_by { |n| -rings[n].map(&:first).max }
        holes.each { |n| order = bridged(order, (starts[n]...starts[n + 1]).to_a, flat) }
        ring = Kernel::Buffer.of(:i32, order)
        triangles = Kernel::Buffer.new(:i32, [order.size - 2, 1].max, 3)
        made =
          EarKernels.clip(
            triangles, ring, Kernel::Buffer.of(:f64, flat.flatten, flat.size, 2), Kernel::Buffer.new(:i32, order.size),
            Kernel::Buffer.new(:i32, order.size)
          )
        triangles.to_a.each_slice(3).first(made)
      end

      # Hangs a hole on the ring by a cut from its rightmost point to one that is seen from there.
      def bridged(order, hole, points)
        from = hole.each_index.max_by { |n| points[hole[n]][0] }
        here = points[hole[from]]
        near = order.each_index.sort_by { |n| points[order[n]].zip(here).sum { |a, b| (a - b)**2 } }
        lines = [order, hole].flat_map { |ring| ring.zip(ring.rotate) }
        to =
          near.find { |n| lines.none? { |a, b| crosses?(here, points[order[n]], points[a], points[b]) } } || near.first
        order[0..to] + hole.rotate(from) + [hole[from]] + order[to..]
      end

      # Whether two pieces of lines cross, but for where they end in the same point.
      def crosses?(a, b, c, d)
        return false if [c, d].include?(a) || [c, d].include?(b)

        side = ->(p, q, r) { (q[0] - p[0]) * (r[1] - p[1]) - (r[0] - p[0]) * (q[1] - p[1]) }
        side.call(a, b, c) * side.call(a, b, d) <= 0.0 && side.call(c, d, a) * side.call(c, d, b) <= 0.0
      end
    end
  end
end
