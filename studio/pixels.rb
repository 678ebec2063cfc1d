# frozen_string_literal: true

# What is wrong with a picture is said in a sentence; libvips need not print it too.
ENV["VIPS_WARNING"] ||= "off"
require "vips"

module Vumbral
  module Studio
    # Picture files from pixels in kernel buffers.
    module Pixels
      module_function

      MOST_PIXELS = 100_000_000
      # A source cannot tell apart more than this many pixels along an edge.
      LARGEST_EDGE = 4096
      # PNG, JPEG and TIFF begin like this.
      BEGINNINGS = ["\x89PNG\r\n".b, "\xFF\xD8\xFF".b, "II*\0".b, "MM\0*".b].freeze

      # Reads row by row and shrinks on the way, so that a huge picture takes little memory.
      # @param bytes [String] a PNG, JPEG or TIFF file
      # @return [Kernel::Buffer] f32 [height, width], brightness 0 to 1
      # @raise [Refused]
      def read(bytes, name)
        unreadable(name) unless BEGINNINGS.any? { |beginning| bytes.b.start_with?(beginning) }
        image = Vips::Image.new_from_buffer(bytes, "", access: :sequential)
        check_pixels(image, name)
        largest = [image.width, image.height].max
        image = image.shrink(*[largest.to_f / LARGEST_EDGE] * 2) if largest > LARGEST_EDGE
        image = image.flatten if image.has_alpha?
        deep = image.format == :ushort
        image = image.colourspace(deep ? :grey16 : :b_w).extract_band(0).cast(:float) / (deep ? 65_535.0 : 255.0)
        Kernel::Buffer.new(:f32, image.height, image.width, bytes: image.write_to_memory)
      rescue Vips::Error
        unreadable(name)
      end

      def check_pixels(image, name)
        return if image.width * image.height <= MOST_PIXELS

        raise Refused.new("#{name} has #{image.width} × #{image.height} pixels; bring at most " \
          "#{MOST_PIXELS / 1_000_000} million.", code: "picture_too_large")
      end

      def unreadable(name)
        raise Refused.new("#{name} cannot be read as a picture; bring it as PNG, JPEG or TIFF.", code: "bad_picture")
      end
      private_class_method :check_pixels, :unreadable

      # @param pixels [Kernel::Buffer] u8 or u16 [height, width, bands]
      # @return [String] a PNG
      def png(pixels) = image(pixels).write_to_buffer(".png", compression: 3)

      # @param pixels [Kernel::Buffer] u8 [height, width, 3]
      # @return [String] a JPEG, with its colour space
      def jpeg(pixels) = image(pixels).write_to_buffer(".jpg", Q: 94, profile: "srgb")

      def image(pixels)
        height, width, bands = pixels.shape
        deep = pixels.type.to_s == "u16"
        Vips::Image.new_from_memory(pixels.bytes, width, height, bands, deep ? :ushort : :uchar).copy(interpretation: deep ? :rgb16 : :srgb)
      end
      private_class_method :image
    end
  end
end
