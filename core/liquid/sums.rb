# frozen_string_literal: true

module Vumbral
  module Liquid
    # What particles give to the faces of cells, added up: f32 [z, y, 2·x], of each its speed times
    # weights, and the weights.
    Sums = Kernel::Record.of(u: Kernel::Types::F32[3], v: Kernel::Types::F32[3], w: Kernel::Types::F32[3]) do
      # @param size [Array<Integer>] cells along z, y, x
      # @return [Sums]
      def self.none(size) =
        new(
          *Flow::Faces.still(size).to_a.map { |field| Kernel::Buffer.new(:f32, *field.shape[0, 2], 2 * field.shape[2]) }
        )
    end
  end
end
