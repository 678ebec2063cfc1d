# frozen_string_literal: true

module Vumbral
  module Gas
    # Where one gas may be: a chamber, or several that gas passes between. Cells that no room holds are
    # the still air around (what comes there is let go) or, behind a closed side, a wall.
    class Domain
      # Beyond open sides a chamber that grows ends so many cells on, which is nowhere.
      FAR = 100_000
      INSIDE, OUTSIDE, WALL = 0, 1, 2

      # @return [Array(Array<Integer>, Array<Integer>)] first cell, and the one after the last, that may be
      #   computed, along z, y, x
      attr_reader :bounds, :rooms, :most

      # @param rooms [Array<Room>]; @param most [Integer, nil] cells that a single room may grow to past its
      #   open sides; nil where it does not grow
      def initialize(rooms, most: nil)
        @rooms = rooms
        @most = most if rooms.size == 1
        low = rooms.map(&:low).transpose.map(&:min)
        high = rooms.map(&:high).transpose.map(&:max)
        # One layer around several rooms for walls and for the air outside.
        @bounds = if rooms.size > 1 then [low.map { |c| c - 1 }, high.map { |c| c + 1 }]
        elsif @most then [far(low, %i[z0 y0 x0], -FAR), far(high, %i[z1 y1 x1], FAR)]
        else
          [low, high]
        end
      end

      # @param rooms [Array<Room>]
      # @return [Array<Array<Room>>] those that gas passes between, together; in order
      def self.joined(rooms)
        rooms.each_with_object([]) do |room, groups|
          met, others = groups.partition { |group| group.any? { |other| room.leads_to?(other) } }
          groups.replace(others + [(met.flatten + [room]).sort_by { |one| rooms.index(one) }])
        end.sort_by { |group| rooms.index(group[0]) }
      end

      # @return [Integer] cells that it computes at most
      def cells = @most || @rooms.sum { |room| room.size.reduce(:*) }

      # @return [Array(Array<Integer>, Array<Integer>)] where to begin (origin, size): the smallest part, or
      #   all of it
      def beginning(smallest)
        return [@bounds[0], @bounds[1].zip(@bounds[0]).map { |b, a| b - a }] unless smallest

        [@rooms[0].low, @rooms[0].size.map { |n| [n, Flow::Crop::BRICK].min }]
      end

      # Its own walls act only where a part meets them; elsewhere the edge is open.
      # @return [Hash{Symbol => Boolean}]
      def open_at(origin, size)
        low, high = @bounds
        Room::SIDES.to_h do |side, (axis, upper)|
          inner = upper ? origin[axis] + size[axis] < high[axis] : origin[axis] > low[axis]
          [side, inner || @rooms.size > 1 || @rooms[0].open[side]]
        end
      end

      # @return [Kernel::Buffer, nil] u8 of a part: what each cell is; nil where all is inside
      def mask(origin, size)
        return if @rooms.size == 1

        mask = Kernel::Buffer.new(:u8, *size).fill(OUTSIDE)
        closed =
          @rooms.flat_map do |room|
            Room::SIDES.keys.reject { |side| room.open[side] }.map { |side| [room, room.beyond(side)] }
          end
        closed.each { |_, slab| paint(mask, origin, slab, WALL) }
        @rooms.each { |room| paint(mask, origin, [room.low, room.high], INSIDE) }
        # A closed side against a room that it does not reach into stands in that room's first layer.
        closed.each do |room, slab|
          @rooms.each do |other|
            part = other.common(*slab)
            paint(mask, origin, part, WALL) if part && !other.equal?(room) && !other.overlaps?(room)
          end
        end
        mask
      end

      private

      def far(corner, sides, by) = corner.zip(sides).map { |c, side| @rooms[0].open[side] ? c + by : c }

      def paint(mask, origin, box, value)
        (k0, j0, i0), (k1, j1, i1) =
          box.map { |corner| corner.zip(origin, mask.shape).map { |c, o, n| (c - o).clamp(0, n) } }
        Flow::CropKernels.paint(mask, Grid::Region.new(k0, k1, j0, j1, i0, i1), value) if k1 > k0
      end
    end
  end
end
