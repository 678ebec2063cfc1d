# frozen_string_literal: true

module Vumbral
  module Light
    # The sky over a shot: one colour all around, or a clear to hazy sky for the sun's height
    # ({Atmosphere}), scaled so that it lights a level sheet as strongly as the artist says.
    class Sky
      # The sun is taken to stand no lower than this, where night begins (the sine of its height).
      LOWEST = -0.2
      RINGS, AROUND = 24, 48
      # How much of the sky a hillside sees.
      OPEN = 0.75
      # So many skies are kept; nobody changes one in place.
      KEPT = 16

      @kept = {}
      @lock = Mutex.new

      # @param settings [Hash] "model", "strength", "colour", "below", "haze", "fade", "background", "sun"
      #   (direction to it, or nil), "picture" and "around" (its digest and turn, or nil),
      #   "hills" (Hash of "height" in degrees, "seed", "colour", "sunlight", or nil)
      # @param meshes [#coloured, nil] gives the picture of a digest; without it the sky is even
      # @param small [Boolean] with a small picture, for a view
      # @return [Kernel::Buffer] f32 [40 and a table] as {SkyKernels} take it
      def self.of(settings, meshes = nil, small: false)
        environment = environment(settings, meshes)
        # One by a picture is large and soon made again; a sky that turns is another one at each frame.
        return pictured(settings, environment, small) if environment

        @lock.synchronize do
          @kept.shift if @kept.size >= KEPT && !@kept.key?(settings)
          @kept[settings] ||= made(settings)
        end
      end

      # @return [Environment, nil] where a picture all around gives the light
      def self.environment(settings, meshes) =
        if settings["model"] == "picture" && settings["picture"] && meshes
          Environment.of(settings["picture"], meshes)
        end

      # The same without what only stands behind a picture and lights nothing.
      # @return [Hash]
      def self.lighting(settings) = settings.except("fade", "background", "hills")

      # How strongly a picture shines, so that a level sheet gets what the strength says.
      def self.gain(settings, environment)
        light = environment.level.zip(settings["colour"]).map { |a, b| a * b }
        settings["strength"] / [0.2126 * light[0] + 0.7152 * light[1] + 0.0722 * light[2], 1e-6].max
      end

      # @return [Array<Array(Float, Array<Float>, Array<Float>)>] width, way and light of the suns in a picture all
      #   around
      def self.suns(settings, environment)
        gain = gain(settings, environment)
        turn = settings["around"] * Math::PI / 180
        environment.suns.map do |sun|
          x, y, z = sun.way
          [
            sun.size, [Math.cos(turn) * x + Math.sin(turn) * z, y, Math.cos(turn) * z - Math.sin(turn) * x],
            sun.light.zip(settings["colour"]).map { |a, b| a * b * gain }
          ]
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
        hills(numbers, settings) if settings["hills"]
        Kernel::Buffer.of(:f32, numbers)
      end

      # As {HillKernels} take them.
      def self.hills(numbers, settings)
        height, seed, colour, sunlight = settings["hills"].values_at("height", "seed", "colour", "sunlight")
        numbers[15, 2] = [Math.tan(height * Math::PI / 180), seed]
        numbers[17, 3] = colour.zip(numbers[0, 3]).map { |own, light| OPEN * own * light }
        numbers[20, 3] = colour.zip(sunlight).map { |own, light| own * light / Math::PI }
        numbers[23, 3] = settings["sun"] || [0.0, 1.0, 0.0]
      end

      private_class_method :made, :hills, :gain

      class << self
        private

        def pictured(settings, environment, small)
          numbers = Array.new(40, 0.0)
          picture = small ? environment.small : environment.picture
          turn = settings["around"] * Math::PI / 180
          numbers[6] = settings["fade"].positive? ? 1.0 / settings["fade"] : 0.0
          numbers[7] = 2.0
          numbers[11, 4] = [picture.dim(0), picture.dim(1), Math.cos(turn), Math.sin(turn)]
          numbers[29, 4] = [gain(settings, environment), *settings["colour"]]
          numbers[33, 3] = settings["background"]
          soft = environment.soft.each_with_index.map { |value, n| value * numbers[29] * settings["colour"][n % 3] }
          sky = Kernel::Buffer.of(:f32, numbers + soft)
          numbers[0, 6] = [1.0, -1.0].flat_map { |up| SkyKernels.ambient(sky, 0.0, up, 0.0, 1.0) }
          Kernel::Buffer.new(:f32, 67 + picture.size, bytes: (numbers + soft).pack("e*") + picture.bytes)
        end

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
        def falling(sky) = SkyKernels.falling(sky, RINGS, AROUND)
      end
    end
  end
end
