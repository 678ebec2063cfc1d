# frozen_string_literal: true

module Vumbral
  module Gas
    # One box of a shot on the run's lattice: the node it comes from, its first cell and the one after its
    # last along z, y, x, and which sides are open. Cells are counted from the first chamber's corner.
    Room = Struct.new(:node, :low, :high, :open) do
      # @return [Array<Integer>] cells along z, y, x
      def size = high.zip(low).map { |b, a| b - a }

      # @return [Array(Array<Integer>, Array<Integer>), nil] the cells that both have
      def common(other_low, other_high)
        first = low.zip(other_low).map(&:max)
        last = high.zip(other_high).map(&:min)
        [first, last] if first.zip(last).all? { |a, b| a < b }
      end

      def overlaps?(other) = !common(other.low, other.high).nil?

      # @return [Array<Symbol>] its sides against which another stands
      def touched_by(other)
        Room::SIDES.each_key.select { |side| common_at(side, other) && !overlaps?(other) }
      end

      # @return [Array(Array<Integer>, Array<Integer>)] the layer of cells just outside a side
      def beyond(side)
        axis, upper = Room::SIDES.fetch(side)
        first, last = low.dup, high.dup
        first[axis] = upper ? high[axis] : low[axis] - 1
        last[axis] = first[axis] + 1
        [first, last]
      end

      # @return [Boolean] whether gas passes from one to the other
      def leads_to?(other)
        overlaps?(other) || touched_by(other).any? { |side| open[side] && other.open[Room::OPPOSITE.fetch(side)] }
      end

      private

      # Whether another begins right behind a side.
      def common_at(side, other)
        axis, upper = Room::SIDES.fetch(side)
        return unless upper ? other.low[axis] == high[axis] : other.high[axis] == low[axis]

        other.common(*beyond(side))
      end
    end

    # Which axis each side stands on (of z, y, x), and whether it is the upper one.
    Room::SIDES = {x0: [2, false], x1: [2, true], y0: [1, false], y1: [1, true], z0: [0, false],
                   z1: [0, true]}.freeze
    Room::OPPOSITE = {x0: :x1, x1: :x0, y0: :y1, y1: :y0, z0: :z1, z1: :z0}.freeze
  end
end
