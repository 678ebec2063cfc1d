# frozen_string_literal: true

module Vumbral
  module Liquid
    # Particles that carry a liquid, sorted by the cells they are in. `at` f32 [n, 3] is where each is (cells from the
    # chamber's lowest corner), `speed` f32 [n, 3] m/s, `turn` f32 [n, 9] how its speed changes along x, y and z (1/s,
    # a row for each part of the speed), `born` f32 [n] seconds, `id` i32 [n], `dye` u8 [n, 3] the root of its colour,
    # linear red, green and blue.
    Drops = Kernel::Record.of(at: Kernel::Types::F32[2], speed: Kernel::Types::F32[2], turn: Kernel::Types::F32[2],
      born: Kernel::Types::F32[1], id: Kernel::Types::I32[1], dye: Kernel::Types::U8[2]) do
      include Joined

      # @param count [Integer] @return [Drops] at rest in the corner
      def self.of(count)
        new(Kernel::Buffer.new(:f32, count, 3), Kernel::Buffer.new(:f32, count, 3), Kernel::Buffer.new(:f32, count, 9),
          Kernel::Buffer.new(:f32, count), Kernel::Buffer.new(:i32, count), Kernel::Buffer.new(:u8, count, 3))
      end
    end
  end
end
