# frozen_string_literal: true

module Vumbral
  module Finish
    # Look-up tables.
    module TableKernels
      extend Kernel::Library

      # A colour through a table of three dimensions, f32 [n, n, n, 3], blue outermost: within the one of six tetrahedra
      # about it that it lies in, so that greys stay greys.
      kernel table: F32[4], r: F32, g: F32, b: F32, returns: [F32, F32, F32]
      def solid(table, r, g, b)
        last = table.dim(0) - 1
        x = r * last
        y = g * last
        z = b * last
        i = [x.to_i, last - 1].min
        j = [y.to_i, last - 1].min
        k = [z.to_i, last - 1].min
        x -= i
        y -= j
        z -= k
        # The two corners between the lowest and the highest, by the order of the parts.
        ai = x >= y && x >= z ? 1 : 0
        aj = ai == 0 && y >= z ? 1 : 0
        ak = ai == 0 && aj == 0 ? 1 : 0
        bi = 1
        bj = 1
        bk = 1
        if ai == 1
          bj = y >= z ? 1 : 0
          bk = 1 - bj
        elsif aj == 1
          bi = x >= z ? 1 : 0
          bk = 1 - bi
        else
          bi = x >= y ? 1 : 0
          bj = 1 - bi
        end
        high = [x, y, z].max
        low = [x, y, z].min
        middle = x + y + z - high - low
        red =
          (1.0 - high) * table[k, j, i, 0] + (high - middle) * table[k + ak, j + aj, i + ai, 0] +
          (middle - low) * table[k + bk, j + bj, i + bi, 0] + low * table[k + 1, j + 1, i + 1, 0]
        green =
          (1.0 - high) * table[k, j, i, 1] + (high - middle) * table[k + ak, j + aj, i + ai, 1] +
          (middle - low) * table[k + bk, j + bj, i + bi, 1] + low * table[k + 1, j + 1, i + 1, 1]
        blue =
          (1.0 - high) * table[k, j, i, 2] + (high - middle) * table[k + ak, j + aj, i + ai, 2] +
          (middle - low) * table[k + bk, j + bj, i + bi, 2] + low * table[k + 1, j + 1, i + 1, 2]
        return red, green, blue
      end

      # A picture through a table: `ends` f32 [6] are where it begins and ends in red, green and blue; what lies beyond
      # counts as its end. Spaces as {GradeKernels#into}.
      kernel image: F32[3], table: F32[4], ends: F32[1], space: I32
      def through(image, table, ends, space)
        flat = table.dim(1) == 1
        parallel(image.dim(0)) do |py|
          image.dim(1).times do |px|
            whole = GradeKernels.cover(image, py, px)
            r = ((GradeKernels.into(space, image[py, px, 0] / whole) - ends[0]) / (ends[3] - ends[0])).clamp(0.0, 1.0)
            g = ((GradeKernels.into(space, image[py, px, 1] / whole) - ends[1]) / (ends[4] - ends[1])).clamp(0.0, 1.0)
            b = ((GradeKernels.into(space, image[py, px, 2] / whole) - ends[2]) / (ends[5] - ends[2])).clamp(0.0, 1.0)
            red = 0.0
            green = 0.0
            blue = 0.0
            if flat
              red = along(table, 0, r)
              green = along(table, 1, g)
              blue = along(table, 2, b)
            else
              red, green, blue = solid(table, r, g, b)
            end
            image[py, px, 0] = whole * GradeKernels.out_of(space, red)
            image[py, px, 1] = whole * GradeKernels.out_of(space, green)
            image[py, px, 2] = whole * GradeKernels.out_of(space, blue)
          end
        end
      end

      # A picture's lights as a screen has them, for a table: `out` f32 [n, n, n, 3], `image` f32 [n n, n, 4].
      kernel out: F32[4], image: F32[3]
      def screened(out, image)
        edge = out.dim(0)
        parallel(edge) do |k|
          edge.times do |j|
            edge.times do |i|
              3.times { |c| out[k, j, i, c] = GradeKernels.screen([image[k * edge + j, i, c], 0.0].max) }
            end
          end
        end
      end

      # A number through a table of one dimension, f32 [n, 1, 1, 3].
      kernel table: F32[4], c: I32, x: F32, returns: F32
      def along(table, c, x)
        last = table.dim(0) - 1
        at = x * last
        n = [at.to_i, last - 1].min
        return table[n, 0, 0, c] + (at - n) * (table[n + 1, 0, 0, c] - table[n, 0, 0, c])
      end
    end
  end
end
