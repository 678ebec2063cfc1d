# frozen_string_literal: true

module Vumbral
  module Sculpt
    # How fast what sculpts hold goes along: that of a run as it flowed there, at the pace at which it is played and
    # turned as it stands; that of what is moved by how far it came since the frame before. Where several lie in each
    # other, each counts by its density.
    class Drift
      # So many bricks are worked on at once.
      SLICE = 256

      # @!attribute flow [Grid::VectorField, nil] m/s at cells; nothing for what goes as a whole alone
      # @!attribute lattice [Grid::Lattice] of these cells
      # @!attribute stands [Geometry::Transform, nil] where they stand now
      # @!attribute pace [Float] how many times as fast it is played as it was made
      # @!attribute goes [Array<Float>, nil] three rows of four: how fast a place of it goes as a whole, m/s
      Source = Struct.new(:flow, :lattice, :stands, :pace, :goes) do
        # For kernels, one axis (0 x, 1 y, 2 z): from the world to where it was made, then what its own velocity and its
        # place count for.
        # @return [Kernel::Buffer] f32 [19]
        def way(axis)
          stands = self.stands || Geometry::Transform.identity
          turn = stands.rows[axis].first(3)
          # It is turned, and grows as what holds it was made larger.
          Kernel::Buffer.of(
            :f32,
            stands.inverse.rows.first(3).flatten + turn.map { |c| c * pace } + (goes ? goes[4 * axis, 4] : [0.0] * 4)
          )
        end
      end

      # @param parts [Array<Array(Field, Source)>] densities on one lattice, each with how it goes; nothing for what
      #   rests
      def initialize(parts)
        @parts = parts
      end

      # @return [Boolean] whether anything goes at all
      def any? = @parts.any?(&:last)

      # @param values [Kernel::Buffer] f16 [n, channels, 4096] written; @param places [Kernel::Buffer] i32 [n, 3]
      # @param first [Integer] the channel of x; y and z follow
      def write(values, places, first)
        lattice = @parts[0][0].lattice
        (0...places.dim(0)).step(SLICE) do |from|
          count = [SLICE, places.dim(0) - from].min
          some = Kernel::Buffer.new(:i32, count, 3, bytes: places.bytes.byteslice(12 * from, 12 * count))
          3.times { |axis| DriftKernels.lay(values, gathered(some, lattice, axis), from, first + axis) }
        end
      end

      private

      def gathered(places, lattice, axis)
        sums = Kernel::Buffer.new(:f32, places.dim(0), 2, 4096)
        @parts.each do |density, source|
          DriftKernels.gather(
            sums, places, lattice, density.cells, source&.flow || REST, source&.lattice || lattice,
            source ? source.way(axis) : NOWHERE, axis
          )
        end
        sums
      end

      REST = Grid::VectorField.still([1, 1, 1])
      NOWHERE = Kernel::Buffer.of(:f32, [1.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.0] + [0.0] * 7)
      private_constant :REST, :NOWHERE
    end
  end
end
