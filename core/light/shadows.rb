# frozen_string_literal: true

module Vumbral
  module Light
    # What props hide from each lamp, as pictures of depth from where it stands (Williams 1978): one for a sun or a
    # spot, six for a lamp that shines all round.
    class Shadows
      # Pixels along an edge.
      SUN, SPOT, SIDE = 2048, 1024, 640
      # Numbers of a face.
      WIDTH = 16
      SIDES = [[1, 0, 0], [-1, 0, 0], [0, 1, 0], [0, -1, 0], [0, 0, 1], [0, 0, -1]].freeze
      # A spot wider than this is looked at like one that shines all round, cosine of half of it.
      WIDE = 0.34

      # @param lamps [Kernel::Buffer]; @param scene [#corners] triangles f32 [m, 9]
      # @param low [Array<Float>], @param high [Array<Float>] corners of all that suns may light
      # @param coarse [Boolean] a quarter as fine
      def initialize(lamps, scene, low, high, coarse: false)
        @coarse = coarse
        @lamps, @corners = lamps, scene.corners
        @low, @high = low, high
      end

      # @return [Array(Kernel::Buffer, Kernel::Buffer)] pixels f32 [k], and the faces f32 [n, {WIDTH}]
      def made
        rows = @corners.dim(0).zero? ? [] : (0...@lamps.dim(0)).select { |n| shades?(n) }.flat_map { |n| faces(n) }
        start = 0
        rows.each do |row|
          row[15] = start.to_f
          start += row[14].to_i**2
        end
        maps = Kernel::Buffer.new(:f32, [start, 1].max).fill(-1e30)
        faces = Kernel::Buffer.of(:f32, rows.flatten, rows.size, WIDTH)
        rows.size.times { |n| ShadowKernels.draw(maps, faces, n, @corners) }
        [maps, faces]
      end

      private

      def shades?(n) =
        @lamps[n, LampKernels::SHADES] > 0.5 && 3.times.any? { |c| @lamps[n, LampKernels::RED + c].positive? }

      def faces(n)
        place = 3.times.map { |c| @lamps[n, LampKernels::PLACE + c] }
        return [sun(n, place)] if @lamps[n, LampKernels::SIZE] <= 0.5

        way = 3.times.map { |c| @lamps[n, LampKernels::WAY + c] }
        cosine = @lamps[n, LampKernels::EDGE]
        if @lamps[n, LampKernels::KIND] == Lamps::SPOT && cosine > WIDE
          return [face(n, place, way, Math.tan(Math.acos(cosine)) * 1.02, SPOT)]
        end

        sides = (@lamps[n, LampKernels::KIND] == Lamps::ROUND) ? SIDES : SIDES.select { |side| side.zip(way).sum { |a, b| a * b } > -0.75 }
        sides.map { |side| face(n, place, side.map(&:to_f), 1.002, SIDE) }
      end

      # Lamp, place, right and up (by one over how wide it sees), ahead, 0; pixels; where they begin.
      def face(n, place, way, wide, size)
        right, up = across(way).map { |vector| vector.map { |c| c / wide } }
        [n.to_f, *place, *right, *up, *way, 0.0, pixels(size), 0.0]
      end

      def sun(n, towards)
        middle = @low.zip(@high).map { |a, b| 0.5 * (a + b) }
        half = 0.5 * Math.sqrt(@low.zip(@high).sum { |a, b| (b - a)**2 })
        way = towards.map(&:-@)
        right, up = across(way).map { |vector| vector.map { |c| c / half } }
        [n.to_f, *middle, *right, *up, *way, 1.0, pixels(SUN), 0.0]
      end

      def pixels(size) = (@coarse ? size / 4 : size).to_f

      def across(way)
        right =
          Geometry::Vectors.unit(Geometry::Vectors.cross(way, (way[1].abs < 0.9) ? [0.0, 1.0, 0.0] : [1.0, 0.0, 0.0]))
        [right, Geometry::Vectors.cross(right, way)]
      end
    end
  end
end
