# frozen_string_literal: true

module Vumbral
  module Liquid
    # What one frame's step came to: m/s, particles, cubic metres, and joules for each kilogram. `limited`: more
    # substeps were wanted than are allowed.
    Report = Struct.new(:substeps, :iterations, :residual, :left, :poured, :limited, :speed, :drops, :sprayed, :volume,
      :energy,
      keyword_init: true) do
      # @param state [State] as the frame leaves it; @param tally [Tally]; @param solver [Solver]
      def self.of(state, tally, solver)
        count, energy = solver.deep(state, Settings::GRAVITY)
        count += state.drops.count
        energy += state.drops.count.zero? ? 0.0 : FullKernels.energy(state.drops, Settings::GRAVITY, solver.voxel)
        new(
          **tally.to_h, speed: state.speed, drops: state.drops.count, sprayed: state.spray.count,
          volume: count * solver.voxel**3 / Plan::DROPS_PER_CELL, energy: count.zero? ? 0.0 : energy / count
        )
      end

      # @return [String, nil] what is no longer a number
      def broken = speed.finite? ? nil : "velocity"
    end
  end
end
