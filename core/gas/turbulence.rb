# frozen_string_literal: true

module Vumbral
  module Gas
    # Pushes what a gas carries about without making or taking any air: the curl of a potential
    # of noise has no divergence (Bridson, Houriham & Nordenstam 2007).
    class Turbulence
      # Each octave: how much finer it is, how strong, and where it begins in its lattice.
      OCTAVES = [[1.0, 1.0, 0.0], [2.0, 0.25, 0.37]].freeze
      # Swirls smaller than this many cells cannot be told from noise.
      LEAST_CELLS = 2.0

      # @param size [Array<Integer>] cells along z, y, x
      def initialize(size)
        @size = size
        @tables = {}
      end

      # @param push [Array<Kernel::Buffer>] acceleration at centres (m/s²), added to
      # @param scratch [Array<Kernel::Buffer>] three of the same shape, overwritten
      # @param strength [Float] m/s²; @param cells [Float] cells a swirl
      # @param time [Float] counts changes; @param seed [Integer]
      def call(push, scratch, state, strength:, cells:, time:, seed:)
        cells = [cells, LEAST_CELLS].max
        OCTAVES.each_with_index do |(finer, gain, shift), n|
          per = finer / cells
          table = table(per)
          TurbulenceKernels.lattice(table, finer * time, seed * 3 + 101 + 7 * n)
          TurbulenceKernels.octave(*scratch, state.smoke, state.heat, table, per, shift, gain, n.zero?)
        end
        TurbulenceKernels.stir(*push, *scratch, state.smoke, state.heat, strength * 0.5 * cells)
      end

      private

      # One point more than the last cell needs on either side.
      def table(per)
        @tables.clear if @tables.size > 8
        @tables[per] ||= Kernel::Buffer.new(:f32, 3, *@size.map { |n| (n * per).ceil + 3 })
      end
    end
  end
end
