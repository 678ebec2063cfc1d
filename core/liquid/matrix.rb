# frozen_string_literal: true

module Vumbral
  module Liquid
    # Equations between cells that share a side: `own` is what each cell's value counts in its own equation (0 where there
    # is none), `x y z` how strongly it is tied to the next cell along each axis. `tie` is how strong plain ties are; `kinds`
    # and `rows` say where such are, after {MultigridKernels.look}.
    Matrix = Kernel::Record.of(own: Kernel::Types::F32[3], x: Kernel::Types::F32[3], y: Kernel::Types::F32[3],
      z: Kernel::Types::F32[3], kinds: Kernel::Types::U8[3], rows: Kernel::Types::U8[2], tie: Kernel::Types::F32) do
      # @param size [Array<Integer>] cells along z, y, x; @param tie [Float]
      # @return [Matrix] of nothing
      def self.none(size, tie = 1.0)
        new(*Array.new(4) { Kernel::Buffer.new(:f32, *size) }, Kernel::Buffer.new(:u8, *size), Kernel::Buffer.new(:u8, size[0], size[1]), tie)
      end
    end
  end
end
