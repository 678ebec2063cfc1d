# frozen_string_literal: true

module Vumbral
  module Finish
    # One spot on its way: found to a pixel where the correlation with its pattern is highest, then to a part of one by
    # steps that also find how the light has changed (Lucas & Kanade 1981; Baker & Matthews 2004). What is to be passed
    # over does not count, and a spot behind it is waited for where it was going.
    class Trail
      STEPS = 24
      # Steps end here, pixels.
      FINE = 0.002
      # How far such steps may lead from the best whole pixel.
      ASTRAY = 1.5
      # A spot is hidden where more of its pattern than this is passed over.
      COVERED = 0.5

      # Where it is at a frame, pixels from the left and from the top, and how like the pattern that is, to 1.
      Found = Struct.new(:frame, :x, :y, :sure)

      # @return [Array<Found>] so far, the first one included
      attr_reader :found

      # @param picture [Kernel::Buffer] f32 [h, w], brightness; @param ignored [Kernel::Buffer] f32 [h, w], or one by
      #   one
      # @param frame [Integer] on which it is at `place`, pixels
      # @param how [Hash] size, search, adapts and least, as {Tracker#initialize} takes them
      def initialize(picture, ignored, frame, place, how)
        @size, @search, @adapts, @least = how.values_at(:size, :search, :adapts, :least)
        x, y = place
        @pattern = cut(picture, x, y)
        @found = [Found.new(frame, x, y, 1.0)]
        @hidden = 0
        @going = !flat?(@pattern) && !hidden?(ignored, x, y)
      end

      def going? = @going

      # Seeks it in the next picture.
      def on(picture, ignored, frame)
        x, y = expected
        return wait if hidden?(ignored, x, y)

        place = refined(picture, ignored, *sought(picture, ignored, x, y))
        # What comes out from behind something comes out piece by piece.
        return (@hidden.positive? ? wait : @going = false) unless place

        @hidden = 0
        @found << Found.new(frame, *place)
        @pattern = adapted(cut(picture, place[0], place[1])) if @adapts.positive?
      end

      private

      def wait = @going = (@hidden += 1) <= Tracker::HIDDEN

      # Places are of the pixel's corner, pictures are read at their middles.
      def cut(picture, x, y) =
        Kernel::Buffer.new(:f32, @size, @size).tap { |out| TrackKernels.cut(out, picture, y - 0.5, x - 0.5) }

      # Nothing can be found again where there is nothing to be seen.
      def flat?(pattern) = pattern.to_a.minmax.then { |low, high| high - low < 1e-3 }

      def hidden?(ignored, x, y) = ignored.dim(0) > 1 && cut(ignored, x, y).to_a.sum > COVERED * @size * @size

      # Where it was going, or where it was.
      def expected
        last, before = @found[-1], @found[-2]
        return [last.x, last.y] unless before

        ahead = (@hidden + 1.0) / (last.frame - before.frame).abs
        [last.x + ahead * (last.x - before.x), last.y + ahead * (last.y - before.y)]
      end

      # The best whole pixel. @return [Array(Float, Float, Float)] place and likeness
      def sought(picture, ignored, x, y)
        left, top = [x, y].map { |c| (c - 0.5 - 0.5 * (@size - 1)).round - @search }
        scores = Kernel::Buffer.new(:f32, 2 * @search + 1, 2 * @search + 1)
        TrackKernels.scores(scores, picture, ignored, @pattern, top, left)
        best = scores.to_a.each_with_index.max_by { |score, _| score }
        row, column = best[1].divmod(2 * @search + 1)
        [left + column + 0.5 * (@size - 1) + 0.5, top + row + 0.5 * (@size - 1) + 0.5, best[0]]
      end

      # @return [Array(Float, Float, Float), nil] nothing where it slipped or left the frame
      def refined(picture, ignored, x, y, score)
        height, width = picture.shape
        return if score < @least || !x.between?(0.0, width) || !y.between?(0.0, height)

        from = [x, y]
        STEPS.times do
          dx, dy = step(sums(picture, ignored, x, y)) || break
          x, y = x + dx.clamp(-1.0, 1.0), y + dy.clamp(-1.0, 1.0)
          break if dx.abs + dy.abs < FINE
        end
        # Lost on the way: the whole pixel is better.
        x, y = from if (x - from[0]).abs > ASTRAY || (y - from[1]).abs > ASTRAY
        sure = likeness(sums(picture, ignored, x, y))
        (sure < @least) ? nil : [x, y, sure]
      end

      def sums(picture, ignored, x, y)
        rows = Kernel::Buffer.new(:f32, @size, 15)
        TrackKernels.sums(rows, picture, ignored, @pattern, y - 0.5, x - 0.5)
        rows.to_a.each_slice(15).reduce { |a, b| a.zip(b).map(&:sum) }
      end

      # The picture is gain times pattern plus offset less the way along its slopes.
      def step(sums)
        xx, xy, xp, x1, xq, yy, yp, y1, yq, pp, p1, pq, one, q = sums
        Equations.solve(
          [[xx, xy, -xp, -x1, -xq], [xy, yy, -yp, -y1, -yq], [-xp, -yp, pp, p1, pq], [-x1, -y1, p1, one, q]]
        )&.first(2)
      end

      def likeness(sums)
        pp, p1, pq, one, q, qq = sums.values_at(9, 10, 11, 12, 13, 14)
        return 0.0 unless one.positive?

        spread = (pp - p1 * p1 / one) * (qq - q * q / one)
        spread.positive? ? (pq - p1 * q / one) / Math.sqrt(spread) : 0.0
      end

      def adapted(now) =
        Kernel::Buffer.of(:f32, @pattern.to_a.zip(now.to_a).map { |a, b| a + @adapts * (b - a) }, *@pattern.shape)
    end
  end
end
