# frozen_string_literal: true

module Vumbral
  module Liquid
    # Sides from which waves come in, and sides that let them go: in a zone before each the liquid is drawn to the speed
    # that linear theory has there (Airy 1845), or to rest, more strongly the nearer the side is (after Jacobsen,
    # Fuhrman & Fredsøe 2012).
    class Waves
      SIDES = %w[x0 x1 z0 z1].freeze
      # How strongly zones hold: so many times in a period of the waves, or in the time that long ones take through.
      HOLDS, CALMS = 25.0, 12.0
      # So many periods pass until waves are as high as they are to be.
      GROWS = 1.0

      # @param row [Hash] from {Plan#at}: from, height, length, calms (sides), wide, line
      # @param gravity [Float] m/s²; @param voxel [Float]
      def initialize(row, gravity, voxel)
        @row, @gravity, @voxel = row, gravity.abs, voxel
      end

      # @return [Float] of the waves, radians a second: by their length and the water's depth
      def frequency = Math.sqrt(@gravity * number * Math.tanh(number * depth))

      # Adds what draws the liquid there.
      # @param push [Grid::VectorField] acceleration at cells' centres, added to; @param faces [Flow::Faces]
      # @param time [Float] seconds that have passed; @param dt [Float] of the step
      def push(push, faces, time, dt)
        return if dt <= 0.0 || @gravity <= 0.0

        WaveKernels.draw(push, faces, Kernel::Buffer.of(:f32, sides), Kernel::Buffer.of(:f32, swell(time)), @voxel, dt)
      end

      private

      def number = 2.0 * Math::PI / @row["length"]

      def depth = [@row["line"], 0.5 * @voxel].max

      def wide = [@row["wide"], 2.0 * @voxel].max

      # Of each side: 0 as it is, 1 calms, 2 sends waves; how wide its zone is, metres; and how strongly it holds, per
      # second.
      def sides
        SIDES.flat_map do |side|
          if side == @row["from"] then [2.0, wide, HOLDS * frequency / (2.0 * Math::PI)]
          elsif @row["calms"].include?(side) then [1.0, wide, CALMS * Math.sqrt(@gravity * depth) / wide]
          else [0.0, wide, 0.0]
          end
        end
      end

      # How high waves stand, one over their length, how far they have come, and how deep it is.
      def swell(time)
        grown = (time * frequency / (2.0 * Math::PI) / GROWS).clamp(0.0, 1.0)
        [
          0.5 * @row["height"] * grown * grown * (3.0 - 2.0 * grown), number, frequency,
          frequency * time % (2.0 * Math::PI), depth
        ]
      end
    end
  end
end
