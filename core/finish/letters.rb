# frozen_string_literal: true

module Vumbral
  module Finish
    # Words in the frame.
    module Letters
      module_function

      # @param layer [Hash] from {Stack#at}: "words", "font", "letter" (height of a capital, % of the frame's), "apart",
      #   "colour", "bright"
      # @return [Kernel::Buffer, nil] f32 [h, w, 4], linear and multiplied by alpha, with the words in its middle;
      #   nothing for no words
      def image(layer, width, height)
        words = layer["words"].to_s
        return if words.strip.empty?

        rings =
          Geometry::Lettering.contours(
            words, font: layer["font"], tall: layer["letter"] / 100.0 * height, apart: layer["apart"]
          ).rings
        sides =
          rings.flat_map do |ring|
            ring
              .zip(ring.rotate)
              .map { |(ax, ay), (bx, by)| [0.5 * width + ax, 0.5 * height - ay, 0.5 * width + bx, 0.5 * height - by] }
          end
        cover = Kernel::Buffer.new(:f32, height, width)
        LetterKernels.fill(cover, Kernel::Buffer.of(:f32, sides.flatten, sides.size, 4))
        Kernel::Buffer
          .new(:f32, height, width, 4)
          .tap do |out|
            LetterKernels.paint(out, cover, Kernel::Buffer.of(:f32, layer["colour"].map { |c| c * layer["bright"] }))
          end
      end
    end
  end
end
