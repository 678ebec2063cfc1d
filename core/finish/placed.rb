# frozen_string_literal: true

module Vumbral
  module Finish
    # Where a layer's picture lies in the frame.
    class Placed
      SAME = [1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0].freeze

      # @param layer [Hash] from {Stack#at}; @param width [Integer] and height of its picture, pixels
      # @param frame [Array(Integer, Integer)] the frame's; @param full [Array(Integer, Integer)] that of the whole
      #   picture
      def initialize(layer, width, height, frame, full)
        @layer, @width, @height, @frame, @full = layer, width, height, frame, full
      end

      # A layer's picture with all that it is moved with.
      # @return [Array(Array<Float>, Float)] as {#to}
      def self.through(layer, width, height, frame, full)
        own = new(layer, width, height, frame, full).to
        layer.fetch("moved_with", []).reduce(own) do |(to, scale), above|
          back, larger = new(above, *frame, frame, full).to
          next [to, scale] if back == SAME

          rows, others = [to, back].map { |nine| nine.each_slice(3).to_a }
          [
            rows.map { |row| others.transpose.map { |column| row.zip(column).sum { |a, b| a * b } } }.flatten,
            scale * larger
          ]
        end
      end

      # @return [Array(Array<Float>, Float)] what takes a pixel of the frame to one of the picture, nine numbers, and
      #   how large the picture comes to be
      def to
        return cornered if @layer["pinned"]

        factor, turned = @layer["pair"] || [1.0, 0.0]
        factor, turned = 1.0 / factor, -turned if @layer["steady"]
        across, down = sizes.map { |size| size * @layer["scale"] / 100.0 * factor }
        angle = (@layer["turn"] + turned) * Math::PI / 180.0
        c, s = Math.cos(angle), Math.sin(angle)
        x, y = middle(factor, turned)
        rows = [[c / across, s / across], [-s / down, c / down]]
        found = [
          *rows[0], 0.5 * @width - rows[0][0] * x - rows[0][1] * y, *rows[1],
          0.5 * @height - rows[1][0] * x - rows[1][1] * y, 0.0, 0.0, 1.0
        ]
        [found.map { |n| n.round(9) }.then { |all| near?(all) ? SAME : all }, [across, down].min]
      end

      private

      def near?(all) = all.zip(SAME).all? { |a, b| (a - b).abs < 1e-6 }

      def sizes
        ratios = [@frame[0].fdiv(@width), @frame[1].fdiv(@height)]
        case @layer.fetch("fit", "stretch")
        when "fill" then [ratios.max] * 2
        when "whole" then [ratios.min] * 2
        when "pixels" then [@frame[1].fdiv(@full[1])] * 2
        else ratios
        end
      end

      # Where the picture's middle comes to lie; about a spot that is held still it turns and grows.
      def middle(factor, turned)
        spot = (@layer["spot"] || [0.5, 0.5]).zip(@frame).map { |part, edge| part * edge }
        spot = steadied(spot, factor, turned) if @layer["steady"]
        [0, 1].map { |axis| spot[axis] + @frame[axis] * @layer[%w[x y][axis]] / 100.0 }
      end

      def steadied(spot, factor, turned)
        now, first = @layer["steady"].map { |place| place.zip(@frame).map { |part, edge| part * edge } }
        angle = turned * Math::PI / 180.0
        x, y = spot.zip(now).map { |a, b| (a - b) * factor }
        [first[0] + Math.cos(angle) * x - Math.sin(angle) * y, first[1] + Math.sin(angle) * x + Math.cos(angle) * y]
      end

      # What takes four places of the frame to the picture's corners, as a projection does.
      def cornered
        corners = [[0.0, 0.0], [@width, 0.0], [@width, @height], [0.0, @height]]
        rows = @layer["pinned"].zip(corners).flat_map do |(u, v), (a, b)|
          x, y = u * @frame[0], v * @frame[1]
          [[x, y, 1.0, 0.0, 0.0, 0.0, -x * a, -y * a, a.to_f], [0.0, 0.0, 0.0, x, y, 1.0, -x * b, -y * b, b.to_f]]
        end
        found = Equations.solve(rows)
        return [[1.0, 0.0, 1e9, 0.0, 1.0, 1e9, 0.0, 0.0, 1.0], 1.0] unless found

        sides =
          [0, 1].map do |n|
            @layer["pinned"]
              .values_at(n, n + 1)
              .then { |a, b| Math.hypot((a[0] - b[0]) * @frame[0], (a[1] - b[1]) * @frame[1]) }
          end
        [found + [1.0], [sides[0] / @width, sides[1] / @height].min]
      end
    end
  end
end
