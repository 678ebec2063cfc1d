# frozen_string_literal: true

module Vumbral
  module Liquid
    # Surface tension as a jump of the pressure over the surface (Kang, Fedkiw & Liu 2000): the equations of the
    # pressure end there in what the surface's curve presses with, so that a drop at rest stays at rest.
    class Tension
      # How often how full cells are is softened before its curve is told.
      SOFTENED = 2
      # So many cells are softened beyond the surface.
      REACH = 4
      # The curve is told of so many steps later: what would swing up by itself dies away (after Sussman & Ohta 2009).
      AHEAD = 1.0
      # Of water, kg/m³: what counts is the tension by it.
      DENSITY = 1000.0
      # Curved like a drop of two cells at most.
      MOST_CURVED = 1.0

      # @param size [Array<Integer>] cells along z, y, x
      def initialize(size)
        @soft, @spare, @pressure = Array.new(3) { Kernel::Buffer.new(:f32, *size) }
      end

      # @return [Integer] the substeps that the shortest waves need (Brackbill, Kothe & Zemach 1992)
      # @param tension [Float] m³/s²: of the surface, by the density
      def self.substeps(tension, seconds, voxel) = Math.sqrt(tension / most(seconds, voxel)).ceil

      # @return [Float] the most that a step of so many seconds can carry, m³/s²
      def self.most(seconds, voxel) = voxel**3 / (2.0 * Math::PI * seconds**2)

      # @param full [Kernel::Buffer] f32 [z, y, x]
      # @param faces [Flow::Faces] speeds, known {REACH} cells beyond the surface
      # @return [Kernel::Buffer] f32 [z, y, x], the pressure at the surface near each cell, m/s as {PressureKernels}
      #   counts it
      def pressure(full, faces, tension, dt, voxel)
        TensionKernels.held(@soft, full)
        SOFTENED.times do
          3.times do |axis|
            TensionKernels.soften(@spare, @soft, axis)
            @soft, @spare = @spare, @soft
          end
        end
        TensionKernels.ahead(@spare, @soft, faces, AHEAD * dt / voxel)
        @soft, @spare = @spare, @soft
        TensionKernels.curve(@pressure, @soft, MOST_CURVED, [tension, Tension.most(dt, voxel)].min * dt / voxel**2)
        @pressure
      end
    end
  end
end
