# frozen_string_literal: true

module Vumbral
  module Picture
    # Lens and film: bloom, exposure, white balance, contrast, tone curve, grain.
    class Film
      DIALS = %i[exposure tone contrast warmth bloom grain].freeze
      CURVES = {"plain" => 0.0, "soft" => 1.0, "film" => 2.0}.freeze
      NEUTRAL = 6500.0
      # How wide the lens spreads light, in parts of the picture's width, and how much of it so wide.
      HALOS = [[0.004, 0.5], [0.016, 0.3], [0.06, 0.2]].freeze

      # f32 [8] as {FilmKernels#tone} takes them.
      attr_reader :numbers

      # @return [Hash] the {DIALS} by their names, at a frame
      def self.settings(document, frame) =
        document.the(:picture).then { |picture| DIALS.to_h { |dial| [dial.to_s, picture[dial, frame]] } }

      # @param settings [Hash] the {DIALS} by their names
      def initialize(settings)
        @settings = settings
        @numbers = Kernel::Buffer.of(:f32, balance.map { |c| c * gain } +
          [CURVES.fetch(settings["tone"]), settings["contrast"], settings["grain"], settings["bloom"], 0.0])
      end

      # @return [Array<Float>] by which exposure and white balance multiply red, green and blue
      def gains = @numbers.to_a.first(3)

      # @return [Float] by which the exposure multiplies light
      def gain = 2.0**@settings["exposure"]

      # @param light [Kernel::Buffer] f32 [height, width, 3], changed
      # @param deep [Boolean] sixteen bits instead of eight
      # @return [Kernel::Buffer] u8 or u16 [height, width, 3], ready for a screen
      def develop(light, deep: false)
        bloom(light) if @settings["bloom"].positive?
        out = Kernel::Buffer.new(deep ? :u16 : :u8, *light.shape)
        deep ? FilmKernels.develop_deep(out, light, @numbers) : FilmKernels.develop(out, light, @numbers)
        out
      end

      # @param deep [Boolean] sixteen bits instead of eight
      # @return [Kernel::Buffer] u8 or u16 [height, width, 4], with alpha and no background; what the lens spreads
      #   beyond its edge is left out
      def cut_out(image, deep: false)
        out = Kernel::Buffer.new(deep ? :u16 : :u8, image.dim(0), image.dim(1), 4)
        deep ? FilmKernels.cut_out_deep(out, image, @numbers) : FilmKernels.cut_out(out, image, @numbers)
        out
      end

      private

      # Gains that make light of the wanted temperature white and keep its brightness.
      def balance
        return [1.0, 1.0, 1.0] if @settings["warmth"] == NEUTRAL

        gains = Light::BlackBody.rgb(NEUTRAL).zip(Light::BlackBody.rgb(@settings["warmth"])).map { |white, seen|
          white / [seen, 0.02].max
        }
        gains.map { |gain| gain / (0.2126 * gains[0] + 0.7152 * gains[1] + 0.0722 * gains[2]) }
      end

      # The lens takes light from where it falls and spreads it around.
      def bloom(light)
        height, width = light.shape
        return if [height, width].min < 8

        small = Kernel::Buffer.new(:f32, (height + 3) / 4, (width + 3) / 4, 3)
        FilmKernels.quarter(small, light)
        FilmKernels.scale(light, 1.0 - @settings["bloom"])
        passing, halo = Array.new(2) { Kernel::Buffer.new(:f32, *small.shape) }
        HALOS.each do |part, share|
          sigma = [part * width / 4.0, 0.5].max
          FilmKernels.blur(passing, small, 1, sigma)
          FilmKernels.blur(halo, passing, 0, sigma)
          FilmKernels.spread(light, halo, share * @settings["bloom"])
        end
      end
    end
  end
end
