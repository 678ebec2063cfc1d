# frozen_string_literal: true

module Vumbral
  module Liquid
    # Particles that carry a liquid, sorted by the cells they are in. `at` f32 [n, 3] is where each is (cells from the
    # chamber's lowest corner), `speed` f32 [n, 3] m/s, `turn` f32 [n, 9] how its speed changes along x, y and z (1/s,
    # a row for each part of the speed), `born` f32 [n] seconds, `id` i32 [n].
    Drops = Kernel::Record.of(at: Kernel::Types::F32[2], speed: Kernel::Types::F32[2], turn: Kernel::Types::F32[2],
      born: Kernel::Types::F32[1], id: Kernel::Types::I32[1]) do
      # @param count [Integer] @return [Drops] at rest in the corner
      def self.of(count)
        new(Kernel::Buffer.new(:f32, count, 3), Kernel::Buffer.new(:f32, count, 3), Kernel::Buffer.new(:f32, count, 9),
          Kernel::Buffer.new(:f32, count), Kernel::Buffer.new(:i32, count))
      end

      # @return [Integer]
      def count = at.dim(0)

      # @return [Drops] those of both, one after the other
      def with(other)
        return self if other.count.zero?
        return other if count.zero?

        all = count + other.count
        Drops.new(*to_a.zip(other.to_a).map { |one, two| Kernel::Buffer.new(one.type.name, all, *one.shape.drop(1), bytes: one.bytes + two.bytes) })
      end
    end
  end
end
