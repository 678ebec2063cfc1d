# frozen_string_literal: true

module Vumbral
  module Finish
    # Follows a spot from picture to picture: found to a pixel where the correlation with its pattern is highest, then to a part
    # of one by steps that also find how the light has changed (Lucas & Kanade 1981; Baker & Matthews 2004).
    class Tracker
      STEPS = 24
      # Steps end here, pixels.
      FINE = 0.002
      # How far such steps may lead from the best whole pixel.
      ASTRAY = 1.5

      # Where it is at a frame, pixels from the left and from the top, and how like the pattern that is, to 1.
      Found = Struct.new(:frame, :x, :y, :sure)

      # Places evened by a bell; at the ends as far as there are neighbours on both sides, so that nothing is drawn inwards.
      # @param places [Array<Float>]; @param sigma [Float] frames
      # @return [Array<Float>]
      def self.even(places, sigma)
        return places if sigma <= 0.0

        places.each_index.map do |n|
          reach = [(3.0 * sigma).ceil, n, places.size - 1 - n].min
          weights = (-reach..reach).map { |by| Math.exp(-0.5 * (by / sigma)**2) }
          (-reach..reach).zip(weights).sum { |by, weight| weight * places[n + by] } / weights.sum
        end
      end

      # @param size [Integer] of the pattern, pixels; @param search [Integer] how far it may be from where it was going
      # @param adapts [Float] how much of the pattern is taken anew at each frame
      # @param least [Float] what is less like it than this is not it
      def initialize(size:, search:, adapts: 0.0, least: 0.6)
        @size = [size | 1, 7].max
        @search, @adapts, @least = [search, 1].max, adapts, least
      end

      # @param frames [Array<Integer>] in the order in which it is followed; it is known on the first
      # @param x [Float] and y where it is on the first one, pixels
      # @yield [frame] gives the picture, f32 [h, w, 4]
      # @return [Array<Found>] as far as it was found, the first one included
      def follow(frames, x, y)
        picture = grey(yield(frames[0]))
        pattern = cut(picture, x, y)
        found = [Found.new(frames[0], x, y, 1.0)]
        return found if flat?(pattern)

        frames.drop(1).each do |frame|
          picture = grey(yield(frame))
          place = refined(picture, pattern, *sought(picture, pattern, found)) or break
          found << Found.new(frame, *place)
          pattern = adapted(pattern, cut(picture, place[0], place[1])) if @adapts.positive?
        end
        found
      end

      private

      def grey(image) = Kernel::Buffer.new(:f32, *image.shape.first(2)).tap { |out| TrackKernels.grey(out, image) }

      # Places are of the pixel's corner, pictures are read at their middles.
      def cut(picture, x, y) = Kernel::Buffer.new(:f32, @size, @size).tap { |out| TrackKernels.cut(out, picture, y - 0.5, x - 0.5) }

      # Nothing can be found again where there is nothing to be seen.
      def flat?(pattern) = pattern.to_a.minmax.then { |low, high| high - low < 1e-3 }

      # Where it was going, or where it was.
      def expected(found)
        last, before = found[-1], found[-2]
        before ? [2.0 * last.x - before.x, 2.0 * last.y - before.y] : [last.x, last.y]
      end

      # The best whole pixel. @return [Array(Float, Float, Float)] place and likeness
      def sought(picture, pattern, found)
        x, y = expected(found)
        left, top = [x, y].map { |c| (c - 0.5 - 0.5 * (@size - 1)).round - @search }
        scores = Kernel::Buffer.new(:f32, 2 * @search + 1, 2 * @search + 1)
        TrackKernels.scores(scores, picture, pattern, top, left)
        best = scores.to_a.each_with_index.max_by { |score, _| score }
        row, column = best[1].divmod(2 * @search + 1)
        [left + column + 0.5 * (@size - 1) + 0.5, top + row + 0.5 * (@size - 1) + 0.5, best[0]]
      end

      # @return [Array(Float, Float, Float), nil] nothing where it slipped or left the frame
      def refined(picture, pattern, x, y, score)
        height, width = picture.shape
        return if score < @least || !x.between?(0.0, width) || !y.between?(0.0, height)

        from = [x, y]
        STEPS.times do
          dx, dy = step(sums(picture, pattern, x, y)) || break
          x, y = x + dx.clamp(-1.0, 1.0), y + dy.clamp(-1.0, 1.0)
          break if dx.abs + dy.abs < FINE
        end
        # Lost on the way: the whole pixel is better.
        x, y = from if (x - from[0]).abs > ASTRAY || (y - from[1]).abs > ASTRAY
        sure = likeness(sums(picture, pattern, x, y))
        (sure < @least) ? nil : [x, y, sure]
      end

      def sums(picture, pattern, x, y)
        rows = Kernel::Buffer.new(:f32, @size, 15)
        TrackKernels.sums(rows, picture, pattern, y - 0.5, x - 0.5)
        rows.to_a.each_slice(15).reduce { |a, b| a.zip(b).map(&:sum) }
      end

      # The picture is gain times pattern plus offset less the way along its slopes.
      def step(sums)
        xx, xy, xp, x1, xq, yy, yp, y1, yq, pp, p1, pq, one, q = sums
        Equations.solve([[xx, xy, -xp, -x1, -xq], [xy, yy, -yp, -y1, -yq], [-xp, -yp, pp, p1, pq], [-x1, -y1, p1, one, q]])&.first(2)
      end

      def likeness(sums)
        pp, p1, pq, one, q, qq = sums.values_at(9, 10, 11, 12, 13, 14)
        spread = (pp - p1 * p1 / one) * (qq - q * q / one)
        spread.positive? ? (pq - p1 * q / one) / Math.sqrt(spread) : 0.0
      end

      def adapted(pattern, now) = Kernel::Buffer.of(:f32, pattern.to_a.zip(now.to_a).map { |a, b| a + @adapts * (b - a) }, *pattern.shape)
    end
  end
end
