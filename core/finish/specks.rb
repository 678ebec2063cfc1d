# frozen_string_literal: true

module Vumbral
  module Finish
    # Specks that drift through the frame. Lengths are parts of its height.
    class Specks
      # So far beyond the frame they go before they come in again on the other side.
      ROOM = 0.1

      def initialize(count, seed)
        random = Random.new(seed)
        @all = Array.new(count) { Array.new(8) { random.rand } }
        @seed = seed
      end

      # @param seconds [Float]; @param size [Float] of the largest, %; @param drift [Float] and sink, % per s
      # @param shape [Float] width of the frame over its height
      # @return [Array<Array<Float>>] across, down, radius and brightness of each
      def at(seconds, size:, drift:, sink:, shape:)
        @all.each_with_index.map do |(x, y, large, near, turn, _), n|
          # What is near is large, quick and faint, for it is not sharp.
          far = drift / 100.0 * (0.4 + 1.2 * near)
          way = [0, 1].map { |axis| Grid::Noise.value(n * 1.7, axis * 9.1 + turn, 0.25 * seconds, 0.0, @seed) }
          dx = far * seconds * Math.cos(2.0 * Math::PI * turn) * 0.6 + far * way[0]
          dy =
            far * seconds * Math.sin(2.0 * Math::PI * turn) * 0.4 + far * way[1] +
            sink / 100.0 * seconds * (0.6 + 0.8 * near)
          radius = size / 100.0 * (0.15 + 0.85 * large**3)
          [
            wrapped(x * shape + dx, shape), wrapped(y + dy, 1.0), radius,
            (0.35 + 0.65 * Grid::Noise.value(n * 2.3, 0.7 * seconds, 3.1, 0.0, @seed).abs) * (1.0 - 0.7 * large)
          ]
        end
      end

      private

      def wrapped(at, edge) = (at + ROOM) % (edge + 2.0 * ROOM) - ROOM
    end
  end
end
