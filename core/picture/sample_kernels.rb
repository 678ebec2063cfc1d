# frozen_string_literal: true

module Vumbral
  module Picture
    # Gathers the pictures that one with blur is made of ({Sampler}).
    module SampleKernels
      extend Kernel::Library

      # What is told of a pixel's surface: logarithm of its depth, normal, own colour, and how wide the lens blurs it
      # (pixels); then the squares of these.
      GUIDES = 8
      # No farther than this, metres.
      FAR = 1e4
      # A light that shows as middle grey.
      GREY = 0.4

      # Adds a picture where it is wanted. `half` takes every other group of them, `squares` those of brightness.
      kernel sum: F32[3], half: F32[3], squares: F32[2], counts: I32[2], image: F32[3], wanted: U8[2], odd: BOOL
      def gather(sum, half, squares, counts, image, wanted, odd)
        parallel(sum.dim(0)) do |y|
          sum.dim(1).times do |x|
            if wanted[y, x] > 0
              4.times { |c| sum[y, x, c] = sum[y, x, c] + image[y, x, c] }
              if odd
                4.times { |c| half[y, x, c] = half[y, x, c] + image[y, x, c] }
              end
              bright = bright(image, y, x)
              squares[y, x] = squares[y, x] + bright * bright
              counts[y, x] = counts[y, x] + 1
            end
          end
        end
      end

      kernel image: F32[3], y: I32, x: I32, returns: F32
      def light(image, y, x)
        0.2126 * image[y, x, 0] + 0.7152 * image[y, x, 1] + 0.0722 * image[y, x, 2]
      end

      # What tells pixels apart: how bright they are, and how much they cover of what lies behind.
      kernel image: F32[3], y: I32, x: I32, returns: F32
      def bright(image, y, x)
        light(image, y, x) + 0.25 * image[y, x, 3]
      end

      # Adds what the middles of pixels see: `guides` f32 [h, w, 16].
      kernel guides: F32[3], glance: Picture::Glance, view: F32[1], scene: Picture::Scene, wanted: U8[2]
      def guide(guides, glance, view, scene, wanted)
        parallel(guides.dim(0)) do |py|
          told = local_f32(8)
          wide =
            Math.sqrt(view[15] * view[15] + view[16] * view[16] + view[17] * view[17]) * view[12] /
            Math.sqrt(view[6] * view[6] + view[7] * view[7] + view[8] * view[8])
          guides.dim(1).times do |px|
            if wanted[py, px] > 0
              8.times { |c| told[c] = 0.0 }
              told[0] = Math.log(FAR)
              told[7] = wide * view[23]
              found = glance.seen[py, px]
              if found >= 0
                t = glance.depth[py, px]
                told[0] = Math.log([t, FAR].min)
                told[7] = wide * (1.0 / t - view[23]).abs
                ox, oy, oz, dx, dy, dz = EyeKernels.ray(view, px + 0.5, py + 0.5)
                _a, b, g = Geometry::MapKernels.shares(scene.corners, found, ox + t * dx, oy + t * dy, oz + t * dz)
                nx, ny, nz =
                  SurfaceKernels.normal(scene, Spot.new(t, found, b, g, 0.0), Geometry::Ray.new(ox, oy, oz, dx, dy, dz))
                told[1] = nx
                told[2] = ny
                told[3] = nz
                red, green, blue = SurfaceKernels.own(scene, Spot.new(t, found, b, g, 0.0), 0.001 * t)
                told[4] = red
                told[5] = green
                told[6] = blue
              end
              8.times do |c|
                guides[py, px, c] = guides[py, px, c] + told[c]
                guides[py, px, 8 + c] = guides[py, px, 8 + c] + told[c] * told[c]
              end
            end
          end
        end
      end

      # Sums become means, and squares how far these may be off (squared).
      kernel guides: F32[3], counts: I32[2]
      def tell(guides, counts)
        parallel(guides.dim(0)) do |y|
          guides.dim(1).times do |x|
            n = [counts[y, x], 1].max + 0.0
            8.times do |c|
              mean = guides[y, x, c] / n
              guides[y, x, c] = mean
              guides[y, x, 8 + c] = [guides[y, x, 8 + c] / n - mean * mean, 0.0].max / [n - 1.0, 1.0].max
            end
          end
        end
      end

      # How many of so many pictures the other half took.
      kernel count: I32, group: I32, returns: I32
      def halves(count, group)
        count / (2 * group) * group + [count % (2 * group) - group, 0].max
      end

      # Squares of pixels, `size` wide, in which two halves of the pictures agree need no more. How many still do.
      kernel wanted: U8[2], sum: F32[3], half: F32[3], counts: I32[2], allowed: F32, gain: F32, group: I32, size: I32,
        returns: I32
      def settle(wanted, sum, half, counts, allowed, gain, group, size)
        left = 0
        rows = (sum.dim(0) + size - 1) / size
        across = (sum.dim(1) + size - 1) / size
        rows.times do |j|
          across.times do |i|
            y1 = [size * j + size, sum.dim(0)].min
            x1 = [size * i + size, sum.dim(1)].min
            if wanted[size * j, size * i] > 0
              off = 0.0
              ((size * j)...y1).each do |y|
                ((size * i)...x1).each do |x|
                  n = [halves(counts[y, x], group), 1].max
                  first = gain * bright(half, y, x) / n
                  other = gain * (bright(sum, y, x) - bright(half, y, x)) / [counts[y, x] - n, 1].max
                  apart = first / (first + GREY) - other / (other + GREY)
                  off += 0.25 * apart * apart
                end
              end
              if off <= allowed * allowed * ((y1 - size * j) * (x1 - size * i))
                ((size * j)...y1).each { |y| ((size * i)...x1).each { |x| wanted[y, x] = 0 } }
              else
                left += 1
              end
            end
          end
        end
        left
      end

      # The picture that was gathered.
      kernel out: F32[3], sum: F32[3], counts: I32[2]
      def mean(out, sum, counts)
        parallel(out.dim(0)) do |y|
          out.dim(1).times do |x|
            per = 1.0 / [counts[y, x], 1].max
            4.times { |c| out[y, x, c] = per * sum[y, x, c] }
          end
        end
      end

      # How far the brightness of each pixel may be off (squared): `apart` f32 [h, w, 2], by how its pictures differ,
      # and by how two halves of them do, which are spread as evenly and so differ less.
      kernel apart: F32[3], sum: F32[3], half: F32[3], squares: F32[2], counts: I32[2], group: I32
      def doubt(apart, sum, half, squares, counts, group)
        parallel(apart.dim(0)) do |y|
          apart.dim(1).times do |x|
            n = counts[y, x] + 0.0
            few = [halves(counts[y, x], group), 1].max + 0.0
            rest = [n - few, 1.0].max
            all = bright(sum, y, x)
            one = bright(half, y, x)
            apart[y, x, 0] = [squares[y, x] - all * all / [n, 1.0].max, 0.0].max / [n * (n - 1.0), 1.0].max
            off = one / few - (all - one) / rest
            apart[y, x, 1] = 0.25 * off * off
          end
        end
      end
    end
  end
end
