# frozen_string_literal: true

module Vumbral
  module Finish
    # A piece of a picture found again in another. Pictures are f32 [h, w], brightness as a screen has it; patterns f32
    # [n, m].
    module TrackKernels
      extend Kernel::Library

      # How bright each pixel is, as a screen has it.
      kernel out: F32[2], image: F32[3]
      def grey(out, image)
        parallel(out.dim(0)) do |py|
          out
            .dim(1)
            .times do |px|
              out[py, px] = Math.sqrt(
                [0.2126 * image[py, px, 0] + 0.7152 * image[py, px, 1] + 0.0722 * image[py, px, 2], 0.0].max
              )
            end
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

      # How much a pixel counts: not where it is to be passed over.
      kernel ignored: F32[2], y: I32, x: I32, returns: F32
      def counts(ignored, y, x)
        return 1.0 if ignored.dim(0) == 1
        return 1.0 - ignored[y, x].clamp(0.0, 1.0)
      end

      # How like the pattern a picture is about each place, whatever its light: the correlation, -1 to 1. `top` and
      # `left` are where the pattern's first pixel comes to lie for the first score.
      kernel scores: F32[2], image: F32[2], ignored: F32[2], pattern: F32[2], top: I32, left: I32
      def scores(scores, image, ignored, pattern, top, left)
        parallel(scores.dim(0)) do |row|
          scores.dim(1).times do |column|
            a = 0.0
            b = 0.0
            aa = 0.0
            bb = 0.0
            ab = 0.0
            all = 0.00001
            pattern.dim(0).times do |py|
              y = (top + row + py).clamp(0, image.dim(0) - 1)
              pattern.dim(1).times do |px|
                x = (left + column + px).clamp(0, image.dim(1) - 1)
                w = counts(ignored, y, x)
                p = pattern[py, px]
                q = image[y, x]
                all += w
                a += w * p
                b += w * q
                aa += w * p * p
                bb += w * q * q
                ab += w * p * q
              end
            end
            per = 1.0 / all
            spread = (aa - per * a * a) * (bb - per * b * b)
            scores[row, column] = spread > 0.00000001 ? (ab - per * a * b) / Math.sqrt(spread) : 0.0
          end
        end
      end

      # Sums for a step to where a picture is most like gain times pattern plus an offset (Lucas & Kanade 1981): of each
      # row of the pattern, products of the slopes along x and y, the pattern, one and the picture: f32 [n, 15], upper
      # half row by row.
      kernel sums: F32[2], image: F32[2], ignored: F32[2], pattern: F32[2], y: F32, x: F32
      def sums(sums, image, ignored, pattern, y, x)
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
            w = counts(ignored, (v + 0.5).floor.clamp(0, image.dim(0) - 1), (u + 0.5).floor.clamp(0, image.dim(1) - 1))
            n = 0
            5.times do |a|
              (a...5).each do |b|
                sums[py, n] += w * part[a] * part[b]
                n += 1
              end
            end
          end
        end
      end

      # How good a spot each pixel is to be followed: the smaller of the two curvatures about it (Shi & Tomasi 1994),
      # summed over a square of `reach` pixels each way. Nothing near the edge or where it is to be passed over.
      kernel out: F32[2], image: F32[2], ignored: F32[2], reach: I32
      def corners(out, image, ignored, reach)
        parallel(out.dim(0), uneven: true) do |py|
          out.dim(1).times do |px|
            out[py, px] = 0.0
            inside = py > reach && px > reach && py < out.dim(0) - reach - 1 && px < out.dim(1) - reach - 1
            if inside && counts(ignored, py, px) > 0.5
              xx = 0.0
              xy = 0.0
              yy = 0.0
              (2 * reach + 1).times do |m|
                y = py + m - reach
                (2 * reach + 1).times do |n|
                  x = px + n - reach
                  dx = 0.5 * (image[y, x + 1] - image[y, x - 1])
                  dy = 0.5 * (image[y + 1, x] - image[y - 1, x])
                  xx += dx * dx
                  xy += dx * dy
                  yy += dy * dy
                end
              end
              half = 0.5 * (xx - yy)
              out[py, px] = 0.5 * (xx + yy) - Math.sqrt(half * half + xy * xy)
            end
          end
        end
      end

      # The best of each square of `edge` pixels: how good it is, and where. @param out f32 [rows, columns, 3]
      kernel out: F32[3], strengths: F32[2], edge: I32
      def best(out, strengths, edge)
        parallel(out.dim(0)) do |row|
          out.dim(1).times do |column|
            3.times { |c| out[row, column, c] = 0.0 }
            edge.times do |m|
              y = row * edge + m
              edge.times do |n|
                x = column * edge + n
                if y < strengths.dim(0) && x < strengths.dim(1) && strengths[y, x] > out[row, column, 0]
                  out[row, column, 0] = strengths[y, x]
                  out[row, column, 1] = y
                  out[row, column, 2] = x
                end
              end
            end
          end
        end
      end
    end
  end
end
