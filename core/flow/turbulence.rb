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

      # @param size [Array<Integer>] cells along z, y, x
      def initialize(size)
        @size = size
        @tables = {}
        @potential = Grid::VectorField.still(size)
        @rows = Kernel::Buffer.new(:f64, size[0], 3)
      end

      # @param push [Grid::VectorField] acceleration at centres (m/s²), added to
      # @param stirring [Stirring]; @param dt [Float] seconds
      def stir(push, state, stirring, dt)
        cells = [stirring.cells, LEAST_CELLS].max
        share = shares(state, stirring.mask, stirring.falloff)
        stirring.octaves.times do |n|
          break if n.positive? && cells / 2.0**n < LEAST_CELLS

          add_octave(share, state.origin, cells, stirring, n)
        end
        TurbulenceKernels.stir(push, @potential, share, gain(share, state, stirring.power, dt))
      end

      # @param mask [String] a name of {Mask}; @param falloff [Kernel::Buffer, nil] on top
      # @return [Kernel::Buffer] how far each cell takes part, 0 to 1; holds until this is asked again
      def shares(state, mask, falloff = nil)
        return @everywhere ||= Kernel::Buffer.new(:f32, *@size).fill(1.0) if mask == "everywhere" && !falloff

        @share ||= Kernel::Buffer.new(:f32, *@size)
        TurbulenceKernels.shares(@share, state.smoke, state.heat, state.faces, falloff || state.smoke, !falloff.nil?,
          Mask::NAMED.fetch(mask))
        @share
      end

      private

      # How strongly to push, m/s² for a unit of the potential's curl, so that the energy put in is what
      # the power says: a push along what already moves works more than one against it.
      def gain(share, state, power, dt)
        along, square, whole = TurbulenceKernels.work(@rows, @potential, share, state.faces)
        return 0.0 unless square.positive?

        from_rest = Math.sqrt(2.0 * power.abs * whole * square * dt)
        gain = (Math.sqrt(along * along + from_rest * from_rest) - along) / (square * dt)
        return gain if gain.nan?

        [gain, MOST_KICK * from_rest / (square * dt)].min * (power <=> 0.0)
      end

      # The noise stands in the chamber, not in the part of it that is computed.
      def add_octave(share, origin, cells, stirring, n)
        per = 2.0**n / cells
        starts = origin.map { |c| c * per + 0.37 * n }
        first = starts.map(&:floor)
        table = table(per)
        TurbulenceKernels.lattice(table, *first, 2.0**n * stirring.time, stirring.seed * 3 + 101 + 7 * n)
        TurbulenceKernels.octave(@potential, share, table,
          Octave.new(per, *starts.zip(first).map { |a, b| a - b }, FALL**n, n.zero?))
      end

      # A point more than the last cell needs on either side.
      def table(per)
        @tables.clear if @tables.size > 16
        @tables[per] ||= Kernel::Buffer.new(:f32, 3, *@size.map { |n| (n * per).ceil + 4 })
      end
    end
  end
end
