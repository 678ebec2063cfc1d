# frozen_string_literal: true

module Vumbral
  module Finish
    # Pictures laid over each other. All are linear red, green, blue and alpha, the colours multiplied by it: f32 [h, w,
    # 4]. Of what glows without covering, alpha is less than its light: it adds.
    module BlendKernels
      extend Kernel::Library

      # How two colours meet where both cover wholly (W3C Compositing and Blending Level 1); lights above white stay
      # lights.
      kernel mode: I32, a: F32, b: F32, returns: F32
      def meet(mode, a, b)
        out = b
        if mode == 2
          out = a > 1.0 || b > 1.0 ? [a, b].max : a + b - a * b
        elsif mode == 3
          out = a * b
        elsif mode == 4
          out = a <= 0.5 ? 2.0 * a * b : (b > 1.0 || a > 1.0 ? [a, b].max : 1.0 - 2.0 * (1.0 - a) * (1.0 - b))
        elsif mode == 5
          if a > 1.0
            out = a
          elsif b <= 0.5
            out = a - (1.0 - 2.0 * b) * a * (1.0 - a)
          else
            d = a <= 0.25 ? ((16.0 * a - 12.0) * a + 4.0) * a : Math.sqrt(a)
            out = a + (2.0 * [b, 1.0].min - 1.0) * (d - a)
          end
        elsif mode == 6
          out = (a - b).abs
        elsif mode == 7
          out = [a, b].max
        elsif mode == 8
          out = [a, b].min
        end
        return out
      end

      # Lays `own` over `below`, which is changed. Modes as {Composite::BLENDS} has them; `share` is how much of it.
      kernel below: F32[3], own: F32[3], mask: F32[2], mode: I32, share: F32
      def lay(below, own, mask, mode, share)
        masked = mask.dim(0) > 1
        parallel(below.dim(0)) do |py|
          below.dim(1).times do |px|
            part = share * (masked ? mask[py, px] : 1.0)
            alpha = own[py, px, 3] * part
            under = below[py, px, 3]
            if mode >= 9
              # What lies below is kept by what this is.
              keep = own[py, px, 3]
              keep = (0.2126 * own[py, px, 0] + 0.7152 * own[py, px, 1] + 0.0722 * own[py, px, 2]).clamp(0.0, 1.0) if mode == 11
              keep = 1.0 - keep if mode == 10
              keep = 1.0 + part * (keep - 1.0)
              4.times { |c| below[py, px, c] *= keep }
            else
              3.times do |c|
                s = own[py, px, c] * part
                d = below[py, px, c]
                if mode == 0
                  below[py, px, c] = s + d * (1.0 - alpha)
                elsif mode == 1
                  below[py, px, c] = s + d
                elsif mode == 2
                  below[py, px, c] = meet(2, d, s)
                else
                  a = under > 0.0001 ? d / under : 0.0
                  b = alpha > 0.0001 ? s / alpha : 0.0
                  below[py, px, c] = s * (1.0 - under) + d * (1.0 - alpha) + alpha * under * meet(mode, a, b)
                end
              end
              below[py, px, 3] = alpha + under * (1.0 - alpha)
            end
          end
        end
      end

      # Goes over from a picture to another where a mask says so: `out` becomes what is between `out` and `after`.
      kernel out: F32[3], after: F32[3], mask: F32[2], share: F32
      def mix(out, after, mask, share)
        masked = mask.dim(0) > 1
        parallel(out.dim(0)) do |py|
          out.dim(1).times do |px|
            part = share * (masked ? mask[py, px] : 1.0)
            4.times { |c| out[py, px, c] += part * (after[py, px, c] - out[py, px, c]) }
          end
        end
      end

      # One colour all over, or on its way to another: from `a` to `b` f32 [4] by the place along (`dx`, `dy`), which go
      # from the middle to the frame's edge.
      kernel out: F32[3], a: F32[1], b: F32[1], dx: F32, dy: F32
      def fill(out, a, b, dx, dy)
        span = dx.abs + dy.abs
        parallel(out.dim(0)) do |py|
          y = 2.0 * (py + 0.5) / out.dim(0) - 1.0
          out.dim(1).times do |px|
            x = 2.0 * (px + 0.5) / out.dim(1) - 1.0
            part = (0.5 + 0.5 * (x * dx + y * dy) / span).clamp(0.0, 1.0)
            4.times { |c| out[py, px, c] = a[c] + part * (b[c] - a[c]) }
          end
        end
      end

      # What stands behind it all comes in: `behind` f32 [h, w, 3].
      kernel out: F32[3], behind: F32[3]
      def back(out, behind)
        parallel(out.dim(0)) do |py|
          out.dim(1).times do |px|
            left = 1.0 - out[py, px, 3]
            3.times { |c| out[py, px, c] += left * behind[py, px, c] }
            out[py, px, 3] = 1.0
          end
        end
      end
    end
  end
end
