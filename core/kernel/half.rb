# frozen_string_literal: true

module Vumbral
  module Kernel
    # IEEE 754 half precision in plain Ruby, for the few numbers that are read outside a kernel.
    module Half
      module_function

      # @param value [Float]
      # @return [Integer] 16 bits, rounded to nearest even
      def encode(value)
        bits = [value].pack("e").unpack1("L<")
        sign = (bits >> 16) & 0x8000
        exponent = ((bits >> 23) & 0xff) - 112
        mantissa = bits & 0x7fffff
        return sign | 0x7c00 | ((mantissa.positive? && exponent == 143) ? 0x200 : 0) if exponent >= 31
        return sign | round(mantissa | 0x800000, 14 - exponent) if exponent <= 0 && exponent > -11
        return sign if exponent <= 0

        sign | ((exponent << 10) + round(mantissa, 13))
      end

      # @param bits [Integer]
      # @return [Float]
      def decode(bits)
        sign = bits.anybits?(0x8000) ? -1.0 : 1.0
        exponent = (bits >> 10) & 31
        mantissa = bits & 0x3ff
        return sign * mantissa * 2.0**-24 if exponent.zero?
        return mantissa.zero? ? sign * Float::INFINITY : Float::NAN if exponent == 31

        sign * (1.0 + mantissa / 1024.0) * 2.0**(exponent - 15)
      end

      def round(number, shift)
        half = 1 << (shift - 1)
        rest = number & ((1 << shift) - 1)
        whole = number >> shift
        (rest > half || (rest == half && whole.odd?)) ? whole + 1 : whole
      end
      private_class_method :round
    end
  end
end
