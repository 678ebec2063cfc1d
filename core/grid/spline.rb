# frozen_string_literal: true

module Vumbral
  module Grid
    # Smooth values between grid points, by cubic B-splines: never below the smallest of what they mix nor
    # above the largest, and without a crease, so that no voxel shows. Coordinates as in {Sampling}.
    module Spline
      extend Kernel::Library

      # Four weights for a place between the second and the third value.
      kernel f: F32, returns: [F32, F32, F32, F32]
      def weights(f)
        g = 1.0 - f
        return [
          g * g * g * 0.16666667, 0.66666667 + f * f * (0.5 * f - 1.0), 0.66666667 + g * g * (0.5 * g - 1.0),
          f * f * f * 0.16666667
        ]
      end

      # Beyond the edge the nearest value goes on.
      kernel src: F32[3], x: F32, y: F32, z: F32, returns: F32
      def read(src, x, y, z)
        cx = x.clamp(0.0, (src.dim(2) - 1).to_f)
        cy = y.clamp(0.0, (src.dim(1) - 1).to_f)
        cz = z.clamp(0.0, (src.dim(0) - 1).to_f)
        i = cx.to_i.clamp(0, src.dim(2) - 2)
        j = cy.to_i.clamp(0, src.dim(1) - 2)
        k = cz.to_i.clamp(0, src.dim(0) - 2)
        xa, xb, xc, xd = weights(cx - i)
        ya, yb, yc, yd = weights(cy - j)
        za, zb, zc, zd = weights(cz - k)
        sum = 0.0
        if i > 0 && j > 0 && k > 0 && i < src.dim(2) - 2 && j < src.dim(1) - 2 && k < src.dim(0) - 2
          # Four values of a row at once: what lies along x is weighed last.
          row = local_f32(4)
          4.times { |n| row[n] = 0.0 }
          4.times do |c|
            wz = c == 0 ? za : (c == 1 ? zb : (c == 2 ? zc : zd))
            4.times do |e|
              w = wz * (e == 0 ? ya : (e == 1 ? yb : (e == 2 ? yc : yd)))
              4.times { |n| row[n] = row[n] + w * src[k - 1 + c, j - 1 + e, i - 1 + n] }
            end
          end
          sum = row[0] * xa + row[1] * xb + row[2] * xc + row[3] * xd
        else
          4.times do |c|
            kk = (k - 1 + c).clamp(0, src.dim(0) - 1)
            wz = c == 0 ? za : (c == 1 ? zb : (c == 2 ? zc : zd))
            4.times do |e|
              jj = (j - 1 + e).clamp(0, src.dim(1) - 1)
              w = wz * (e == 0 ? ya : (e == 1 ? yb : (e == 2 ? yc : yd)))
              sum += w * (xa * src[kk, jj, [i - 1, 0].max] + xb * src[kk, jj, i] + xc * src[kk, jj, i + 1] +
                xd * src[kk, jj, [i + 2, src.dim(2) - 1].min])
            end
          end
        end
        sum
      end

      # Values from which the spline comes out nearly as the field was: each is lifted from the mean of its six
      # neighbours by what the spline will take, held within all seven.
      kernel out: F32[3], field: F32[3]
      def prepare(out, field)
        each_cell(out) do |k, j, i|
          here = field[k, j, i]
          a = field[k, j, [i - 1, 0].max]
          b = field[k, j, [i + 1, field.dim(2) - 1].min]
          c = field[k, [j - 1, 0].max, i]
          d = field[k, [j + 1, field.dim(1) - 1].min, i]
          e = field[[k - 1, 0].max, j, i]
          f = field[[k + 1, field.dim(0) - 1].min, j, i]
          low = [a, b, c, d, e, f, here].min
          high = [a, b, c, d, e, f, here].max
          out[k, j, i] = (2.0 * here - 0.16666667 * (a + b + c + d + e + f)).clamp(low, high)
        end
      end

      # @param field [Kernel::Buffer] f32 [z, y, x]
      # @return [Kernel::Buffer] to be read by {#read}
      def self.of(field) = Kernel::Buffer.new(:f32, *field.shape).tap { |out| prepare(out, field) }
    end
  end
end
