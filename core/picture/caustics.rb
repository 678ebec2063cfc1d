# frozen_string_literal: true

module Vumbral
  module Picture
    # Where clear things gather the sun's light and where they take it away: on the floor of a pool, beside a glass. A
    # grid across the sun's way holds how much light comes to each place behind them (after Shah, Konttinen & Pattanaik
    # 2007).
    module Caustics
      # Cells along each side, at least and at most.
      SIDES = 96..512
      # Around clear things, of their size; and what lies within so much of it counts as the same place.
      AROUND, SAME = 0.15, 0.05
      # Above them other things cast shadows, metres.
      ABOVE = 200.0

      module_function

      # @return [Array(Kernel::Buffer, Kernel::Buffer)] {CausticKernels}' grid and lens, of nothing
      def none = @none ||= [Kernel::Buffer.new(:f32, 1, 5), Kernel::Buffer.new(:f32, 16).fill(-1.0)]

      # @param record [Scene]; @param lamps [Kernel::Buffer] as {Light::LampKernels} has them
      # @param width [Integer] of the picture, pixels
      # @return [Array(Kernel::Buffer, Kernel::Buffer)] of the brightest sun that casts shadows
      def of(record, lamps, width)
        sun = brightest(lamps)
        if sun.nil? ||
            (0...record.made.dim(0)).none? { |o| record.made[o, GlossKernels::CLEAR] > CausticKernels::CLEAR }
          return none
        end

        lens = Kernel::Buffer.of(:f32, [sun.to_f, *ways(lamps, sun), *[0.0] * 6])
        side = width.clamp(SIDES.begin, SIDES.end)
        return none unless fit(lens, record, side)

        hits, sums, map = [7, 5, 5].map { |numbers| Kernel::Buffer.new(:f32, side, numbers * side) }
        CausticKernels.follow(hits, record, lens)
        CausticKernels.gather(sums, hits, lens)
        CausticKernels.settle(map, sums, hits)
        [map, lens]
      end

      def brightest(lamps)
        suns =
          (0...lamps.dim(0)).select do |n|
            lamps[n, Light::LampKernels::SIZE] <= 0.0 && lamps[n, Light::LampKernels::SHADES] > 0.5
          end
        suns.max_by { |n| Array.new(3) { |c| lamps[n, Light::LampKernels::RED + c] }.sum }
      end

      # The way to a sun, and two ways across it.
      def ways(lamps, sun)
        to = Geometry::Vectors.unit(Array.new(3) { |c| lamps[sun, Light::LampKernels::PLACE + c] })
        across =
          Geometry::Vectors.unit(Geometry::Vectors.cross((to[1].abs < 0.9) ? [0.0, 1.0, 0.0] : [1.0, 0.0, 0.0], to))
        to + across + Geometry::Vectors.cross(to, across)
      end

      # Lays the grid around clear things. @return [Boolean] whether there are any
      def fit(lens, record, side)
        reach = Kernel::Buffer.new(:f32, 6)
        CausticKernels.bounds(reach, record.corners, record.owner, record.made, lens)
        low, high, near, far, clear, top = reach.to_a
        size = [high - low, far - near].max
        return false unless size.positive?

        whole = size * (1.0 + 2.0 * AROUND)
        numbers = [
          0.5 * (low + high - whole), 0.5 * (near + far - whole), whole / side, [top, clear + ABOVE].min + 1.0,
          1.5 * whole / side, SAME * whole
        ]
        numbers.each_with_index { |number, n| lens[10 + n] = number }
        true
      end
      private_class_method :brightest, :ways, :fit
    end
  end
end
