# frozen_string_literal: true

require "json"

module Vumbral
  module Formats
    # Masks of many things in one picture: each name is hashed to a number (MurmurHash3, Appleby 2011), and a pixel
    # keeps the numbers that it sees with how much of it each covers, in pairs (the open layout of ID mattes in OpenEXR
    # of Friedman & Jones 2015).
    module IDMattes
      LAYER = "crypto_prop"
      MASK = 0xffff_ffff

      module_function

      # @return [Integer] 32 bits
      def hash(text)
        bytes = text.b
        h = 0
        words = bytes.bytesize / 4
        bytes.unpack("L<#{words}").each { |word| h = (rotated(h ^ mixed(word), 13) * 5 + 0xe654_6b64) & MASK }
        tail = bytes.byteslice(4 * words, 3).to_s
        h ^= mixed(tail.ljust(4, "\0").unpack1("L<")) unless tail.empty?
        h ^= bytes.bytesize
        h = ((h ^ (h >> 16)) * 0x85eb_ca6b) & MASK
        h = ((h ^ (h >> 13)) * 0xc2b2_ae35) & MASK
        h ^ (h >> 16)
      end

      # The number of a name as a float that is neither endless, nor nothing, nor tiny.
      # @return [Float]
      def number(name) = [bits(name)].pack("L<").unpack1("e")

      # @param names [Array<String>] of what has masks
      # @return [Hash{String => String}] words for a picture's head
      def told(names)
        head = "cryptomatte/#{format("%08x", hash(LAYER))[0, 7]}"
        {"#{head}/name" => LAYER, "#{head}/hash" => "MurmurHash3_32", "#{head}/conversion" => "uint32_to_float32",
         "#{head}/manifest" => JSON.generate(names.to_h { |name| [name, format("%08x", bits(name))] })}
      end

      def bits(name)
        found = hash(name)
        exponent = (found >> 23) & 255
        (exponent.zero? || exponent == 255) ? found ^ (1 << 23) : found
      end

      def mixed(word) = (rotated((word * 0xcc9e_2d51) & MASK, 15) * 0x1b87_3593) & MASK

      def rotated(word, by) = ((word << by) | (word >> (32 - by))) & MASK
      private_class_method :bits, :mixed, :rotated
    end
  end
end
