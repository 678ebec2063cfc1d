# frozen_string_literal: true

module Vumbral
  module Grid
    # Three fields of the same shape that are the parts of a vector at each cell.
    VectorField = Kernel::Record.of(x: Kernel::Types::F32[3], y: Kernel::Types::F32[3], z: Kernel::Types::F32[3]) do
      # @param size [Array<Integer>] cells along z, y, x
      # @return [VectorField] of nothing
      def self.still(size) = new(*Array.new(3) { Kernel::Buffer.new(:f32, *size) })
    end
  end
end
