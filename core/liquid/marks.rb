# frozen_string_literal: true

module Vumbral
  module Liquid
    # On which faces a speed is known (1).
    Marks = Kernel::Record.of(u: Kernel::Types::U8[3], v: Kernel::Types::U8[3], w: Kernel::Types::U8[3]) do
      # @param size [Array<Integer>] cells along z, y, x
      def self.none(size)
        nz, ny, nx = size
        new(
          Kernel::Buffer.new(:u8, nz, ny, nx + 1), Kernel::Buffer.new(:u8, nz, ny + 1, nx),
          Kernel::Buffer.new(:u8, nz + 1, ny, nx)
        )
      end
    end
  end
end
