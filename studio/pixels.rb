# frozen_string_literal: true

# What is wrong with a picture is said in a sentence; libvips need not print it too.
ENV["VIPS_WARNING"] ||= "off"
require "tempfile"
require "vips"

module Vumbral
  module Studio
    # Picture files from pixels in kernel buffers.
    module Pixels
      module_function

      MOST_PIXELS = 100_000_000
      # A source cannot tell apart more than this many pixels along an edge.
      LARGEST_EDGE = 4096
      JPEG = "\xFF\xD8\xFF".b.freeze
      # PNG, JPEG, TIFF, OpenEXR and Radiance HDR begin like this.
      BEGINNINGS = ["\x89PNG\r\n".b, JPEG, "II*\0".b, "MM\0*".b, "v/1\x01".b, "#?".b].freeze
      KINDS = "PNG, JPEG, TIFF, OpenEXR or Radiance HDR"

      # @param part [Array<Float>, nil] of a picture: left, top, right and bottom, 0 to 1
      # @param size [Array(Integer, Integer)] of the whole
      # @return [Array<Integer>, nil] the same in whole pixels that hold it; nothing for all of it
      # @raise [Refused]
      def part(part, size = [1, 1])
        return if part.nil?

        unless part.is_a?(Array) && part.size == 4 && part.all? { |c| c.is_a?(Numeric) && c.between?(0.0, 1.0) } &&
            part[0] < part[2] && part[1] < part[3]
          raise Refused.new(
            "A part of a picture is told by its left, top, right and bottom, each from 0 to 1.", code: "bad_value"
          )
        end

        part.first(2).zip(size).map { |c, edge| (c * edge).floor } +
          part.last(2).zip(size).map { |c, edge| (c * edge).ceil }
      end

      # Reads row by row and shrinks on the way, so that a huge picture takes little memory.
      # @param bytes [String] a file of {KINDS}
      # @return [Kernel::Buffer] f32 [height, width], brightness 0 to 1
      # @raise [Refused]
      def read(bytes, name)
        unreadable(name) unless BEGINNINGS.any? { |beginning| bytes.b.start_with?(beginning) }
        image = opened(bytes, access: :sequential)
        check_pixels(image, name)
        largest = [image.width, image.height].max
        image = image.shrink(*[largest.to_f / LARGEST_EDGE] * 2) if largest > LARGEST_EDGE
        image = image.flatten if image.has_alpha?
        return light(image) unless %i[uchar ushort].include?(image.format)

        deep = image.format == :ushort
        image = image.colourspace(deep ? :grey16 : :b_w).extract_band(0).cast(:float) / (deep ? 65_535.0 : 255.0)
        Kernel::Buffer.new(:f32, image.height, image.width, bytes: image.write_to_memory)
      rescue Vips::Error
        unreadable(name)
      end

      # OpenEXR is read from files alone.
      def opened(bytes, **how)
        image = bytes.b.start_with?(BEGINNINGS[4]) ? from_file(bytes) : Vips::Image.new_from_buffer(bytes, "", **how)
        (image.coding == :rad) ? image.rad2float : image
      end

      def from_file(bytes)
        Tempfile.create(["picture", ".exr"], binmode: true) do |file|
          file.write(bytes)
          file.close
          Vips::Image.new_from_file(file.path).copy_memory
        end
      end

      # Of light, which may be any number, how bright it is, to 1.
      def light(image)
        image = image.extract_band(0, n: 3) * [0.2126, 0.7152, 0.0722] if image.bands >= 3
        image = (image.bands == 3) ? image.bandmean * 3.0 : image.extract_band(0)
        image = (image > 1.0).ifthenelse(1.0, (image < 0.0).ifthenelse(0.0, image)).cast(:float)
        Kernel::Buffer.new(:f32, image.height, image.width, bytes: image.write_to_memory)
      end

      def check_pixels(image, name)
        return if image.width * image.height <= MOST_PIXELS

        raise Refused.new("#{name} has #{image.width} × #{image.height} pixels; bring at most " \
          "#{MOST_PIXELS / 1_000_000} million.", code: "picture_too_large")
      end

      def unreadable(name)
        raise Refused.new("#{name} cannot be read as a picture; bring it as #{KINDS}.", code: "bad_picture")
      end
      private_class_method :opened, :from_file, :light, :check_pixels, :unreadable

      # @param bytes [String] as {.read} takes them, or OpenEXR or Radiance HDR
      # @param most [Integer] pixels along its longer edge
      # @return [Kernel::Buffer] f32 [height, width, 4], linear red, green, blue, and alpha
      # @raise [Refused]
      def read_colours(bytes, name, most)
        unreadable(name) unless BEGINNINGS.any? { |beginning| bytes.b.start_with?(beginning) }
        image = opened(bytes)
        check_pixels(image, name)
        real = !%i[uchar ushort].include?(image.format)
        # Of an OpenEXR file alpha comes as 255 for whole, and colours times it.
        top = {uchar: 255.0, ushort: 65_535.0}.fetch(image.format, 255.0)
        alpha = image.has_alpha? ? image.extract_band(image.bands - 1).cast(:float) / top : image.extract_band(0)
          .cast(:float) * 0.0 + 1.0
        image = image.extract_band(0, n: image.bands - 1) if image.has_alpha?
        image = image.bandjoin([image] * 2) if image.bands == 1 && real
        image = real ? image / (alpha > 1e-4).ifthenelse(alpha, 1.0) : image.colourspace(:scrgb)
        image = image.cast(:float).bandjoin(alpha)
        larger = [image.width, image.height].max.fdiv(most)
        image = image.resize(1.0 / larger, kernel: :linear) if larger > 1.0
        Kernel::Buffer.new(:f32, image.height, image.width, 4, bytes: image.write_to_memory)
      rescue Vips::Error
        unreadable(name)
      end

      # The numbers of a picture as its file has them.
      # @return [Array(Kernel::Buffer, Boolean)] f32 [height, width, 4], of whole numbers 0 to 1 and of light what it
      #   is, with its alpha; and whether they are light, which is multiplied by alpha already
      # @raise [Refused]
      def numbers(bytes, name)
        unreadable(name) unless BEGINNINGS.any? { |beginning| bytes.b.start_with?(beginning) }
        image = opened(bytes)
        check_pixels(image, name)
        real = !%i[uchar ushort].include?(image.format)
        top = {uchar: 255.0, ushort: 65_535.0}.fetch(image.format, 1.0)
        alpha = if image.has_alpha?
          image.extract_band(image.bands - 1).cast(:float) / (real ? 255.0 : top)
        else
          image.extract_band(0).cast(:float) * 0.0 + 1.0
        end
        image = image.extract_band(0, n: image.bands - 1) if image.has_alpha?
        image = image.extract_band(0).bandjoin([image.extract_band(0)] * 2) if image.bands < 3
        image = (image.extract_band(0, n: 3).cast(:float) / top).bandjoin(alpha).cast(:float)
        [Kernel::Buffer.new(:f32, image.height, image.width, 4, bytes: image.write_to_memory), real]
      rescue Vips::Error
        unreadable(name)
      end

      # @return [Array(Integer, Integer)] width and height of a picture, of which only the head is read
      # @raise [Refused]
      def size(bytes, name)
        unreadable(name) unless BEGINNINGS.any? { |beginning| bytes.b.start_with?(beginning) }
        image = opened(bytes, access: :sequential)
        check_pixels(image, name)
        [image.width, image.height]
      rescue Vips::Error
        unreadable(name)
      end

      # @param pixels [Kernel::Buffer] u8 or u16 [height, width, bands]
      # @return [String] a PNG
      def png(pixels) = image(pixels).write_to_buffer(".png", compression: 3)

      # @param coloured [Kernel::Buffer] from {.read_colours}
      # @return [String] a PNG of 8 bit; what is brighter than white is white
      def shown(coloured)
        height, width, = coloured.shape
        image = Vips::Image.new_from_memory(coloured.bytes, width, height, 4, :float)
        alpha = (image.extract_band(3) * 255.0).cast(:uchar)
        image = image.extract_band(0, n: 3).copy(interpretation: :scrgb).colourspace(:srgb).bandjoin(alpha)
        image.thumbnail_image(1024, size: :down).write_to_buffer(".png", compression: 3)
      end

      # @param pixels [Kernel::Buffer] u8 [height, width, 3]
      # @param bytes [String] at least the first three of a file
      def jpeg?(bytes) = bytes.b.start_with?(JPEG)

      # @return [String] a JPEG, with its colour space
      def jpeg(pixels) = image(pixels).write_to_buffer(".jpg", Q: 94, profile: "srgb")

      # @param pixels [Kernel::Buffer] u16 [height, width, bands]
      # @return [String] a TIFF of 16 bit, packed without loss
      def tiff(pixels) = image(pixels).write_to_buffer(".tif", compression: :deflate, predictor: :horizontal)

      def image(pixels)
        height, width, bands = pixels.shape
        deep = pixels.type.to_s == "u16"
        Vips::Image.new_from_memory(pixels.bytes, width, height, bands, deep ? :ushort : :uchar).copy(
          interpretation: deep ? :rgb16 : :srgb
        )
      end
      private_class_method :image
    end
  end
end
