# frozen_string_literal: true

require "zlib"

module Vumbral
  module Formats
    # Writes OpenEXR pictures: scan lines, half or whole floats, zipped sixteen lines at a time, with named layers
    # (openexr.com, "OpenEXR File Layout").
    module EXR
      MAGIC, VERSION = 20_000_630, 2
      LINES = 16
      ZIP = 3
      HALF, FLOAT = 1, 2
      # The primaries of Rec. 709 and D65, as the picture's light is told in.
      PRIMARIES = [0.64, 0.33, 0.3, 0.6, 0.15, 0.06, 0.3127, 0.329].freeze

      module_function

      # @param channels [Hash{String => Array(Kernel::Buffer, Integer)}] by name ("R", "lamp.R", "depth.Z"): an array
      #   f32 [h, w, n] and which of its n values it is
      # @param whole [Array<String>] names of those that are kept as whole floats
      # @param told [Hash{String => String}] further words for the head
      # @return [String]
      def write(channels, whole: [], told: {})
        names = channels.keys.sort
        height, width = channels.values[0][0].shape
        rows = names.map { |name| [name, *channels[name], whole.include?(name) ? FLOAT : HALF] }
        blocks = (0...height).step(LINES).map { |first| block(rows, first, [LINES, height - first].min, width) }
        head = head(rows, width, height, told)
        at = head.bytesize + 8 * blocks.size
        places = blocks.map { |bytes| at.tap { at += bytes.bytesize } }
        head + places.pack("Q<*") + blocks.join
      end

      def head(rows, width, height, told)
        list = rows.map { |name, _, _, type| "#{name}\0".b + [type, 0, 0, 0, 0, 1, 1].pack("l<C4l<2") }.join + "\0".b
        window = [0, 0, width - 1, height - 1].pack("l<4")
        attributes = {
          "channels" => ["chlist", list], "chromaticities" => ["chromaticities", PRIMARIES.pack("e8")],
          "compression" => ["compression", [ZIP].pack("C")], "dataWindow" => ["box2i", window],
          "displayWindow" => ["box2i", window], "lineOrder" => ["lineOrder", [0].pack("C")],
          "pixelAspectRatio" => ["float", [1.0].pack("e")], "screenWindowCenter" => ["v2f", [0.0, 0.0].pack("e2")],
          "screenWindowWidth" => ["float", [1.0].pack("e")], **told.transform_values { |words| ["string", words.b] }
        }
        body =
          attributes
            .sort
            .map { |name, (type, value)| "#{name}\0#{type}\0".b + [value.bytesize].pack("l<") + value }
            .join
        [MAGIC, VERSION].pack("l<2") + body + "\0".b
      end

      # Lines of all channels in turn, halves apart and as differences, zipped where that is shorter.
      def block(rows, first, count, width)
        size = rows.sum { |_, _, _, type| count * width * ((type == HALF) ? 2 : 4) }
        raw = Kernel::Buffer.new(:u8, size)
        at = 0
        line = rows.sum { |_, _, _, type| width * ((type == HALF) ? 2 : 4) }
        rows.each do |_, values, which, type|
          EXRKernels.lay(raw, values, which, first, count, at, line, type == HALF)
          at += width * ((type == HALF) ? 2 : 4)
        end
        packed = Kernel::Buffer.new(:u8, size)
        EXRKernels.part(packed, raw)
        EXRKernels.differ(apart = Kernel::Buffer.new(:u8, size), packed)
        zipped = Zlib::Deflate.deflate(apart.bytes, 4)
        body = (zipped.bytesize < size) ? zipped : raw.bytes
        [first, body.bytesize].pack("l<2") + body
      end
      private_class_method :head, :block
    end
  end
end
