# frozen_string_literal: true

module Vumbral
  module Liquid
    # Equations between cells that share a side: `own` is what each cell's value counts in its own equation (0 where there
    # is none), `x y z` how strongly it is tied to the next cell along each axis.
    Matrix = Kernel::Record.of(own: Kernel::Types::F32[3], x: Kernel::Types::F32[3], y: Kernel::Types::F32[3],
      z: Kernel::Types::F32[3]) do
      # @param size [Array<Integer>] cells along z, y, x
      # @return [Matrix] of nothing
      def self.none(size) = new(*Array.new(4) { Kernel::Buffer.new(:f32, *size) })
    end
  end
end
