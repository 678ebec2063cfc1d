# frozen_string_literal: true

module Vumbral
  module Light
    # The sky over a shot: one colour all around, or a clear to hazy sky for the sun's height (Preetham,
    # Shirley & Smits 1999), scaled so that it lights a level sheet as strongly as the artist says.
    class Sky
      # Rows of five coefficients (A to E) for luminance, x and y: a times haze, plus b.
      PEREZ = [
        [[0.1787, -1.4630], [-0.3554, 0.4275], [-0.0227, 5.3251], [0.1206, -2.5771], [-0.0670, 0.3703]],
        [[-0.0193, -0.2592], [-0.0665, 0.0008], [-0.0004, 0.2125], [-0.0641, -0.8989], [-0.0033, 0.0452]],
        [[-0.0167, -0.2608], [-0.0950, 0.0092], [-0.0079, 0.2102], [-0.0441, -1.6537], [-0.0109, 0.0529]]
      ].freeze
      # Chromaticity of the zenith: by powers of haze (2, 1, 0), each by powers of the sun's angle (3 to 0).
      ZENITH = [
        [[0.00166, -0.00375, 0.00209, 0.0], [-0.02903, 0.06377, -0.03202, 0.00394], [0.11693, -0.21196, 0.06052, 0.25886]],
        [[0.00275, -0.00610, 0.00317, 0.0], [-0.04214, 0.08970, -0.04153, 0.00516], [0.15346, -0.26756, 0.06670, 0.26688]]
      ].freeze
      # The sun is taken to stand no lower than this, where the model ends (radians from the zenith).
      LOWEST = 1.55
      RINGS, AROUND = 24, 48

      # @param settings [Hash] "model", "strength", "colour", "below", "haze", "fade", "background", "sun"
      #   (direction to it, or nil)
      # @return [Kernel::Buffer] f32 [40] as {SkyKernels} take it
      def self.of(settings)
        modelled = settings["model"] == "clear"
        numbers = Array.new(40, 0.0)
        numbers[6] = settings["fade"].positive? ? 1.0 / settings["fade"] : 0.0
        numbers[7] = modelled ? 1.0 : 0.0
        numbers[33, 3] = settings["background"]
        level = settings["colour"].map { |c| c * settings["strength"] / Math::PI }
        modelled ? model(numbers, settings) : numbers[0, 3] = level
        numbers[3, 3] = numbers[0, 3].zip(settings["below"]).map { |light, part| light * part }
        Kernel::Buffer.of(:f32, numbers)
      end

      class << self
        private

        def model(numbers, settings)
          sun = settings["sun"] || [0.0, 1.0, 0.0]
          haze = settings["haze"]
          angle = [Math.acos(sun[1].clamp(-1.0, 1.0)), LOWEST].min
          flat = Math.sqrt(sun[0]**2 + sun[2]**2)
          sun = flat.positive? ? [sun[0] / flat * Math.sin(angle), Math.cos(angle), sun[2] / flat * Math.sin(angle)] : [0.0, 1.0, 0.0]
          numbers[8, 3] = sun
          coefficients = PEREZ.map { |rows| rows.map { |a, b| a * haze + b } }
          numbers[11, 15] = coefficients.flatten
          chi = (4.0 / 9 - haze / 120) * (Math::PI - 2 * angle)
          bright = [(4.0453 * haze - 4.9710) * Math.tan(chi) - 0.2155 * haze + 2.4192, 0.05].max
          chroma = ZENITH.map { |rows| rows.zip([haze**2, haze, 1.0]).sum { |row, part| part * row.zip([angle**3, angle**2, angle, 1.0]).sum { |a, b| a * b } } }
          numbers[26, 3] = [bright, *chroma].zip(coefficients).map { |value, (a, b, c, d, e)|
            value / ((1 + a * Math.exp(b)) * (1 + c * Math.exp(d * angle) + e * Math.cos(angle)**2))
          }
          numbers[29] = 1.0
          numbers[30, 3] = settings["colour"]
          scale(numbers, settings["strength"])
        end

        # Light on a level sheet is what the strength says.
        def scale(numbers, strength)
          light = falling(Kernel::Buffer.of(:f32, numbers))
          luminance = 0.2126 * light[0] + 0.7152 * light[1] + 0.0722 * light[2]
          numbers[29] = strength / [luminance, 1e-9].max
          numbers[0, 3] = light.map { |c| c * numbers[29] / Math::PI }
        end

        # Red, green and blue that fall on a level sheet.
        def falling(sky)
          sums = [0.0, 0.0, 0.0]
          RINGS.times do |ring|
            up = (ring + 0.5) / RINGS
            AROUND.times do |n|
              turn = 2 * Math::PI * (n + 0.5) / AROUND
              out = Math.sqrt(1 - up * up)
              SkyKernels.radiance(sky, out * Math.sin(turn), up, out * Math.cos(turn)).each_with_index { |c, i| sums[i] += c * up }
            end
          end
          sums.map { |c| c * 2 * Math::PI / (RINGS * AROUND) }
        end
      end
    end
  end
end
