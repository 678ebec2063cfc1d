# frozen_string_literal: true

module Vumbral
  module Light
    # From linear light to pixels.
    module DevelopKernels
      extend Kernel::Library

      # From linear light to what a screen shows (IEC 61966-2-1), one part of a colour.
      kernel value: F32, gain: F32, soft: BOOL, returns: F32
      def tone(value, gain, soft)
        x = [value * gain, 0.0].max
        y = soft && x > 0.6 ? 0.6 + 0.4 * (1.0 - Math.exp(-2.5 * (x - 0.6))) : [x, 1.0].min
        y <= 0.0031308 ? 12.92 * y : 1.055 * (y**0.41666667) - 0.055
      end

      # Eight-bit pixels over a background: `out` u8 [h, w, 3].
      kernel out: U8[3], image: F32[3], background: F32[1], gain: F32, soft: BOOL
      def develop(out, image, background, gain, soft)
        parallel(image.dim(0)) do |py|
          image.dim(1).times do |px|
            rest = 1.0 - image[py, px, 3]
            3.times { |c| out[py, px, c] = (255.0 * tone(image[py, px, c] + rest * background[c], gain, soft) + 0.5).to_i }
          end
        end
      end

      # Eight-bit pixels with alpha and nothing behind, the colour not multiplied by it: u8 [h, w, 4].
      kernel out: U8[3], image: F32[3], gain: F32, soft: BOOL
      def cut_out(out, image, gain, soft)
        parallel(image.dim(0)) do |py|
          image.dim(1).times do |px|
            alpha = image[py, px, 3].clamp(0.0, 1.0)
            per = alpha > 0.0 ? 1.0 / alpha : 0.0
            3.times { |c| out[py, px, c] = (255.0 * tone(image[py, px, c] * per, gain, soft) + 0.5).to_i }
            out[py, px, 3] = (255.0 * alpha + 0.5).to_i
          end
        end
      end
    end
  end
end
