# frozen_string_literal: true

module Vumbral
  module Finish
    # Where a layer's picture lies in the frame.
    class Placed
      SAME = [1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0].freeze

      # @param layer [Hash] from {Stack#at}; @param width [Integer] and height of its picture, pixels
      # @param frame [Array(Integer, Integer)] the frame's; @param full [Array(Integer, Integer)] that of the whole picture
      def initialize(layer, width, height, frame, full)
        @layer, @width, @height, @frame, @full = layer, width, height, frame, full
      end

      # @return [Array(Array<Float>, Float)] what takes a pixel of the frame to one of the picture, nine numbers, and how large
      #   the picture comes to be
      def to
        across, down = sizes.map { |size| size * @layer["scale"] / 100.0 }
        angle = @layer["turn"] * Math::PI / 180.0
        c, s = Math.cos(angle), Math.sin(angle)
        x, y = middle
        rows = [[c / across, s / across], [-s / down, c / down]]
        found = [*rows[0], 0.5 * @width - rows[0][0] * x - rows[0][1] * y, *rows[1], 0.5 * @height - rows[1][0] * x - rows[1][1] * y, 0.0, 0.0, 1.0]
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

      def middle
        spot = @layer["spot"] || [0.5, 0.5]
        steady = @layer["steady"] || [0.0, 0.0]
        [0, 1].map { |axis| @frame[axis] * (spot[axis] - steady[axis] + @layer[%w[x y][axis]] / 100.0) }
      end
    end
  end
end
