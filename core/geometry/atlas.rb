# frozen_string_literal: true

module Vumbral
  module Geometry
    # Lays the parts of a surface side by side into one picture: each turned so that it takes little room, the tallest
    # first, in rows.
    class Atlas
      # Ways to turn a part, and widths of the whole that are tried.
      TURNS, WIDTHS = 12, 24
      # A part as it lies: its number, places of its faces' corners, and its size.
      Piece = Struct.new(:number, :places, :width, :height)
      private_constant :TURNS, :WIDTHS, :Piece

      # @param charts [Array<Charts::Chart>]; @param gap [Float] between parts, of the picture's width
      def initialize(charts, gap)
        @pieces =
          charts.each_with_index.map { |chart, n| turned(chart, n) }.sort_by { |piece| [-piece.height, piece.number] }
        @gap = gap
      end

      # @return [Array<Array<Array<Array<Float>>>>] of each part, of each of its faces, its corners in the picture, 0 to
      #   1
      def places
        whole = Math.sqrt(@pieces.sum { |piece| piece.width * piece.height })
        # The gap is a part of what comes of it, so it is told by a size that is near.
        gap = @gap * whole * 1.15
        best =
          Array
            .new(WIDTHS) { |n| rows([whole * (0.8 + 0.05 * n), @pieces.map(&:width).max + 2 * gap].max, gap) }
            .min_by { |size, _| size }
        laid = Array.new(@pieces.size)
        @pieces.zip(best[1]).each do |piece, (x, y)|
          laid[piece.number] = piece.places.map do |corners|
            corners.map { |u, v| [(u + x) / best[0], (v + y) / best[0]] }
          end
        end
        laid
      end

      private

      # With its lowest corner at nothing.
      def turned(chart, number)
        points = chart.places.flatten(1)
        best = (0...TURNS).map { |n| n * Math::PI / 2 / TURNS }.min_by do |angle|
          sides(points, Math.cos(angle), Math.sin(angle)).map { |low, high| high - low }.reduce(:*)
        end
        cosine, sine = Math.cos(best), Math.sin(best)
        (left, right), (low, high) = sides(points, cosine, sine)
        lie = (right - left >= high - low) ? ->(u, v) { [u - left, v - low] } : ->(u, v) { [v - low, right - u] }
        places =
          chart.places.map { |corners| corners.map { |u, v| lie.call(cosine * u - sine * v, sine * u + cosine * v) } }
        Piece.new(number, places, *[right - left, high - low].minmax.reverse)
      end

      def sides(points, cosine, sine)
        us, vs = points.map { |u, v| cosine * u - sine * v }, points.map { |u, v| sine * u + cosine * v }
        [us.minmax, vs.minmax]
      end

      # @return [Array(Float, Array)] how large a square holds them, and where each begins
      def rows(width, gap)
        x, y, tall, far = gap, gap, 0.0, 0.0
        places = @pieces.map do |piece|
          if x > gap && x + piece.width + gap > width
            x, y, tall = gap, y + tall + gap, 0.0
          end
          tall = [tall, piece.height].max
          place = [x, y]
          x += piece.width + gap
          far = [far, x].max
          place
        end
        [[far, y + tall + gap, 1e-9].max, places]
      end
    end
  end
end
