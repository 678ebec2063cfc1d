# frozen_string_literal: true

require "zlib"
require "zstd-ruby"

module Vumbral
  module Formats
    # Unpacks chunks of the Blosc format (version 1: blocks, bytes shuffled by their place in a number; LZ4, zlib or
    # Zstandard), in which many volumes are kept.
    module Blosc
      SHUFFLED, COPIED, BITS, WHOLE = 1, 2, 4, 16
      # Streams of a block that is split by the places of bytes are at least so long.
      LEAST, MOST_SPLIT = 128, 16

      module_function

      # @param chunk [String]; @param most [Integer] bytes that may come out
      # @return [String]
      # @raise [Refused]
      def unpack(chunk, most)
        _, _, flags, width, whole, block, = chunk.unpack("C4L<3")
        damaged if chunk.bytesize < 16 || whole > most || flags.nil?
        return "" if whole.zero?
        return chunk.byteslice(16, whole) if flags.anybits?(COPIED)

        if flags.anybits?(BITS)
          refuse("are packed in a way that is not read (bits shuffled); save it with zip compression")
        end
        damaged if block.zero? || width.zero?
        starts = chunk.byteslice(16, 4 * ((whole + block - 1) / block)).unpack("L<*")
        starts
          .each_with_index
          .map { |at, n| block(chunk, at, [block, whole - n * block].min, Way.new(flags, width, block)) }
          .join
      end

      # How the blocks of a chunk are packed.
      Way = Struct.new(:flags, :width, :block) do
        def codec = flags >> 5

        # Streams of a block of so many bytes.
        def streams(length) =
          (flags.nobits?(WHOLE) && length == block && width <= MOST_SPLIT && block / width >= LEAST) ? width : 1
      end

      def block(chunk, at, length, way)
        count = way.streams(length)
        bytes = Array.new(count) {
          size = chunk.byteslice(at, 4)&.unpack1("L<") || damaged
          part = chunk.byteslice(at + 4, size) || damaged
          at += 4 + size
          (size == length / count) ? part : stream(part, length / count, way.codec)
        }.join
        (way.flags.anybits?(SHUFFLED) && way.width > 1) ? ordered(bytes, way.width) : bytes
      end

      def stream(part, length, codec)
        case codec
        when 1 then lz4(part, length)
        when 3 then Zlib.inflate(part)
        when 4 then Zstd.decompress(part)
        else refuse("are packed by a method that is not read; save it with zip compression")
        end
      rescue Zlib::Error
        damaged
      end

      def lz4(part, length)
        out = Kernel::Buffer.new(:u8, length)
        made = VDBReadKernels.lz4(out, Kernel::Buffer.new(:u8, part.bytesize, bytes: part))
        (made == length) ? out.bytes : damaged
      end

      def ordered(bytes, width)
        out = Kernel::Buffer.new(:u8, bytes.bytesize)
        VDBReadKernels.ordered(out, Kernel::Buffer.new(:u8, bytes.bytesize, bytes: bytes), width)
        out.bytes
      end

      def damaged = refuse("are damaged; copy or export it again")

      def refuse(reason) = raise(Refused.new("The values of the volume #{reason}.", code: "bad_volume"))
      private_class_method :block, :stream, :lz4, :ordered, :damaged, :refuse
    end
  end
end
