# frozen_string_literal: true

module Vumbral
  module Studio
    # Small pictures of textures, made at once.
    class Swatches
      SIZE = [132, 66].freeze
      # Features across.
      WIDE = 4.0

      def initialize(workshop)
        @workshop = workshop
      end

      # @param frame [Integer, nil] the shot's first otherwise
      # @return [String] a PNG, brightness by the texture's value from 0 to 1
      # @raise [Refused] for what is no texture
      def texture(document, id, frame = nil)
        node = document.node(id)
        raise Refused.new("#{node.name} is no texture.", code: "bad_kind") unless node.kind.name == :texture

        frame ||= document.first_frame
        width, height = SIZE
        row = Maps::Patterns.buffer([Geometry::Textures.row(document, node, frame)], @workshop.assets)
        values = Kernel::Buffer.new(:f32, height, width)
        across = WIDE * node[:size, frame]
        down = across * height / width
        # An upright sheet before where it begins.
        x, y, z = node[:offset, frame]
        Geometry::TextureKernels.look(values, row, 0, Kernel::Buffer.of(:f32, [x - 0.5 * across, y + 0.5 * down, z, across, 0.0, 0.0, 0.0, -down, 0.0]))
        shades = values.to_a.map { |value| (255.0 * Geometry::Colours.encoded(value.clamp(0.0, 1.0))).round }
        Pixels.png(Kernel::Buffer.of(:u8, shades, height, width, 1))
      end
    end
  end
end
