# frozen_string_literal: true

module Vumbral
  module Gas
    # Cooling that sees the smoke: hot gas radiates by the fourth power (Nguyen, Fedkiw & Jensen 2002), and
    # what it gives off leaves it only as far as the smoke around lets it. So a thick ball cools from
    # outside and stays hot within. Six sweeps along the axes, on cells twice as large.
    class Radiation
      # @param size [Array<Integer>] cells along z, y, x; @param voxel [Float] metres
      def initialize(size, voxel)
        @voxel = voxel
        @glow, @thick, @taken = Array.new(3) { Kernel::Buffer.new(:f32, *size.map { |n| [(n + 1) / 2, 2].max }) }
      end

      # @param state [State] its heat is changed
      # @param cooling [Float] K/s that clear gas loses 1000 K above the surroundings
      # @param shield [Float] per metre: how thick smoke of density 1 is for heat
      def cool(state, cooling, shield, dt)
        rate = cooling / 1e12
        RadiationKernels.gather(@glow, @thick, state.smoke, state.heat, rate, shield * @voxel)
        @taken.fill(0.0)
        3.times { |axis| RadiationKernels.sweep(@taken, @glow, @thick, axis) }
        RadiationKernels.radiate(state.heat, @glow, @taken, 3.0 * rate * dt, dt)
      end
    end
  end
end
