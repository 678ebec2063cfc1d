# frozen_string_literal: true

require "vips"

module Vumbral
  module Studio
    # Picture files from pixels in kernel buffers.
    module Pixels
      module_function

      MOST_PIXELS = 64_000_000

      # @param bytes [String] a PNG, JPEG or TIFF file
      # @return [Kernel::Buffer] f32 [height, width], brightness 0 to 1
      # @raise [Refused]
      def read(bytes, name)
        image = Vips::Image.new_from_buffer(bytes, "", access: :sequential)
        raise Refused.new("#{name} has #{image.width} × #{image.height} pixels; bring at most #{MOST_PIXELS / 1_000_000} million.", code: "picture_too_large") if image.width * image.height > MOST_PIXELS

        image = image.flatten if image.has_alpha?
        image = image.colourspace(:b_w).cast(:float) / ((image.format == :ushort) ? 65_535.0 : 255.0)
        Kernel::Buffer.new(:f32, image.height, image.width, bytes: image.extract_band(0).cast(:float).write_to_memory)
      rescue Vips::Error
        raise Refused.new("#{name} cannot be read as a picture; bring it as PNG, JPEG or TIFF.", code: "bad_picture")
      end

      # @param pixels [Kernel::Buffer] u8 [height, width, bands]
      # @return [String] a PNG
      def png(pixels)
        height, width, bands = pixels.shape
        image = Vips::Image.new_from_memory(pixels.bytes, width, height, bands, :uchar)
        image = image.copy(interpretation: :srgb)
        image.write_to_buffer(".png", compression: 3)
      end
    end
  end
end
