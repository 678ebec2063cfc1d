# frozen_string_literal: true

module Vumbral
  module Finish
    # Pictures moved, turned, sized and bent: f32 [h, w, 4].
    module WarpKernels
      extend Kernel::Library

      # Weights of four neighbours for a place between the middle two (Catmull & Rom 1974).
      kernel f: F32, n: I32, returns: F32
      def cubic(f, n)
        out = 0.5 * f * f * (f - 1.0)
        out = -0.5 * f * (1.0 - f) * (1.0 - f) if n == 0
        out = 1.0 + f * f * (1.5 * f - 2.5) if n == 1
        out = f * (0.5 + f * (2.0 - 1.5 * f)) if n == 2
        return out
      end

      # A pixel becomes what a picture shows at (`v`, `u`), which are of its pixels' middles; beyond it there is
      # nothing, and its edge is as soft as a pixel.
      kernel out: F32[3], image: F32[3], py: I32, px: I32, v: F32, u: F32
      def sampled(out, image, py, px, v, u)
        h = image.dim(0)
        w = image.dim(1)
        4.times { |c| out[py, px, c] = 0.0 }
        if u > -1.0 && v > -1.0 && u < w && v < h
          i = u.floor
          j = v.floor
          fx = u - i
          fy = v - j
          edge =
            (u + 1.0).clamp(0.0, 1.0) * (w - u).clamp(0.0, 1.0) * (v + 1.0).clamp(0.0, 1.0) * (h - v).clamp(0.0, 1.0)
          if fx < 0.0001 && fy < 0.0001
            4.times { |c| out[py, px, c] = image[j.clamp(0, h - 1), i.clamp(0, w - 1), c] }
          else
            4.times do |n|
              row = cubic(fy, n)
              b = (j + n - 1).clamp(0, h - 1)
              4.times do |m|
                weight = row * cubic(fx, m)
                a = (i + m - 1).clamp(0, w - 1)
                4.times { |c| out[py, px, c] += weight * image[b, a, c] }
              end
            end
            3.times { |c| out[py, px, c] = edge * [out[py, px, c], 0.0].max }
            out[py, px, 3] = edge * out[py, px, 3].clamp(0.0, 1.0)
          end
        end
      end

      # Lays a picture into a frame: `to` f32 [9] takes a pixel of the frame to one of the picture, as a projection
      # does. Beyond the picture there is nothing.
      kernel out: F32[3], image: F32[3], to: F32[1]
      def place(out, image, to)
        parallel(out.dim(0)) do |py|
          y = py + 0.5
          out.dim(1).times do |px|
            x = px + 0.5
            under = to[6] * x + to[7] * y + to[8]
            u = (to[0] * x + to[1] * y + to[2]) / under - 0.5
            v = (to[3] * x + to[4] * y + to[5]) / under - 0.5
            if under > 0.0
              sampled(out, image, py, px, v, u)
            else
              4.times { |c| out[py, px, c] = 0.0 }
            end
          end
        end
      end

      # Lays a smaller picture into a frame as it is, its first pixel at row `y` and column `x`; both of as many
      # channels.
      kernel out: F32[3], image: F32[3], y: I32, x: I32
      def inset(out, image, y, x)
        parallel(image.dim(0)) do |py|
          image.dim(1).times { |px| out.dim(2).times { |c| out[y + py, x + px, c] = image[py, px, c] } }
        end
      end

      # How heat bends what is seen through it, for a small picture: `bend` f32 [h, w, 2] in parts of the most; waves of
      # `size` pixels that have risen by `gone` pixels along (`ux`, `uy`).
      kernel bend: F32[3], size: F32, ux: F32, uy: F32, gone: F32, t: F32, seed: I32
      def waves(bend, size, ux, uy, gone, t, seed)
        parallel(bend.dim(0)) do |py|
          bend.dim(1).times do |px|
            # Waves are longer along their way.
            along = (px * ux + py * uy - gone) / size * 0.6
            aside = (py * ux - px * uy) / size
            2.times do |c|
              wide = Grid::Noise.value(aside, along, 11.3 * c, t, seed)
              fine = Grid::Noise.value(2.1 * aside, 2.1 * along - 0.4 * t, 5.7 + 11.3 * c, 2.0 * t, seed + 3)
              bend[py, px, c] = 0.7 * wide + 0.3 * fine
            end
          end
        end
      end

      # Sees each pixel where it is bent to: `bend` as {#waves}, of any size; `strong` f32 [h, w, 1] how much it counts;
      # `far` pixels at most.
      kernel out: F32[3], image: F32[3], bend: F32[3], strong: F32[3], far: F32
      def bend(out, image, bend, strong, far)
        sy = f64(bend.dim(0)) / out.dim(0)
        sx = f64(bend.dim(1)) / out.dim(1)
        parallel(out.dim(0)) do |py|
          y = ((py + 0.5) * sy - 0.5)
          out.dim(1).times do |px|
            by = far * strong[py, px, 0]
            if by > 0.001
              x = ((px + 0.5) * sx - 0.5)
              dx = by * LensKernels.at(bend, y, x, 0)
              dy = by * LensKernels.at(bend, y, x, 1)
              4.times { |c| out[py, px, c] = LensKernels.at(image, py + dy, px + dx, c) }
            else
              4.times { |c| out[py, px, c] = image[py, px, c] }
            end
          end
        end
      end

      # How strongly heat bends: gas over what bends fully, softly up to 1. `out` and `heat` f32 [h, w, 1].
      kernel out: F32[3], heat: F32[3], full: F32
      def strong(out, heat, full)
        parallel(out.dim(0)) do |py|
          out.dim(1).times { |px| out[py, px, 0] = 1.0 - Math.exp(-1.6 * [heat[py, px, 0], 0.0].max / full) }
        end
      end

      # How many times as far out a lens shows what would be seen at `r`; 1 is the corner of the frame (Brown 1966).
      kernel r: F32, k1: F32, k2: F32, returns: F32
      def bulge(r, k1, k2)
        return 1.0 + r * r * (k1 + r * r * k2)
      end

      # Takes the bend of a lens out of a picture, or with `back` puts it into one that is straight. What a lens turned
      # back on itself cannot be told.
      kernel out: F32[3], image: F32[3], k1: F32, k2: F32, back: BOOL
      def lens(out, image, k1, k2, back)
        h = out.dim(0)
        w = out.dim(1)
        corner = 0.5 * Math.sqrt(f64(h * h + w * w))
        parallel(h) do |py|
          y = py + 0.5 - 0.5 * h
          w.times do |px|
            x = px + 0.5 - 0.5 * w
            far = Math.sqrt(x * x + y * y) / corner
            scale = bulge(far, k1, k2)
            if back
              # Where a straight picture has what is bent to here: Newton's steps.
              r = far
              8.times do |_|
                slope = [1.0 + r * r * (3.0 * k1 + 5.0 * r * r * k2), 0.1].max
                r -= (r * bulge(r, k1, k2) - far) / slope
              end
              scale = far > 0.000001 ? r / far : 1.0
            end
            sampled(out, image, py, px, 0.5 * h + y * scale - 0.5, 0.5 * w + x * scale - 0.5)
          end
        end
      end

      # One channel of a picture: `out` f32 [h, w, 1].
      kernel out: F32[3], image: F32[3], channel: I32
      def channel(out, image, channel)
        parallel(out.dim(0)) do |py|
          out.dim(1).times { |px| out[py, px, 0] = image[py, px, channel] }
        end
      end
    end
  end
end
