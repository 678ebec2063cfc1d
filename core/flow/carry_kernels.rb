# frozen_string_literal: true

module Vumbral
  module Flow
    # Loops that take values along ways (see {WayKernels}): each place takes what was where it
    # has come from (Stam 1999).
    module CarryKernels
      extend Kernel::Library

      # The slope of the cubic (Keys 1981): -0.5 is Catmull and Rom's. A little steeper makes up for
      # what is lost by holding peaks within their neighbours; much steeper would make energy.
      SLOPE = -0.51

      # The four weights of a cubic through values, for a place between the second and the third.
      kernel f: F32, returns: [F32, F32, F32, F32]
      def weights(f)
        a = SLOPE * f * (1.0 - f) * (1.0 - f)
        b = 1.0 + f * f * ((SLOPE + 2.0) * f - SLOPE - 3.0)
        c = f * (f * (2.0 * SLOPE + 3.0 - (SLOPE + 2.0) * f) - SLOPE)
        d = SLOPE * f * f * (1.0 - f)
        return a, b, c, d
      end

      # A cubic through the 64 values around a place, held within the nearest eight, which makes it
      # monotone. No branches, so that the compiler can do many places at a time.
      # @return the value, the smallest and the largest of the eight
      kernel src: F32[3], x: F32, y: F32, z: F32, returns: [F32, F32, F32]
      def cubic(src, x, y, z)
        cx = x.clamp(0.0, (src.dim(2) - 1).to_f)
        cy = y.clamp(0.0, (src.dim(1) - 1).to_f)
        cz = z.clamp(0.0, (src.dim(0) - 1).to_f)
        i = cx.to_i.clamp(0, src.dim(2) - 2)
        j = cy.to_i.clamp(0, src.dim(1) - 2)
        k = cz.to_i.clamp(0, src.dim(0) - 2)
        xa, xb, xc, xd = weights(cx - i)
        ya, yb, yc, yd = weights(cy - j)
        za, zb, zc, zd = weights(cz - k)
        i0 = [i - 1, 0].max
        j0 = [j - 1, 0].max
        k0 = [k - 1, 0].max
        i3 = [i + 2, src.dim(2) - 1].min
        j3 = [j + 2, src.dim(1) - 1].min
        k3 = [k + 2, src.dim(0) - 1].min
        p = ya * (xa * src[k0, j0, i0] + xb * src[k0, j0, i] + xc * src[k0, j0, i + 1] + xd * src[k0, j0, i3]) +
          yb * (xa * src[k0, j, i0] + xb * src[k0, j, i] + xc * src[k0, j, i + 1] + xd * src[k0, j, i3]) +
          yc * (xa * src[k0, j + 1,
            i0] + xb * src[k0, j + 1, i] + xc * src[k0, j + 1, i + 1] + xd * src[k0, j + 1, i3]) +
          yd * (xa * src[k0, j3, i0] + xb * src[k0, j3, i] + xc * src[k0, j3, i + 1] + xd * src[k0, j3, i3])
        b1 = src[k, j, i]
        b2 = src[k, j, i + 1]
        c1 = src[k, j + 1, i]
        c2 = src[k, j + 1, i + 1]
        q = ya * (xa * src[k, j0, i0] + xb * src[k, j0, i] + xc * src[k, j0, i + 1] + xd * src[k, j0, i3]) +
          yb * (xa * src[k, j, i0] + xb * b1 + xc * b2 + xd * src[k, j, i3]) +
          yc * (xa * src[k, j + 1, i0] + xb * c1 + xc * c2 + xd * src[k, j + 1, i3]) +
          yd * (xa * src[k, j3, i0] + xb * src[k, j3, i] + xc * src[k, j3, i + 1] + xd * src[k, j3, i3])
        f1 = src[k + 1, j, i]
        f2 = src[k + 1, j, i + 1]
        g1 = src[k + 1, j + 1, i]
        g2 = src[k + 1, j + 1, i + 1]
        r = ya * (xa * src[k + 1, j0,
          i0] + xb * src[k + 1, j0, i] + xc * src[k + 1, j0, i + 1] + xd * src[k + 1, j0, i3]) +
          yb * (xa * src[k + 1, j, i0] + xb * f1 + xc * f2 + xd * src[k + 1, j, i3]) +
          yc * (xa * src[k + 1, j + 1, i0] + xb * g1 + xc * g2 + xd * src[k + 1, j + 1, i3]) +
          yd * (xa * src[k + 1, j3, i0] + xb * src[k + 1, j3, i] + xc * src[k + 1, j3, i + 1] + xd * src[k + 1, j3, i3])
        s = ya * (xa * src[k3, j0, i0] + xb * src[k3, j0, i] + xc * src[k3, j0, i + 1] + xd * src[k3, j0, i3]) +
          yb * (xa * src[k3, j, i0] + xb * src[k3, j, i] + xc * src[k3, j, i + 1] + xd * src[k3, j, i3]) +
          yc * (xa * src[k3, j + 1,
            i0] + xb * src[k3, j + 1, i] + xc * src[k3, j + 1, i + 1] + xd * src[k3, j + 1, i3]) +
          yd * (xa * src[k3, j3, i0] + xb * src[k3, j3, i] + xc * src[k3, j3, i + 1] + xd * src[k3, j3, i3])
        value = za * p + zb * q + zc * r + zd * s
        low = [b1, b2, c1, c2, f1, f2, g1, g2].min
        high = [b1, b2, c1, c2, f1, f2, g1, g2].max
        return value.clamp(low, high), low, high
      end

      # How much of a value read at a place comes from inside: past an open side (1) there is
      # a layer of nothing, past a closed one (0) the edge value goes on.
      kernel x: F32, count: I32, low: F32, high: F32, returns: F32
      def kept(x, count, low, high)
        (1.0 - low * (1.0 - (x + 1.0).clamp(0.0, 1.0))) * (1.0 - high * (1.0 - (count - x).clamp(0.0, 1.0)))
      end

      # How much of a value comes from inside the box. `open` holds x0 x1 y0 y1 z0 z1.
      kernel src: F32[3], x: F32, y: F32, z: F32, open: F32[1], returns: F32
      def inside(src, x, y, z, open)
        kept(x, src.dim(2), open[0],
          open[1]) * kept(y, src.dim(1), open[2], open[3]) * kept(z, src.dim(0), open[4], open[5])
      end

      # How far a place lies between the grid's points, 0 (on one) to 1.
      kernel x: F32, y: F32, z: F32, returns: F32
      def mixed(x, y, z)
        f = x - x.floor
        g = y - y.floor
        h = z - z.floor
        [4.0 * (f * (1.0 - f) + g * (1.0 - g) + h * (1.0 - h)), 1.0].min
      end

      # Carries one part of the velocity, on the faces across an axis (0 x, 1 y, 2 z). Past an open
      # side (1) stands still air.
      kernel dst: F32[3], src: F32[3], ways: F32[4], axis: I32, open: F32[1]
      def sharp_faces(dst, src, ways, axis, open)
        fx = axis == 0 ? 1 : 0
        fy = axis == 1 ? 1 : 0
        fz = axis == 2 ? 1 : 0
        each_cell(dst) do |k, j, i|
          x = i - 0.5 * (ways[0, k + 1, j + 1, i + 1] + ways[0, k + 1 - fz, j + 1 - fy, i + 1 - fx])
          y = j - 0.5 * (ways[1, k + 1, j + 1, i + 1] + ways[1, k + 1 - fz, j + 1 - fy, i + 1 - fx])
          z = k - 0.5 * (ways[2, k + 1, j + 1, i + 1] + ways[2, k + 1 - fz, j + 1 - fy, i + 1 - fx])
          value, _low, _high = cubic(src, x, y, z)
          dst[k, j, i] = value * inside(src, x, y, z, open)
        end
      end

      # The same by linear interpolation, for drafts.
      kernel dst: F32[3], src: F32[3], ways: F32[4], axis: I32, open: F32[1]
      def soft_faces(dst, src, ways, axis, open)
        fx = axis == 0 ? 1 : 0
        fy = axis == 1 ? 1 : 0
        fz = axis == 2 ? 1 : 0
        each_cell(dst) do |k, j, i|
          x = i - 0.5 * (ways[0, k + 1, j + 1, i + 1] + ways[0, k + 1 - fz, j + 1 - fy, i + 1 - fx])
          y = j - 0.5 * (ways[1, k + 1, j + 1, i + 1] + ways[1, k + 1 - fz, j + 1 - fy, i + 1 - fx])
          z = k - 0.5 * (ways[2, k + 1, j + 1, i + 1] + ways[2, k + 1 - fz, j + 1 - fy, i + 1 - fx])
          value = Grid::Sampling.linear(src, x, y, z)
          dst[k, j, i] = value * inside(src, x, y, z, open)
        end
      end

      # Carries what is at centres. `room` says by how much each value may still be changed without
      # making a new extreme: most half way between the neighbours' bounds, nothing where the gas
      # moved by whole cells.
      kernel dst: F32[3], src: F32[3], room: F32[3], ways: F32[4], open: F32[1], solid: U8[3]
      def sharp_matter(dst, src, room, ways, open, solid)
        parallel(dst.dim(0)) do |k|
          dst.dim(1).times do |j|
            dst.dim(2).times do |i|
              x = i - ways[0, k + 1, j + 1, i + 1]
              y = j - ways[1, k + 1, j + 1, i + 1]
              z = k - ways[2, k + 1, j + 1, i + 1]
              value, low, high = cubic(src, x, y, z)
              part = inside(src, x, y, z, open) * (solid[k, j, i] == 0 ? 1.0 : 0.0)
              up = high - value
              down = value - low
              dst[k, j, i] = value * part
              room[k, j, i] = part * mixed(x, y, z) * (up < down ? up : down)
            end
          end
        end
      end

      # The same by linear interpolation.
      kernel dst: F32[3], src: F32[3], room: F32[3], ways: F32[4], open: F32[1], solid: U8[3]
      def soft_matter(dst, src, room, ways, open, solid)
        parallel(dst.dim(0)) do |k|
          dst.dim(1).times do |j|
            dst.dim(2).times do |i|
              x = i - ways[0, k + 1, j + 1, i + 1]
              y = j - ways[1, k + 1, j + 1, i + 1]
              z = k - ways[2, k + 1, j + 1, i + 1]
              value = Grid::Sampling.linear(src, x, y, z)
              low, high = Grid::Sampling.bounds(src, x, y, z)
              part = inside(src, x, y, z, open) * (solid[k, j, i] == 0 ? 1.0 : 0.0)
              up = high - value
              down = value - low
              dst[k, j, i] = value * part
              room[k, j, i] = part * mixed(x, y, z) * (up < down ? up : down)
            end
          end
        end
      end

      # Changes values by a share of their room, -1 to 1.
      kernel field: F32[3], room: F32[3], share: F32
      def settle(field, room, share)
        each_cell(field) { |k, j, i| field[k, j, i] += share * room[k, j, i] }
      end

      kernel field: F32[3], factor: F32
      def scale(field, factor)
        each_cell(field) { |k, j, i| field[k, j, i] *= factor }
      end
    end
  end
end
