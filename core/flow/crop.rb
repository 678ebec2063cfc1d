# frozen_string_literal: true

module Vumbral
  module Flow
    # Which part of the chamber the arrays cover: the content and the sources with a margin, in
    # whole bricks of eight cells, never beyond the chamber's bounds nor more cells than it may have.
    class Crop
      BRICK = 8
      # A part this much larger than needed is kept, so that arrays do not change all the time.
      LOOSE = 1.6
      LEAST = {smoke: 2e-3, heat: 0.5, fuel: 2e-3}.freeze

      # @param bounds [Array(Array<Integer>, Array<Integer>)] the chamber's first cell and the one after
      #   its last, along z, y, x
      # @param margin [Integer] cells
      # @param speed [Float, nil] m/s that count as content; nil: none does
      # @param most [Integer, nil] cells that it may have
      def initialize(bounds, margin, speed, most = nil)
        @low, @high = bounds
        @margin = margin
        @speed = speed
        @most = most
      end

      # @return [Boolean] whether the last {#fit} wanted more cells than it may have
      def full? = @full

      # @param state [State]
      # @param boxes [Array<Array(Array<Integer>, Array<Integer>)>] cells that sources cover, lowest
      #   and highest along z, y, x
      # @param reach [Integer] cells that the content may go in the step to come
      # @return [Array(Array<Integer>, Array<Integer>)] origin and size
      # @raise [Refused] where sources reach over more cells than it may have
      def fit(state, boxes, reach)
        boxes = [content(state), *boxes].compact
        return [state.origin, state.size] if boxes.empty?

        low = boxes.map(&:first).transpose.map(&:min)
        high = boxes.map(&:last).transpose.map(&:max)
        room = [@margin, reach + 2].max
        first = low.zip(@low).map { |c, least| [((c - room) / BRICK) * BRICK, least].max }
        last = high.zip(@high).map { |c, most| [((c + room) / BRICK + 1) * BRICK, most].min }
        first = first.zip(last, @low).map { |a, b, least| a.clamp(least, [b - BRICK, least].max) }
        size = last.zip(first).map { |b, a| b - a }
        @full = @most && size.reduce(:*) > @most
        return [state.origin, state.size] if @full && state.size.max > BRICK
        raise too_wide(size) if @full

        enough?(state, first, size) ? [state.origin, state.size] : [first, size]
      end

      private

      def too_wide(size)
        Refused.new(
          "Its sources alone reach over #{size.reverse.join(" x ")} voxels, and Voxels at most allows #{@most}; " \
            "feed from something smaller, or make the voxels larger.",
          code: "too_large"
        )
      end

      def enough?(state, first, size)
        inside = state.origin.zip(state.size, first, size).all? { |o, n, f, s| o <= f && o + n >= f + s }
        inside && state.size.reduce(:*) <= LOOSE * size.reduce(:*)
      end

      # Lowest and highest cell of the chamber that holds something.
      def content(state)
        layers = state.size[0] + 1
        rows = Kernel::Buffer.of(:i32, [1 << 20, -1, 1 << 20, -1] * layers, layers, 4)
        LEAST.each { |name, least| CropKernels.extent(rows, state[name], least) if state[name] }
        [state.u, state.v, state.w].each { |faces| CropKernels.extent(rows, faces, @speed) } if @speed
        filled = rows.to_a.each_slice(4).each_with_index.select { |row, _| row[1] >= 0 }
        return if filled.empty?

        ks = filled.map(&:last)
        rows = filled.map(&:first)
        low = [ks.min, rows.map { |row| row[2] }.min, rows.map { |row| row[0] }.min]
        high = [ks.max, rows.map { |row| row[3] }.max, rows.map { |row| row[1] }.max]
        [low, high].map { |corner| corner.zip(state.size, state.origin).map { |a, n, b| [a, n - 1].min + b } }
      end
    end
  end
end
