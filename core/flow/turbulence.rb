# frozen_string_literal: true

module Vumbral
  module Flow
    # Pushes what a gas carries about without making or taking any air: the curl of a potential
    # of noise has no divergence (Bridson, Houriham & Nordenstam 2007).
    class Turbulence
      # Smaller swirls than this many cells would show the grid in the smoke as a weave.
      LEAST_CELLS = 4.0
      # Each octave is twice as fine and pushes half as hard, so its potential is a quarter.
      FALL = 0.25
      # No harder than so many times what gas at rest would be pushed, where the gas moves against it.
      MOST_KICK = 2.0
      # Where it acts: everywhere, and how much of it for each unit of smoke, kelvin, metre a second.
      MASKS = {"everywhere" => [1.0, 0.0, 0.0, 0.0], "content" => [0.0, 4.0, 0.05, 0.0], "smoke" => [0.0, 2.0, 0.0, 0.0],
               "heat" => [0.0, 0.0, 0.004, 0.0], "speed" => [0.0, 0.0, 0.0, 0.5]}.freeze

      # @param size [Array<Integer>] cells along z, y, x
      def initialize(size)
        @size = size
        @tables = {}
        @share = Kernel::Buffer.new(:f32, *size)
      end

      # @param push [Array<Kernel::Buffer>] acceleration at centres (m/s²), added to
      # @param scratch [Array<Kernel::Buffer>] three of the same shape, overwritten
      # @param power [Float] what it puts into each part that is stirred wholly, m²/s³, whatever the voxels
      #   and the step; @param dt [Float] seconds; @param cells [Float] cells a swirl
      # @param time [Float] counts changes; @param seed [Integer]; @param octaves [Integer]
      # @param mask [String] one of {MASKS}; @param weight [Kernel::Buffer, nil] a falloff on top
      def stir(push, scratch, state, power:, dt:, cells:, time:, seed:, octaves: 2, mask: "content", weight: nil)
        cells = [cells, LEAST_CELLS].max
        TurbulenceKernels.shares(@share, state.smoke, state.heat, state.u, state.v, state.w, weight || state.smoke,
          !weight.nil?, *MASKS.fetch(mask))
        octaves.times do |n|
          finer = 2.0**n
          break if n.positive? && cells / finer < LEAST_CELLS

          add_octave(scratch, state.origin, finer / cells, finer * time, seed * 3 + 101 + 7 * n, FALL**n, n)
        end
        TurbulenceKernels.stir(*push, *scratch, @share, gain(state, scratch, power, dt))
      end

      # @return [Kernel::Buffer] how far each cell takes part in what a mask of {MASKS} says, 0 to 1
      def shares(state, mask)
        TurbulenceKernels.shares(@share, state.smoke, state.heat, state.u, state.v, state.w, state.smoke, false,
          *MASKS.fetch(mask))
        @share
      end

      private

      # How strongly to push, m/s² for a unit of the potential's curl, so that the energy put in is what
      # the power says: a push along what already moves works more than one against it.
      def gain(state, scratch, power, dt)
        along, square, whole = TurbulenceKernels.work(*scratch, @share, state.u, state.v, state.w)
        return 0.0 unless square.positive?

        from_rest = Math.sqrt(2.0 * power.abs * whole * square * dt)
        gain = (Math.sqrt(along * along + from_rest * from_rest) - along) / (square * dt)
        return gain if gain.nan?

        [gain, MOST_KICK * from_rest / (square * dt)].min * (power <=> 0.0)
      end

      # The noise stands in the chamber, not in the part of it that is computed.
      def add_octave(scratch, origin, per, time, seed, gain, n)
        starts = origin.map { |c| c * per + 0.37 * n }
        first = starts.map(&:floor)
        table = table(per)
        TurbulenceKernels.lattice(table, *first, time, seed)
        TurbulenceKernels.octave(*scratch, @share, table, per, *starts.zip(first).map { |a, b| a - b }, gain, n.zero?)
      end

      # A point more than the last cell needs on either side.
      def table(per)
        @tables.clear if @tables.size > 16
        @tables[per] ||= Kernel::Buffer.new(:f32, 3, *@size.map { |n| (n * per).ceil + 4 })
      end
    end
  end
end
