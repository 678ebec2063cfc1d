# frozen_string_literal: true

module Vumbral
  module Formats
    # Loops over the bytes of a picture.
    module EXRKernels
      extend Kernel::Library

      # A number above nothing as one from 1 to 2, and how often that is doubled.
      kernel size: F32, returns: [F32, I32]
      def apart(size)
        exponent = 0
        part = size
        while part >= 2.0
          part *= 0.5
          exponent += 1
        end
        while part < 1.0
          part *= 2.0
          exponent -= 1
        end
        return part, exponent
      end

      # A float's sixteen bits, to the nearest; too large ones become the largest.
      kernel value: F32, returns: I32
      def half(value)
        bits = 0
        size = value.abs
        if size >= 65_504.0
          bits = 31_743
        elsif size >= 0.00006103515625
          part, exponent = apart(size)
          bits = ((exponent + 15) << 10) + ((part - 1.0) * 1024.0 + 0.5).floor
        else
          bits = (size * 16_777_216.0 + 0.5).floor
        end
        value < 0.0 ? bits + 32_768 : bits
      end

      # One of the values of `count` lines into a block: `at` where it begins in a line of `line` bytes.
      kernel raw: U8[1], values: F32[3], which: I32, first: I32, count: I32, at: I32, line: I32, halves: BOOL
      def lay(raw, values, which, first, count, at, line, halves)
        parallel(count) do |y|
          values.dim(1).times do |x|
            value = values[first + y, x, which] + 0.0
            if halves
              bits = half(value)
              place = y * line + at + 2 * x
              raw[place] = bits & 255
              raw[place + 1] = (bits >> 8) & 255
            else
              place = y * line + at + 4 * x
              bits = whole(value)
              4.times { |b| raw[place + b] = (bits >> (8 * b)) & 255 }
            end
          end
        end
      end

      # A float's thirty-two bits (IEEE 754), as a number.
      kernel value: F32, returns: I64
      def whole(value)
        bits = i64(0)
        size = value.abs
        if size > 1.2e-38
          part, exponent = apart(size)
          bits = (i64(exponent + 127) << 23) + i64((part - 1.0) * 8_388_608.0)
        end
        value < 0.0 ? bits + 2_147_483_648 : bits
      end

      # First bytes of all pairs, then second ones.
      kernel out: U8[1], raw: U8[1]
      def part(out, raw)
        half = (raw.size + 1) / 2
        parallel(raw.size) { |n| out[(n & 1) == 0 ? n / 2 : half + n / 2] = raw[n] + 0 }
      end

      # How each differs from the one before.
      kernel out: U8[1], raw: U8[1]
      def differ(out, raw)
        parallel(raw.size) { |n| out[n] = n == 0 ? raw[n] + 0 : (raw[n] - raw[n - 1] + 384) & 255 }
      end
    end
  end
end
