# frozen_string_literal: true

module Vumbral
  module Finish
    # What an effect works on: the picture of its layer and all that lies below, which it may change, and its dials.
    class Work
      # Red, green, blue and alpha, linear, multiplied by it: f32 [h, w, 4].
      attr_accessor :image, :below
      # The effect's, from {Stack}.
      attr_accessor :dials
      # Gives "heat", "depth" and "motion" of the layer, and tables: see {Composite}.
      attr_reader :sources, :layer

      def initialize(image, below, layer, sources)
        @image, @below, @layer, @sources = image, below, layer, sources
      end

      def [](name) = @dials[name]

      # What light and heat of the layer act on: what lies below it, or of a layer that changes what lies below, that.
      def behind = changes? ? @image : @below

      def behind=(picture)
        changes? ? @image = picture : @below = picture
      end

      # @return [Boolean] whether the layer is nothing but its effects
      def changes? = @layer["what"] == "change"

      def height = @image.dim(0)

      def width = @image.dim(1)

      # Pixels of a length in % of the frame's height.
      def pixels(name) = @dials[name] / 100.0 * height

      # @return [Kernel::Buffer] as large as the picture
      def blank(channels = 4) = Kernel::Buffer.new(:f32, height, width, channels)

      # @return [Kernel::Buffer, nil] what else is known of the layer's pixels
      def pass(name) = @sources.pass(name, @layer)
    end
  end
end
