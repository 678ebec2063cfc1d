# frozen_string_literal: true

module Vumbral
  module Liquid
    # Records of particles: a row of each part for each particle.
    module Joined
      # @return [Integer]
      def count = at.dim(0)

      # @return [Object] the first of them, in the same memory
      def head(count) = self.class.new(*to_a.map { |part| part.head(count) })

      # @return [Object] those of both, one after the other
      def with(other)
        return self if other.count.zero?
        return other if count.zero?

        all = count + other.count
        self.class.new(
          *to_a
            .zip(other.to_a)
            .map { |one, two| Kernel::Buffer.new(one.type.name, all, *one.shape.drop(1), bytes: one.bytes + two.bytes) }
        )
      end
    end
  end
end
