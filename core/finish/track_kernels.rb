# frozen_string_literal: true

module Vumbral
  module Finish
    # A piece of a picture found again in another. Pictures are f32 [h, w], brightness as a screen has it; patterns f32 [n, m].
    module TrackKernels
      extend Kernel::Library

      # How bright each pixel is, as a screen has it.
      kernel out: F32[2], image: F32[3]
      def grey(out, image)
        parallel(out.dim(0)) do |py|
          out.dim(1).times { |px| out[py, px] = Math.sqrt([0.2126 * image[py, px, 0] + 0.7152 * image[py, px, 1] + 0.0722 * image[py, px, 2], 0.0].max) }
        end
      end

      # A picture's value between pixels (Catmull & Rom 1974); beyond the edge that of the edge.
      kernel image: F32[2], y: F32, x: F32, returns: F32
      def at(image, y, x)
        j = y.floor
        i = x.floor
        fy = y - j
        fx = x - i
        sum = 0.0
        4.times do |n|
          b = (j + n - 1).clamp(0, image.dim(0) - 1)
          row = 0.0
          4.times { |m| row += WarpKernels.cubic(fx, m) * image[b, (i + m - 1).clamp(0, image.dim(1) - 1)] }
          sum += WarpKernels.cubic(fy, n) * row
        end
        return sum
      end

      # The pattern about a place: (`y`, `x`) is its middle.
      kernel out: F32[2], image: F32[2], y: F32, x: F32
      def cut(out, image, y, x)
        top = y - 0.5 * (out.dim(0) - 1)
        left = x - 0.5 * (out.dim(1) - 1)
        parallel(out.dim(0)) do |py|
          out.dim(1).times { |px| out[py, px] = at(image, top + py, left + px) }
        end
      end

      # How like the pattern a picture is about each place, whatever its light: the correlation, -1 to 1. `top` and `left` are
      # where the pattern's first pixel comes to lie for the first score.
      kernel scores: F32[2], image: F32[2], pattern: F32[2], top: I32, left: I32
      def scores(scores, image, pattern, top, left)
        parallel(scores.dim(0)) do |row|
          scores.dim(1).times do |column|
            a = 0.0
            b = 0.0
            aa = 0.0
            bb = 0.0
            ab = 0.0
            pattern.dim(0).times do |py|
              y = (top + row + py).clamp(0, image.dim(0) - 1)
              pattern.dim(1).times do |px|
                p = pattern[py, px]
                q = image[y, (left + column + px).clamp(0, image.dim(1) - 1)]
                a += p
                b += q
                aa += p * p
                bb += q * q
                ab += p * q
              end
            end
            per = 1.0 / (pattern.dim(0) * pattern.dim(1))
            spread = (aa - per * a * a) * (bb - per * b * b)
            scores[row, column] = spread > 0.00000001 ? (ab - per * a * b) / Math.sqrt(spread) : 0.0
          end
        end
      end

      # Sums for a step to where a picture is most like gain times pattern plus an offset (Lucas & Kanade 1981): of each row of
      # the pattern, products of the slopes along x and y, the pattern, one and the picture: f32 [n, 15], upper half row by row.
      kernel sums: F32[2], image: F32[2], pattern: F32[2], y: F32, x: F32
      def sums(sums, image, pattern, y, x)
        top = y - 0.5 * (pattern.dim(0) - 1)
        left = x - 0.5 * (pattern.dim(1) - 1)
        parallel(pattern.dim(0)) do |py|
          part = local_f32(5)
          15.times { |n| sums[py, n] = 0.0 }
          pattern.dim(1).times do |px|
            v = top + py
            u = left + px
            part[0] = 0.5 * (at(image, v, u + 1.0) - at(image, v, u - 1.0))
            part[1] = 0.5 * (at(image, v + 1.0, u) - at(image, v - 1.0, u))
            part[2] = pattern[py, px]
            part[3] = 1.0
            part[4] = at(image, v, u)
            n = 0
            5.times do |a|
              (a...5).each do |b|
                sums[py, n] += part[a] * part[b]
                n += 1
              end
            end
          end
        end
      end
    end
  end
end
