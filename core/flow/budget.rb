# frozen_string_literal: true

module Vumbral
  module Flow
    # Keeps amounts where they belong while they are carried: what interpolation makes or loses is found
    # out around nodes eight cells apart, by where each value has come from, and settled there, within the
    # bounds of what was mixed (after Priestley 1993 and Bermejo & Conde 2002, who do it for all at once:
    # then what one place gains another loses, wherever it is).
    class Budget
      # No way is longer than so many cells when it is told what has left.
      FARTHEST = 64

      # @param size [Array<Integer>] cells along z, y, x
      def initialize(size)
        counts = size.map { |n| (n - 1).fdiv(BudgetKernels::EDGE).round + 3 }
        slabs = [size[0], size[1]].max.fdiv(BudgetKernels::EDGE).ceil
        @nodes = Kernel::Buffer.of(:i32, counts)
        @parts = Kernel::Buffer.new(:f64, slabs, counts.reduce(:*), 2)
        @found = Kernel::Buffer.new(:f64, counts.reduce(:*), 2)
        @share = Kernel::Buffer.new(:f32, *counts)
        @sums = Kernel::Buffer.new(:f64, (size[0] + 1) / 2, 2)
      end

      # @return [Kernel::Buffer] f64 [node, 2], what a field holds around each node
      def amounts(field)
        BudgetKernels.stand(@parts, field, @nodes)
        Kernel::Buffer.new(:f64, *@found.shape).tap { |sums| BudgetKernels.add_up(sums, @parts) }
      end

      # @param field [Kernel::Buffer] before it was carried; @param ways [Kernel::Buffer]
      # @param open [Kernel::Buffer] f32 [6], 1 for an open side
      # @return [Float] what leaves through open sides, values times cells
      def left(field, ways, open)
        BudgetKernels.leave_sides(@parts, field, ways, open, FARTHEST, @nodes) +
          BudgetKernels.leave_ends(@parts, field, ways, open, FARTHEST, @nodes)
      end

      # Settles a carried field. @param before [Kernel::Buffer] the same before it was carried
      # @param room [Kernel::Buffer] how far each value may be changed; used up
      # @param wanted [Kernel::Buffer] from {#amounts}
      # @return [Array(Float, Float, Float)] sum of values, room that is left, and what has left the box
      def settle(field, before, room, ways, open, wanted)
        BudgetKernels.come(@parts, field, room, ways, @nodes)
        left = left(before, ways, open)
        BudgetKernels.add_up(@found, @parts)
        BudgetKernels.compare(@share, wanted, @found)
        BudgetKernels.settle(field, room, ways, @share, @sums)
        sum, rooms = @sums.to_a.each_slice(2).reduce([0.0, 0.0]) { |(a, b), (c, d)| [a + c, b + d] }
        [sum, rooms, left]
      end
    end
  end
end
