# frozen_string_literal: true

module Vumbral
  module Light
    # The colour of a body that glows by its temperature alone (Planck 1901), seen by the CIE 1931
    # standard observer (as fitted by Wyman, Sloan & Shirley 2013), in linear Rec. 709.
    module BlackBody
      # Second radiation constant, nanometre kelvin.
      C2 = 1.438776877e7
      # x, y, z: height, middle (nm), spread below and above it.
      OBSERVER = [
        [[1.056, 599.8, 37.9, 31.0], [0.362, 442.0, 16.0, 26.7], [-0.065, 501.1, 20.4, 26.2]],
        [[0.821, 568.8, 46.9, 40.5], [0.286, 530.9, 16.3, 31.1]],
        [[1.217, 437.0, 11.8, 36.0], [0.681, 459.0, 26.0, 13.8]]
      ].freeze
      REC709 = [[3.2404542, -1.5371385, -0.4985314], [-0.9692660, 1.8760108, 0.0415560],
        [0.0556434, -0.2040259, 1.0572252]].freeze
      # Kept values go from here, in even steps.
      LOWEST, STEP, COUNT = 500.0, 25.0, 320

      module_function

      # @param kelvin [Float] @return [Array<Float>] X, Y, Z; only their ratios mean anything
      def xyz(kelvin)
        sums = [0.0, 0.0, 0.0]
        (380..780).step(5) do |nm|
          power = nm**-5.0 / (Math.exp(C2 / (nm * kelvin)) - 1.0)
          OBSERVER.each_with_index { |lobes, n|
            sums[n] += power * lobes.sum { |height, middle, below, above|
              height * Math.exp(-0.5 * ((nm - middle) / ((nm < middle) ? below : above))**2)
            }
          }
        end
        sums
      end

      # @return [Array(Float, Float)] chromaticity
      def xy(kelvin) = xyz(kelvin).then { |all| all.first(2).map { |c| c / all.sum } }

      # @return [Array<Float>] linear Rec. 709 of luminance 1; what a screen cannot show is held to it
      def rgb(kelvin)
        x, y, z = xyz(kelvin)
        light = REC709.map { |row| [(row[0] * x + row[1] * y + row[2] * z) / y, 0.0].max }
        luminance = 0.2126 * light[0] + 0.7152 * light[1] + 0.0722 * light[2]
        light.map { |c| c / luminance }
      end

      # The same, quickly: between values that are kept, held within where they begin and end.
      def seen(kelvin)
        @table ||= Array.new(COUNT) { |n| rgb(LOWEST + n * STEP) }
        at = ((kelvin - LOWEST) / STEP).clamp(0.0, COUNT - 1.001)
        from, to = @table[at.floor, 2]
        from.zip(to).map { |a, b| a + (at % 1.0) * (b - a) }
      end
    end
  end
end
