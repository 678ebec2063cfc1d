# frozen_string_literal: true

module Vumbral
  module Light
    # The sky as light and as background. `sky` f32 [40 and its table]: 0 to 5 radiance from above and from below
    # (for what is lit by all of it), 6 haze per metre, 7 whether there is a model (1) or one colour (0), 8 to 10
    # direction to the sun, 11 and 12 rows and columns of the table, 13 and 14 the sun's compass way, 29 gain,
    # 30 to 32 tint, 33 to 35 that one colour; from 40 on {Atmosphere.table}. Of a picture all around (7 is 2): 11 and
    # 12 its rows and columns, 13 and 14 cosine and sine of its turn; from 40 on {Environment#soft}, then the picture.
    module SkyKernels
      extend Kernel::Library

      # How much haze throws ahead (the mean cosine of the angle).
      AHEAD = 0.76
      # Where a picture all around begins.
      PICTURE = 67

      # One of a table's six values between its places.
      kernel sky: F32[1], row: F32, column: F32, at: I32, returns: F32
      def between(sky, row, column, at)
        columns = sky[12].to_i
        k = row.to_i
        j = column.to_i
        fk = row - k
        fj = column - j
        one = 40 + 6 * (k * columns + j) + at
        two = one + 6 * columns
        (1.0 - fk) * ((1.0 - fj) * sky[one] + fj * sky[one + 6]) + fk * ((1.0 - fj) * sky[two] + fj * sky[two + 6])
      end

      # Radiance that comes from a direction, red, green and blue; below the horizon as at it.
      kernel sky: F32[1], dx: F32, dy: F32, dz: F32, returns: [F32, F32, F32]
      def radiance(sky, dx, dy, dz)
        r = sky[33]
        g = sky[34]
        b = sky[35]
        if sky[7] > 1.5
          r, g, b = pictured(sky, sky[13] * dx - sky[14] * dz, dy, sky[14] * dx + sky[13] * dz)
        elsif sky[7] > 0.5
          up = [dy, 0.0].max
          across = Math.sqrt(dx * dx + dz * dz)
          compass = (dx * sky[13] + dz * sky[14]) / [across, 1.0e-9].max
          row = [Math.sqrt(up) * (sky[11] - 1.0), sky[11] - 1.001].min
          column = [0.5 * (1.0 - compass) * (sky[12] - 1.0), sky[12] - 1.001].min
          # Henyey & Greenstein (1941).
          cosine = compass * Math.sqrt([1.0 - up * up, 0.0].max * [1.0 - sky[9] * sky[9], 0.0].max) + up * sky[9]
          lobe = 0.07957747 * (1.0 - AHEAD * AHEAD) / (1.0 + AHEAD * AHEAD - 2.0 * AHEAD * cosine)**1.5
          r = sky[29] * sky[30] * (between(sky, row, column, 0) + lobe * between(sky, row, column, 3))
          g = sky[29] * sky[31] * (between(sky, row, column, 1) + lobe * between(sky, row, column, 4))
          b = sky[29] * sky[32] * (between(sky, row, column, 2) + lobe * between(sky, row, column, 5))
        end
        return r, g, b
      end

      # What falls on a level sheet from above, added up over rings of even height and so many places around.
      kernel sky: F32[1], rings: I32, around: I32, returns: [F64, F64, F64]
      def falling(sky, rings, around)
        red = f64(0.0)
        green = f64(0.0)
        blue = f64(0.0)
        rings.times do |ring|
          up = (ring + 0.5) / rings
          out = Math.sqrt(1.0 - up * up)
          around.times do |n|
            turn = 6.2831853 * (n + 0.5) / around
            r, g, b = radiance(sky, out * Math.sin(turn), up, out * Math.cos(turn))
            red += f64(r * up)
            green += f64(g * up)
            blue += f64(b * up)
          end
        end
        each = f64(6.2831853 / (rings * around))
        return red * each, green * each, blue * each
      end

      # A picture all around, between its pixels, along a way of its own.
      kernel sky: F32[1], x: F32, y: F32, z: F32, returns: [F32, F32, F32]
      def pictured(sky, x, y, z)
        rows = sky[11].to_i
        columns = sky[12].to_i
        a = (Math.atan2(x, -z) * 0.15915494 + 0.5) * columns - 0.5
        b = ((0.5 - Math.asin(y.clamp(-1.0, 1.0)) * 0.31830989) * rows - 0.5).clamp(0.0, rows - 1.0)
        i = a.floor
        j = [b.to_i, rows - 2].min
        fi = a - i
        fj = b - j
        left = (i.to_i + columns) % columns
        right = (left + 1) % columns
        p = PICTURE + 3 * (j * columns + left)
        q = PICTURE + 3 * (j * columns + right)
        down = 3 * columns
        return [
          sky[29] * sky[30] * among(sky, p, q, down, fi, fj),
          sky[29] * sky[31] * among(sky, p + 1, q + 1, down, fi, fj),
          sky[29] * sky[32] * among(sky, p + 2, q + 2, down, fi, fj)
        ]
      end

      # Between four of its numbers: two beside each other, and those a row below.
      kernel sky: F32[1], p: I32, q: I32, down: I32, fi: F32, fj: F32, returns: F32
      def among(sky, p, q, down, fi, fj)
        top = sky[p] + fi * (sky[q] - sky[p])
        top + fj * (sky[p + down] + fi * (sky[q + down] - sky[p + down]) - top)
      end

      # Nine even shapes over all ways, square to each other and of length one.
      kernel x: F32, y: F32, z: F32, returns: [F32, F32, F32, F32, F32, F32, F32, F32, F32]
      def shapes(x, y, z)
        return [
          0.28209479, 0.48860251 * x, 0.48860251 * y, 0.48860251 * z, 1.0925484 * x * y, 1.0925484 * y * z,
          1.0925484 * z * x, 0.31539157 * (3.0 * y * y - 1.0), 0.54627422 * (x * x - z * z)
        ]
      end

      # The same nine, each as strong as a picture all around has it in one colour, from `at` on.
      kernel sky: F32[1], at: I32, x: F32, y: F32, z: F32, returns: F32
      def soft(sky, at, x, y, z)
        one, two, three, four, five, six, seven, eight, nine = shapes(x, y, z)
        first = sky[at] * one + sky[at + 3] * two + sky[at + 6] * three + sky[at + 9] * four
        [
          first + sky[at + 12] * five + sky[at + 15] * six + sky[at + 18] * seven + sky[at + 21] * eight +
            sky[at + 24] * nine,
          0.0
        ].max
      end

      # What a white surface gives back of the light from all around; `open` is how much of what comes from above is
      # left.
      kernel sky: F32[1], nx: F32, ny: F32, nz: F32, open: F32, returns: [F32, F32, F32]
      def ambient(sky, nx, ny, nz, open)
        above = (0.5 + 0.5 * ny) * open
        below = 0.5 - 0.5 * ny
        r = above * sky[0] + below * sky[3]
        g = above * sky[1] + below * sky[4]
        b = above * sky[2] + below * sky[5]
        if sky[7] > 1.5
          x = sky[13] * nx - sky[14] * nz
          z = sky[14] * nx + sky[13] * nz
          left = [above + below, 0.0].max
          r = left * soft(sky, 40, x, ny, z)
          g = left * soft(sky, 41, x, ny, z)
          b = left * soft(sky, 42, x, ny, z)
        end
        return r, g, b
      end
    end
  end
end
