# frozen_string_literal: true

require "json"
require "zstd-ruby"

module Vumbral
  module Studio
    # Strips of a large picture, top to bottom, as they lie in files until they are laid together.
    module Tiles
      # Fewer rows are not worth a strip.
      LEAST = 96

      module_function

      # @param size [Array(Integer, Integer)] pixels of the whole; @param count [Integer]
      # @return [Array<Array(Integer, Integer)>] first row, and the one after the last
      def strips(size, count)
        count = count.clamp(1, [size[1] / LEAST, 1].max)
        edges = (0..count).map { |n| size[1] * n / count }
        edges.each_cons(2).to_a
      end

      # @param image [Kernel::Buffer] f32 [rows, w, 4]
      # @return [String]
      def pack(image) = image.shape.pack("L<3") + Zstd.compress(image.bytes, level: 1)

      # @param files [Array<String>] in order
      # @return [Kernel::Buffer] f32 [h, w, 4]
      # @raise [Refused] where they are not of the size
      def together(size, files)
        bytes = files.map { |file| File.binread(file).then { |packed| Zstd.decompress(packed.byteslice(12..)) } }.join
        unless bytes.bytesize == size.reduce(:*) * 16
          raise Refused.new("The parts of the picture do not make it whole; take it again.", code: "damaged")
        end

        Kernel::Buffer.new(:f32, *size.reverse, 4, bytes: bytes)
      ensure
        files.each { |file| FileUtils.rm_rf(File.dirname(file)) }
      end
    end
  end
end
