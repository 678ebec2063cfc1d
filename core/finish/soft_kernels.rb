# frozen_string_literal: true

module Vumbral
  module Finish
    # Wide blurs by way of small pictures: f32 [h, w, channels].
    module SoftKernels
      extend Kernel::Library

      # A picture of half the size, each pixel of four by four (1 3 3 1).
      kernel out: F32[3], image: F32[3]
      def halve(out, image)
        bottom = image.dim(0) - 1
        right = image.dim(1) - 1
        parallel(out.dim(0)) do |py|
          a = [2 * py - 1, 0].max
          b = [2 * py, bottom].min
          c = [2 * py + 1, bottom].min
          d = [2 * py + 2, bottom].min
          out.dim(1).times do |px|
            e = [2 * px - 1, 0].max
            f = [2 * px, right].min
            g = [2 * px + 1, right].min
            h = [2 * px + 2, right].min
            out.dim(2).times do |n|
              one = image[a, e, n] + 3.0 * (image[a, f, n] + image[a, g, n]) + image[a, h, n]
              two = image[b, e, n] + 3.0 * (image[b, f, n] + image[b, g, n]) + image[b, h, n]
              three = image[c, e, n] + 3.0 * (image[c, f, n] + image[c, g, n]) + image[c, h, n]
              four = image[d, e, n] + 3.0 * (image[d, f, n] + image[d, g, n]) + image[d, h, n]
              out[py, px, n] = (one + 3.0 * (two + three) + four) / 64.0
            end
          end
        end
      end

      # Blurs downwards by weights of the middle and of what lies 1, 2, … pixels off on either side.
      kernel out: F32[3], image: F32[3], weights: F32[1]
      def down(out, image, weights)
        bottom = image.dim(0) - 1
        parallel(out.dim(0)) do |py|
          out.dim(1).times { |px| out.dim(2).times { |c| out[py, px, c] = weights[0] * image[py, px, c] } }
          (1...weights.dim(0)).each do |n|
            above = [py - n, 0].max
            under = [py + n, bottom].min
            out
              .dim(1)
              .times do |px|
                out.dim(2).times { |c| out[py, px, c] += weights[n] * (image[above, px, c] + image[under, px, c]) }
              end
          end
        end
      end

      # Blurs across.
      kernel out: F32[3], image: F32[3], weights: F32[1]
      def across(out, image, weights)
        right = image.dim(1) - 1
        parallel(out.dim(0)) do |py|
          out.dim(1).times { |px| out.dim(2).times { |c| out[py, px, c] = weights[0] * image[py, px, c] } }
          (1...weights.dim(0)).each do |n|
            out.dim(1).times do |px|
              a = [px - n, 0].max
              b = [px + n, right].min
              out.dim(2).times { |c| out[py, px, c] += weights[n] * (image[py, a, c] + image[py, b, c]) }
            end
          end
        end
      end

      # Adds a small picture to a large one, smoothly between its pixels: `keep` of what was there, `gain` f32
      # [channels] of it. `per` is how many of its pixels a pixel of the large one is.
      kernel out: F32[3], small: F32[3], per: F32, keep: F32, gain: F32[1]
      def spread(out, small, per, keep, gain)
        parallel(out.dim(0)) do |py|
          y = ((py + 0.5) * per - 0.5).clamp(0.0, small.dim(0) - 1.0)
          j = [y.to_i, small.dim(0) - 2].min.clamp(0, small.dim(0) - 1)
          under = [j + 1, small.dim(0) - 1].min
          fy = y - j
          out.dim(1).times do |px|
            x = ((px + 0.5) * per - 0.5).clamp(0.0, small.dim(1) - 1.0)
            i = [x.to_i, small.dim(1) - 2].min.clamp(0, small.dim(1) - 1)
            beside = [i + 1, small.dim(1) - 1].min
            fx = x - i
            out.dim(2).times do |c|
              a = small[j, i, c] + fx * (small[j, beside, c] - small[j, i, c])
              b = small[under, i, c] + fx * (small[under, beside, c] - small[under, i, c])
              out[py, px, c] = keep * out[py, px, c] + gain[c] * (a + fy * (b - a))
            end
          end
        end
      end
    end
  end
end
