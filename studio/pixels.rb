# frozen_string_literal: true

require "vips"

module Vumbral
  module Studio
    # Picture files from pixels in kernel buffers.
    module Pixels
      module_function

      # @param pixels [Kernel::Buffer] u8 [height, width, bands]
      # @return [String] a PNG
      def png(pixels)
        height, width, bands = pixels.shape
        image = Vips::Image.new_from_memory(pixels.bytes, width, height, bands, :uchar)
        image = image.copy(interpretation: :srgb)
        image.write_to_buffer(".png", compression: 3)
      end
    end
  end
end
