# frozen_string_literal: true

require "zlib"

module Vumbral
  module Demo
    # Pictures of motes, drawn by code: soft discs of many sizes, some of them in clouds.
    module Dust
      EDGE = 384

      module_function

      # @param seed [Integer]; @param count [Integer]; @param largest [Float] radius, parts of the picture
      # @return [String] a PNG with alpha
      def picture(seed, count, largest)
        random = Random.new(seed)
        alpha = Array.new(EDGE * EDGE, 0.0)
        count.times do
          # Many small ones, few large ones, which are fainter.
          radius = [EDGE * largest * random.rand**4, 1.2].max
          mote(
            alpha, [random.rand * EDGE, random.rand * EDGE], radius, (0.25 + 0.6 * random.rand) * (1.6 / radius)**0.45
          )
        end
        pixels = alpha.flat_map { |value| [250, 240, 222, (255.0 * [value, 1.0].min).round] }
        Studio::Pixels.png(Kernel::Buffer.of(:u8, pixels, EDGE, EDGE, 4))
      end

      def mote(alpha, (x, y), radius, strength)
        reach = (1.5 * radius).ceil
        (-reach..reach).each do |j|
          (-reach..reach).each do |i|
            px, py = x.round + i, y.round + j
            next unless px.between?(1, EDGE - 2) && py.between?(1, EDGE - 2)

            # Out of focus: nearly even, with a soft rim.
            edge = ((radius - Math.hypot(px - x, py - y)) / (0.35 * radius + 0.6) + 0.5).clamp(0.0, 1.0)
            alpha[py * EDGE + px] += strength * edge * edge * (3.0 - 2.0 * edge)
          end
        end
      end
      private_class_method :mote
    end
  end
end
