# frozen_string_literal: true

module Vumbral
  module Picture
    # Finds an exposure by what a picture holds: its middle tones at a middle grey, unless that would burn out
    # what is bright.
    module Meter
      # Where middle tones shall lie, and the light that only few pixels may pass.
      GREY, WHITE = 0.18, 1.6
      FEW = 0.02
      # What is darker than this says nothing.
      LEAST = 1e-4

      module_function

      # @param light [Kernel::Buffer] f32 [height, width, 3], as it falls on the film at exposure 0
      # @return [Float] stops, in steps of a twentieth; 0 for a black picture
      def stops(light)
        values = light.to_a.each_slice(3).map { |r, g, b|
          0.2126 * r + 0.7152 * g + 0.0722 * b
        }.select { |value| value > LEAST }.sort
        return 0.0 if values.empty?

        middle = Math.exp(values.sum { |value| Math.log(value) } / values.size)
        bright = values[((1.0 - FEW) * (values.size - 1)).round]
        (20.0 * Math.log2([GREY / middle, WHITE / bright].min)).round / 20.0
      end
    end
  end
end
