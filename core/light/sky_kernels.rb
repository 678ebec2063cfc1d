# frozen_string_literal: true

module Vumbral
  module Light
    # The sky as light and as background. `sky` f32 [40 and its table]: 0 to 5 radiance from above and from below
    # (for what is lit by all of it), 6 haze per metre, 7 whether there is a model (1) or one colour (0), 8 to 10
    # direction to the sun, 11 and 12 rows and columns of the table, 13 and 14 the sun's compass way, 29 gain,
    # 30 to 32 tint, 33 to 35 that one colour; from 40 on {Atmosphere.table}.
    module SkyKernels
      extend Kernel::Library

      # How much haze throws ahead (the mean cosine of the angle).
      AHEAD = 0.76

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
        if sky[7] > 0.5
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
    end
  end
end
