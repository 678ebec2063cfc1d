# frozen_string_literal: true

module Vumbral
  module Formats
    # Numbers and texts out of bytes, one after the other (little endian).
    class ByteReader
      attr_reader :at

      # @yield where the bytes end too soon; does not come back
      def initialize(bytes, &short)
        @bytes, @at, @short = bytes.b, 0, short
      end

      def size = @bytes.bytesize

      def at=(place)
        @short.call unless place.between?(0, size)
        @at = place
      end

      def take(count)
        @short.call if count.negative? || @at + count > size
        @bytes.byteslice(@at, count).tap { @at += count }
      end

      def skip(count) = take(count).then { self }

      def u8 = take(1).getbyte(0)

      def u32 = take(4).unpack1("L<")

      def i32 = take(4).unpack1("l<")

      def i64 = take(8).unpack1("q<")

      def f32 = take(4).unpack1("e")

      def i32s(count) = take(4 * count).unpack("l<#{count}")

      def f64s(count) = take(8 * count).unpack("E#{count}")

      # A text behind its length.
      def string = Text.utf8(take(u32))
    end
  end
end
