# frozen_string_literal: true

require "fiddle"

module Vumbral
  module Kernel
    # A block of memory with a type and a shape, which kernels read and write in place.
    # Indexed `[z, y, x]` (as many indices as dimensions), the last one contiguous.
    #
    # The memory is that of a Ruby String, so the collector sees its size and {#bytes} costs
    # nothing. Ruby must never change that String: it would move away from under the kernels.
    class Buffer
      CLEAR = Fiddle::Function.new(Fiddle::Handle::DEFAULT["memset"],
        [Fiddle::TYPE_INTPTR_T, Fiddle::TYPE_INT, Fiddle::TYPE_SIZE_T], Fiddle::TYPE_INTPTR_T)
      private_constant :CLEAR

      attr_reader :type, :shape, :size

      # @param type [Symbol] :f32, :f64, :f16, :i32, :i64, :u8 or :u16
      # @param shape [Array<Integer>] one to four dimensions
      # @param bytes [String, nil] initial content, copied
      def initialize(type, *shape, bytes: nil)
        @type = Types::ALL.fetch(type)
        @shape = shape.freeze
        @size = shape.reduce(1, :*)
        raise ArgumentError, "#{shape.join(" x ")} elements are more than a buffer holds" if @size >= 2**31

        length = @size * @type.bytes
        # Short strings are stored inside their object, which may move; 64 bytes never are.
        @memory = "\0".b * [length, 64].max
        @address = [@memory].pack("p").unpack1("J")
        return unless bytes
        raise ArgumentError, "#{bytes.bytesize} bytes given for a buffer of #{length}" if bytes.bytesize != length

        pointer[0, length] = bytes if length.positive?
      end

      attr_reader :address

      # @api private
      def pointer = @pointer ||= Fiddle::Pointer.new(@address, @memory.bytesize)

      # @return [Buffer] one-dimensional (or of `shape`) with the given numbers
      def self.of(type, numbers, *shape)
        shape = [numbers.size] if shape.empty?
        new(type, *shape, bytes: pack(type, numbers))
      end

      # @api private
      def self.pack(type, numbers)
        return numbers.map { |n| Half.encode(n) }.pack("S<*") if type == :f16

        numbers.pack("#{Types::ALL.fetch(type).pack}*")
      end

      def dim(axis) = @shape.fetch(axis)

      def rank = @shape.size

      def bytesize = @size * @type.bytes

      # @return [String] the content. Shares memory: use it before the next kernel writes here.
      def bytes = (@memory.bytesize == bytesize) ? @memory : @memory.byteslice(0, bytesize)

      # @return [Array<Numeric>] every element in memory order
      def to_a
        numbers = bytes.unpack("#{@type.pack}*")
        (@type.name == :f16) ? numbers.map { |n| Half.decode(n) } : numbers
      end

      def [](*index)
        number = pointer[offset(index), @type.bytes].unpack1(@type.pack)
        (@type.name == :f16) ? Half.decode(number) : number
      end

      def []=(*index, value)
        value = Half.encode(value) if @type.name == :f16
        value = value.to_i & 255 if @type.name == :u8
        pointer[offset(index), @type.bytes] = [value].pack(@type.pack)
      end

      # @return [Buffer] an independent copy
      def copy = Buffer.new(@type.name, *@shape, bytes: bytes)

      # The first rows alone, in the same memory. @return [Buffer]
      def head(count) = dup.tap { |rows| rows.shorten(count) }

      # A new shape over a copy of the same numbers.
      def reshape(*shape) = Buffer.new(@type.name, *shape, bytes: bytes)

      # Takes over the content of another buffer of the same type and size.
      def replace(other)
        raise ArgumentError, "buffers differ in size" unless other.bytesize == bytesize

        pointer[0, bytesize] = other.bytes
        self
      end

      def fill(value)
        if value.zero?
          # Without a string as long as the buffer itself.
          CLEAR.call(@address, 0, bytesize)
        else
          pointer[0, bytesize] = Buffer.pack(@type.name, [value]) * @size
        end
        self
      end

      # @api private
      def shorten(count)
        @shape = [count, *@shape.drop(1)].freeze
        @size = @shape.reduce(1, :*)
      end

      def inspect = "#<Buffer #{@type.name}#{@shape}>"

      private

      def offset(index)
        raise IndexError, "#{index.size} indices for #{inspect}" unless index.size == @shape.size

        at = 0
        index.each_with_index do |i, axis|
          raise IndexError, "index #{index} is outside #{inspect}" if i.negative? || i >= @shape[axis]

          at = at * @shape[axis] + i
        end
        at * @type.bytes
      end
    end
  end
end
