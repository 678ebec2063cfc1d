# frozen_string_literal: true

module Vumbral
  module Grid
    # Values between grid points. Coordinates count in cells of the array itself: element
    # `[k, j, i]` stands at `(i, j, k)`. Every axis has at least two elements. A place that is no
    # number is read somewhere inside: whole numbers are held to the array once more for that.
    module Sampling
      extend Kernel::Library

      # Trilinear; beyond the edge the nearest value goes on.
      kernel field: F32[3], x: F32, y: F32, z: F32, returns: F32
      def linear(field, x, y, z)
        cx = x.clamp(0.0, (field.dim(2) - 1).to_f)
        cy = y.clamp(0.0, (field.dim(1) - 1).to_f)
        cz = z.clamp(0.0, (field.dim(0) - 1).to_f)
        i = cx.to_i.clamp(0, field.dim(2) - 2)
        j = cy.to_i.clamp(0, field.dim(1) - 2)
        k = cz.to_i.clamp(0, field.dim(0) - 2)
        fx = cx - i
        fy = cy - j
        fz = cz - k
        a = field[k, j, i] + fx * (field[k, j, i + 1] - field[k, j, i])
        b = field[k, j + 1, i] + fx * (field[k, j + 1, i + 1] - field[k, j + 1, i])
        c = field[k + 1, j, i] + fx * (field[k + 1, j, i + 1] - field[k + 1, j, i])
        d = field[k + 1, j + 1, i] + fx * (field[k + 1, j + 1, i + 1] - field[k + 1, j + 1, i])
        e = a + fy * (b - a)
        f = c + fy * (d - c)
        e + fz * (f - e)
      end

      # Three fields at once, `rgb` f32 [3, z, y, x].
      kernel rgb: F32[4], x: F32, y: F32, z: F32, returns: [F32, F32, F32]
      def three(rgb, x, y, z)
        cx = x.clamp(0.0, (rgb.dim(3) - 1).to_f)
        cy = y.clamp(0.0, (rgb.dim(2) - 1).to_f)
        cz = z.clamp(0.0, (rgb.dim(1) - 1).to_f)
        i = cx.to_i.clamp(0, rgb.dim(3) - 2)
        j = cy.to_i.clamp(0, rgb.dim(2) - 2)
        k = cz.to_i.clamp(0, rgb.dim(1) - 2)
        fx = cx - i
        fy = cy - j
        fz = cz - k
        out = local_f32(3)
        3.times do |c|
          a = rgb[c, k, j, i] + fx * (rgb[c, k, j, i + 1] - rgb[c, k, j, i])
          b = rgb[c, k, j + 1, i] + fx * (rgb[c, k, j + 1, i + 1] - rgb[c, k, j + 1, i])
          d = rgb[c, k + 1, j, i] + fx * (rgb[c, k + 1, j, i + 1] - rgb[c, k + 1, j, i])
          e = rgb[c, k + 1, j + 1, i] + fx * (rgb[c, k + 1, j + 1, i + 1] - rgb[c, k + 1, j + 1, i])
          f = a + fy * (b - a)
          out[c] = f + fz * (d + fy * (e - d) - f)
        end
        return out[0], out[1], out[2]
      end

      # One of several fields, `fields` f32 [n, z, y, x].
      kernel fields: F32[4], n: I32, x: F32, y: F32, z: F32, returns: F32
      def one_of(fields, n, x, y, z)
        cx = x.clamp(0.0, (fields.dim(3) - 1).to_f)
        cy = y.clamp(0.0, (fields.dim(2) - 1).to_f)
        cz = z.clamp(0.0, (fields.dim(1) - 1).to_f)
        i = cx.to_i.clamp(0, fields.dim(3) - 2)
        j = cy.to_i.clamp(0, fields.dim(2) - 2)
        k = cz.to_i.clamp(0, fields.dim(1) - 2)
        fx = cx - i
        fy = cy - j
        a = fields[n, k, j, i] + fx * (fields[n, k, j, i + 1] - fields[n, k, j, i])
        b = fields[n, k, j + 1, i] + fx * (fields[n, k, j + 1, i + 1] - fields[n, k, j + 1, i])
        d = fields[n, k + 1, j, i] + fx * (fields[n, k + 1, j, i + 1] - fields[n, k + 1, j, i])
        e = fields[n, k + 1, j + 1, i] + fx * (fields[n, k + 1, j + 1, i + 1] - fields[n, k + 1, j + 1, i])
        f = a + fy * (b - a)
        f + (cz - k) * (d + fy * (e - d) - f)
      end

      # The smallest and largest of the eight values that {#linear} mixes.
      kernel field: F32[3], x: F32, y: F32, z: F32, returns: [F32, F32]
      def bounds(field, x, y, z)
        i = x.clamp(0.0, (field.dim(2) - 2).to_f).to_i.clamp(0, field.dim(2) - 2)
        j = y.clamp(0.0, (field.dim(1) - 2).to_f).to_i.clamp(0, field.dim(1) - 2)
        k = z.clamp(0.0, (field.dim(0) - 2).to_f).to_i.clamp(0, field.dim(0) - 2)
        low = [field[k, j, i], field[k, j, i + 1], field[k, j + 1, i], field[k, j + 1, i + 1],
          field[k + 1, j, i], field[k + 1, j, i + 1], field[k + 1, j + 1, i], field[k + 1, j + 1, i + 1]].min
        high = [field[k, j, i], field[k, j, i + 1], field[k, j + 1, i], field[k, j + 1, i + 1],
          field[k + 1, j, i], field[k + 1, j, i + 1], field[k + 1, j + 1, i], field[k + 1, j + 1, i + 1]].max
        return low, high
      end

      # Velocity on faces (Harlow & Welch 1965) at a place in cells from the grid's corner.
      kernel u: F32[3], v: F32[3], w: F32[3], x: F32, y: F32, z: F32, returns: [F32, F32, F32]
      def velocity(u, v, w, x, y, z)
        a = linear(u, x, y - 0.5, z - 0.5)
        b = linear(v, x - 0.5, y, z - 0.5)
        c = linear(w, x - 0.5, y - 0.5, z)
        return a, b, c
      end
    end
  end
end
