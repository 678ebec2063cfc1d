# frozen_string_literal: true

module Vumbral
  module Formats
    # Text that came in: bytes outside, UTF-8 inside.
    module Text
      module_function

      # @param bytes [String] of any encoding
      # @return [String] UTF-8; what is no UTF-8 in it becomes "?"
      def utf8(bytes) = bytes.dup.force_encoding(Encoding::UTF_8).scrub("?")

      # @return [String] the beginning of a line as it may stand in a sentence
      def excerpt(bytes, length = 40) =
        utf8(bytes.byteslice(0, 4 * length).to_s).gsub(/[[:cntrl:]]/, " ").strip[0, length]
    end
  end
end
