# frozen_string_literal: true

module Vumbral
  module Sculpt
    # Values on a lattice: distances to a surface (metres, below 0 within) until a step makes a density of them.
    # @!attribute values [Kernel::Buffer] f32 [z, y, x]
    # @!attribute lattice [Grid::Lattice]
    # @!attribute as [Symbol] :distance or :density
    Volume = Struct.new(:values, :lattice, :as) do
      def with(values, as: self.as) = Volume.new(values, lattice, as)

      # @return [Array<Float>] the lowest corner of its cells, metres
      def corner = [lattice.x, lattice.y, lattice.z].map { |c| c - 0.5 * lattice.voxel }

      def voxel = lattice.voxel
    end
  end
end
