# frozen_string_literal: true

module Vumbral
  module Finish
    # What moves between two pictures. Brightness is f32 [h, w, 1], as a screen has it; `way` f32 [h, w, 2] is how far
    # each place goes from the first picture to the second, pixels across and down, as seen at a moment between them.
    module FlowKernels
      extend Kernel::Library

      # Ways of a picture twice as fine. @param out f32 [h, w, 2], small f32 [h', w', 2]
      kernel out: F32[3], small: F32[3]
      def finer(out, small)
        sy = f64(small.dim(0)) / out.dim(0)
        sx = f64(small.dim(1)) / out.dim(1)
        parallel(out.dim(0)) do |py|
          y = (py + 0.5) * sy - 0.5
          out.dim(1).times do |px|
            x = (px + 0.5) * sx - 0.5
            out[py, px, 0] = LensKernels.at(small, y, x, 0) / sx
            out[py, px, 1] = LensKernels.at(small, y, x, 1) / sy
          end
        end
      end

      # Where both pictures are looked at along the way, at the moment `t` (0 the first, 1 the second): products of the
      # slopes across and down, and of each with how much brighter the second is. `out` f32 [h, w, 5].
      kernel out: F32[3], a: F32[3], b: F32[3], way: F32[3], t: F32
      def products(out, a, b, way, t)
        parallel(out.dim(0)) do |py|
          out.dim(1).times do |px|
            ay = py - t * way[py, px, 1]
            ax = px - t * way[py, px, 0]
            by = py + (1.0 - t) * way[py, px, 1]
            bx = px + (1.0 - t) * way[py, px, 0]
            gx = 0.25 * (LensKernels.at(a, ay, ax + 1.0, 0) - LensKernels.at(a, ay, ax - 1.0, 0) + LensKernels.at(b, by, bx + 1.0, 0) - LensKernels.at(b, by, bx - 1.0, 0))
            gy = 0.25 * (LensKernels.at(a, ay + 1.0, ax, 0) - LensKernels.at(a, ay - 1.0, ax, 0) + LensKernels.at(b, by + 1.0, bx, 0) - LensKernels.at(b, by - 1.0, bx, 0))
            d = LensKernels.at(b, by, bx, 0) - LensKernels.at(a, ay, ax, 0)
            out[py, px, 0] = gx * gx
            out[py, px, 1] = gx * gy
            out[py, px, 2] = gy * gy
            out[py, px, 3] = gx * d
            out[py, px, 4] = gy * d
          end
        end
      end

      # A step towards where both pictures are alike (Lucas & Kanade 1981), at most a pixel; `sums` are {#products} of
      # what is about each place. Where nothing is to be seen the way stays as it was.
      kernel way: F32[3], sums: F32[3]
      def step(way, sums)
        parallel(way.dim(0)) do |py|
          way.dim(1).times do |px|
            xx = sums[py, px, 0] + 0.00002
            yy = sums[py, px, 2] + 0.00002
            xy = sums[py, px, 1]
            under = xx * yy - xy * xy
            way[py, px, 0] += ((xy * sums[py, px, 4] - yy * sums[py, px, 3]) / under).clamp(-1.0, 1.0)
            way[py, px, 1] += ((xy * sums[py, px, 3] - xx * sums[py, px, 4]) / under).clamp(-1.0, 1.0)
          end
        end
      end

      # The picture at the moment `t`: both along their ways, the nearer one more. Pictures f32 [h, w, 4].
      kernel out: F32[3], a: F32[3], b: F32[3], way: F32[3], t: F32
      def between(out, a, b, way, t)
        parallel(out.dim(0)) do |py|
          out.dim(1).times do |px|
            u = way[py, px, 0]
            v = way[py, px, 1]
            4.times do |c|
              first = LensKernels.at(a, py - t * v, px - t * u, c)
              out[py, px, c] = first + t * (LensKernels.at(b, py + (1.0 - t) * v, px + (1.0 - t) * u, c) - first)
            end
          end
        end
      end
    end
  end
end
