# frozen_string_literal: true

module Vumbral
  module Flow
    # Loops that read a field at places between its points by a cubic; held within the nearest eight values, it is
    # monotone.
    #
    # They work on pieces of a row: first the weights of all places of a piece, many at a time, then the 64 values of
    # each, four side by side. Nothing has to be collected from here and there, which took twice as long.
    module CubicKernels
      extend Kernel::Library

      # The slope of the cubic (Keys 1981): -0.5 is Catmull and Rom's. A little steeper makes up for
      # what is lost by holding peaks within their neighbours; much steeper would make energy.
      SLOPE = -0.51
      # Places of a piece of a row, and weights of all of them.
      PIECE = 64
      WEIGHTS = 768

      # A field with its outermost values once more around it, one after the other, along x first: where places are
      # read, nothing has to be held within the box.
      kernel padded: F32[1], field: F32[3]
      def pad(padded, field)
        ny = field.dim(1)
        nx = field.dim(2)
        parallel(field.dim(0) + 2) do |n|
          k = (n - 1).clamp(0, field.dim(0) - 1)
          (ny + 2).times do |m|
            j = (m - 1).clamp(0, ny - 1)
            first = (n * (ny + 2) + m) * (nx + 2)
            padded[first] = field[k, j, 0]
            nx.times { |i| padded[first + 1 + i] = field[k, j, i] }
            padded[first + nx + 1] = field[k, j, nx - 1]
          end
        end
      end

      # The four weights of a cubic through values, for a place between the second and the third.
      kernel f: F32, returns: [F32, F32, F32, F32]
      def cubic(f)
        a = SLOPE * f * (1.0 - f) * (1.0 - f)
        b = 1.0 + f * f * ((SLOPE + 2.0) * f - SLOPE - 3.0)
        c = f * (f * (2.0 * SLOPE + 3.0 - (SLOPE + 2.0) * f) - SLOPE)
        d = SLOPE * f * f * (1.0 - f)
        return a, b, c, d
      end

      # Takes down the weights of a place of a piece. `like` is as large as the field.
      # @return which is the first of its 64 values, in the padded field
      kernel weights: F32[1], m: I32, x: F32, y: F32, z: F32, like: F32[3], returns: I32
      def place(weights, m, x, y, z, like)
        cx = x.clamp(0.0, (like.dim(2) - 1).to_f)
        cy = y.clamp(0.0, (like.dim(1) - 1).to_f)
        cz = z.clamp(0.0, (like.dim(0) - 1).to_f)
        i = cx.to_i.clamp(0, like.dim(2) - 2)
        j = cy.to_i.clamp(0, like.dim(1) - 2)
        k = cz.to_i.clamp(0, like.dim(0) - 2)
        xa, xb, xc, xd = cubic(cx - i)
        ya, yb, yc, yd = cubic(cy - j)
        za, zb, zc, zd = cubic(cz - k)
        weights[m] = xa
        weights[PIECE + m] = xb
        weights[2 * PIECE + m] = xc
        weights[3 * PIECE + m] = xd
        weights[4 * PIECE + m] = ya
        weights[5 * PIECE + m] = yb
        weights[6 * PIECE + m] = yc
        weights[7 * PIECE + m] = yd
        weights[8 * PIECE + m] = za
        weights[9 * PIECE + m] = zb
        weights[10 * PIECE + m] = zc
        weights[11 * PIECE + m] = zd
        (k * (like.dim(1) + 2) + j) * (like.dim(2) + 2) + i
      end

      # What a place of a piece holds. @param row, layer: how far rows and layers of the padded field lie apart
      # @return the value, not yet held, and the smallest and the largest of the nearest eight
      kernel padded: F32[1], first: I32, weights: F32[1], m: I32, row: I32, layer: I32, returns: [F32, F32, F32]
      def read(padded, first, weights, m, row, layer)
        sums = local_f32(4)
        least = local_f32(4)
        most = local_f32(4)
        ya = weights[4 * PIECE + m]
        yb = weights[5 * PIECE + m]
        yc = weights[6 * PIECE + m]
        yd = weights[7 * PIECE + m]
        za = weights[8 * PIECE + m]
        zb = weights[9 * PIECE + m]
        zc = weights[10 * PIECE + m]
        zd = weights[11 * PIECE + m]
        q = first + layer
        r = q + layer
        s = r + layer
        4.times do |n|
          b = padded[q + row + n]
          c = padded[q + 2 * row + n]
          f = padded[r + row + n]
          g = padded[r + 2 * row + n]
          sums[n] = za * (ya * padded[first + n] + yb * padded[first + row + n] + yc * padded[first + 2 * row + n] +
            yd * padded[first + 3 * row + n]) +
            zb * (ya * padded[q + n] + yb * b + yc * c + yd * padded[q + 3 * row + n]) +
            zc * (ya * padded[r + n] + yb * f + yc * g + yd * padded[r + 3 * row + n]) +
            zd * (ya * padded[s + n] + yb * padded[s + row + n] + yc * padded[s + 2 * row + n] +
            yd * padded[s + 3 * row + n])
          least[n] = [b, c, f, g].min
          most[n] = [b, c, f, g].max
        end
        value = weights[m] * sums[0] + weights[PIECE + m] * sums[1] + weights[2 * PIECE + m] * sums[2] +
          weights[3 * PIECE + m] * sums[3]
        low = [least[1], least[2]].min
        high = [most[1], most[2]].max
        return value, low, high
      end
    end
  end
end
