# frozen_string_literal: true

module Vumbral
  module Picture
    # Smooths what is left of grain (an edge-avoiding wavelet, Dammertz et al. 2010, guided by how sure each pixel is,
    # as in Schied et al. 2017): a pixel is made of those around it that see the same kind of surface and may be the
    # same.
    module DenoiseKernels
      extend Kernel::Library

      # So far apart, as squares, surfaces may be: logarithm of depth, normal, colour.
      DEEP, TURNED, DYED = 0.01, 0.04, 0.01
      # So many times as far as they may be off, brightnesses may differ.
      APART = 4.0
      # Of what is nearer than one over this of the blur.
      SAME = 10.0
      # From this blur on, pixels.
      BLURRED = 2.0
      # A pixel that is so many times less sure than another (as a square) is not mixed with it for that: the glint of a
      # lamp that one picture of many met would lie over all around it.
      UNSURE = 4.0
      # Wider squares of pixels say by how much halves differ less than their pictures.
      AROUND = 4

      # How far each pixel may be off: `doubt` f32 [h, w] from `apart` ({SampleKernels#doubt}), which is too rough by
      # itself. Where the lens blurs, nothing is finer than its blur, and all that pictures differ by is doubt.
      kernel doubt: F32[2], apart: F32[3], guides: F32[3]
      def calm(doubt, apart, guides)
        parallel(doubt.dim(0)) do |y|
          doubt.dim(1).times do |x|
            all = 1e-20
            halves = 0.0
            near = 0.0
            weight = 0.0
            ([y - AROUND, 0].max..[y + AROUND, doubt.dim(0) - 1].min).each do |j|
              ([x - AROUND, 0].max..[x + AROUND, doubt.dim(1) - 1].min).each do |i|
                all += apart[j, i, 0]
                halves += apart[j, i, 1]
                if (j - y).abs < 2 && (i - x).abs < 2
                  share = (j == y ? 2.0 : 1.0) * (i == x ? 2.0 : 1.0)
                  near += share * apart[j, i, 0]
                  weight += share
                end
              end
            end
            blurred = (guides[y, x, 7] / BLURRED - 1.0).clamp(0.0, 1.0)
            sure = (halves / all).clamp(0.02, 2.0)
            doubt[y, x] = near / weight * (sure + blurred * ([sure, 1.0].max - sure))
          end
        end
      end

      # A pixel that is brighter than all around it and not sure is no brighter than the next.
      kernel out: F32[3], image: F32[3], doubt: F32[2]
      def fireflies(out, image, doubt)
        parallel(out.dim(0)) do |y|
          out.dim(1).times do |x|
            here = SampleKernels.light(image, y, x)
            most = 0.0
            ([y - 1, 0].max..[y + 1, out.dim(0) - 1].min).each do |j|
              ([x - 1, 0].max..[x + 1, out.dim(1) - 1].min).each do |i|
                most = [most, SampleKernels.light(image, j, i)].max if j != y || i != x
              end
            end
            per = here > 1.5 * most && doubt[y, x] > 0.0025 * here * here ? most / [here, 1e-9].max : 1.0
            4.times { |c| out[y, x, c] = (c < 3 ? per : 1.0) * image[y, x, c] }
          end
        end
      end

      # How much what is told of two pixels' surfaces differs.
      kernel guides: F32[3], y: I32, x: I32, j: I32, i: I32, returns: F32
      def unlike(guides, y, x, j, i)
        sum = 0.0
        7.times do |c|
          off = guides[y, x, c] - guides[j, i, c]
          may = c == 0 ? DEEP : (c < 4 ? TURNED : DYED)
          sum += off * off / (may + 2.0 * (guides[y, x, 8 + c] + guides[j, i, 8 + c]))
        end
        sum
      end

      # How wide the lens blurs a pixel for sure: not where some of what it sees is sharp.
      kernel guides: F32[3], y: I32, x: I32, returns: F32
      def blur(guides, y, x)
        guides[y, x, 7] - 4.0 * Math.sqrt(guides[y, x, 15])
      end

      # One step of it: `image` and `doubt` become `out` and `less`, from pixels `step` apart.
      kernel out: F32[3], less: F32[2], image: F32[3], doubt: F32[2], guides: F32[3], step: I32
      def smooth(out, less, image, doubt, guides, step)
        parallel(out.dim(0), uneven: true) do |y|
          sum = local_f32(4)
          out.dim(1).times do |x|
            4.times { |c| sum[c] = 0.0 }
            weight = 0.0
            off = 0.0
            here = SampleKernels.bright(image, y, x)
            blurred = blur(guides, y, x)
            5.times do |v|
              j = y + step * (v - 2)
              if j >= 0 && j < out.dim(0)
                5.times do |u|
                  i = x + step * (u - 2)
                  if i >= 0 && i < out.dim(1)
                    apart = SampleKernels.bright(image, j, i) - here
                    # What is much nearer than the lens blurs is the same.
                    near = [blurred, blur(guides, j, i)].min
                    far = step * Math.sqrt((v - 2.0) * (v - 2.0) + (u - 2.0) * (u - 2.0))
                    same = near > 0.5 ? (SAME * far / near - 1.0).clamp(0.0, 1.0) : 1.0
                    both = [doubt[y, x], UNSURE * doubt[j, i]].min + [doubt[j, i], UNSURE * doubt[y, x]].min
                    share = Math.exp(-same * (apart * apart / (APART * both + 1e-12) + unlike(guides, y, x, j, i)))
                    share *=
                      (v == 2 ? 0.375 : ((v - 2).abs == 1 ? 0.25 : 0.0625)) *
                      (u == 2 ? 0.375 : ((u - 2).abs == 1 ? 0.25 : 0.0625))
                    if share > 0.00001
                      weight += share
                      off += share * share * doubt[j, i]
                      4.times { |c| sum[c] = sum[c] + share * image[j, i, c] }
                    end
                  end
                end
              end
            end
            4.times { |c| out[y, x, c] = sum[c] / weight }
            less[y, x] = off / (weight * weight)
          end
        end
      end
    end
  end
end
