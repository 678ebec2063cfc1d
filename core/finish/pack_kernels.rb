# frozen_string_literal: true

module Vumbral
  module Finish
    # Pictures in half precision, as they are kept.
    module PackKernels
      extend Kernel::Library

      kernel out: F16[3], image: F32[3]
      def pack(out, image)
        parallel(out.dim(0)) do |py|
          out
            .dim(1)
            .times { |px| out.dim(2).times { |c| out[py, px, c] = image[py, px, c].clamp(-65_000.0, 65_000.0) } }
        end
      end

      # As a screen has it, without a film: `out` u8 [h, w, 3].
      kernel out: U8[3], image: F32[3]
      def screen(out, image)
        parallel(out.dim(0)) do |py|
          out
            .dim(1)
            .times do |px|
              3.times do |c|
                out[py, px, c] = (255.0 * GradeKernels.screen(image[py, px, c].clamp(0.0, 1.0)) + 0.5).to_i
              end
            end
        end
      end

      # Light times `gains` f32 [3] in one of the spaces of {GradeKernels#into}: `out` u16 [h, w, 3].
      kernel out: U16[3], light: F32[3], gains: F32[1], space: I32
      def deep(out, light, gains, space)
        parallel(out.dim(0)) do |py|
          out.dim(1).times do |px|
            3.times do |c|
              out[py, px, c] = (
                65_535.0 * GradeKernels.into(space, gains[c] * light[py, px, c]).clamp(0.0, 1.0) + 0.5
              ).to_i
            end
          end
        end
      end

      kernel out: F32[3], packed: F16[3]
      def unpack(out, packed)
        parallel(out.dim(0)) do |py|
          out.dim(1).times { |px| out.dim(2).times { |c| out[py, px, c] = packed[py, px, c] + 0.0 } }
        end
      end
    end
  end
end
