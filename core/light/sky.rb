# frozen_string_literal: true

module Vumbral
  module Light
    # The sky over a shot: one colour all around, or a clear to hazy sky for the sun's height
    # ({Atmosphere}), scaled so that it lights a level sheet as strongly as the artist says.
    class Sky
      # The sun is taken to stand no lower than this, where night begins (the sine of its height).
      LOWEST = -0.2
      RINGS, AROUND = 24, 48
      # So many skies are kept; nobody changes one in place.
      KEPT = 16

      @kept = {}
      @lock = Mutex.new

      # @param settings [Hash] "model", "strength", "colour", "below", "haze", "fade", "background", "sun"
      #   (direction to it, or nil)
      # @return [Kernel::Buffer] f32 [40 and a table] as {SkyKernels} take it
      def self.of(settings)
        @lock.synchronize do
          @kept.shift if @kept.size >= KEPT && !@kept.key?(settings)
          @kept[settings] ||= made(settings)
        end
      end

      def self.made(settings)
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

      private_class_method :made

      class << self
        private

        def model(numbers, settings)
          x, up, z = settings["sun"] || [0.0, 1.0, 0.0]
          up = up.clamp(LOWEST, 1.0)
          flat = Math.sqrt(x * x + z * z)
          compass = flat.positive? ? [x / flat, z / flat] : [0.0, 1.0]
          level = Math.sqrt(1.0 - up * up)
          numbers[8, 7] = [compass[0] * level, up, compass[1] * level, Atmosphere::ROWS, Atmosphere::COLUMNS, *compass]
          numbers[29] = 1.0
          numbers[30, 3] = settings["colour"]
          numbers.concat(Atmosphere.table(settings["haze"], up))
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
