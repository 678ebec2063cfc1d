# frozen_string_literal: true

module Vumbral
  module Light
    # The sky as light and as background. `sky` f32 [40]: 0 to 5 radiance from above and from below (for what
    # is lit by all of it), 6 haze per metre, 7 whether there is a model (1) or one colour (0), 8 to 10
    # direction to the sun, 11 to 25 five coefficients each of luminance, x and y, 26 to 28 their values
    # at the zenith over what the model says there, 29 gain, 30 to 32 tint, 33 to 35 that one colour.
    module SkyKernels
      extend Kernel::Library

      # One coefficient set at a direction (Perez, Seals & Michalsky 1993).
      kernel sky: F32[1], at: I32, cosine: F32, angle: F32, returns: F32
      def perez(sky, at, cosine, angle)
        near = Math.cos(angle)
        (1.0 + sky[at] * Math.exp(sky[at + 1] / cosine)) *
          (1.0 + sky[at + 2] * Math.exp(sky[at + 3] * angle) + sky[at + 4] * near * near)
      end

      # Radiance that comes from a direction, red, green and blue (Preetham, Shirley & Smits 1999); below the
      # horizon as at it.
      kernel sky: F32[1], dx: F32, dy: F32, dz: F32, returns: [F32, F32, F32]
      def radiance(sky, dx, dy, dz)
        r = sky[33]
        g = sky[34]
        b = sky[35]
        if sky[7] > 0.5
          cosine = [dy, 0.035].max
          angle = Math.acos((dx * sky[8] + [dy, 0.0].max * sky[9] + dz * sky[10]).clamp(-0.9999, 0.9999))
          luminance = sky[26] * perez(sky, 11, cosine, angle)
          x = sky[27] * perez(sky, 16, cosine, angle)
          y = [sky[28] * perez(sky, 21, cosine, angle), 0.01].max
          big_x = luminance * x / y
          big_z = luminance * (1.0 - x - y) / y
          r = sky[29] * sky[30] * [3.2404542 * big_x - 1.5371385 * luminance - 0.4985314 * big_z, 0.0].max
          g = sky[29] * sky[31] * [-0.9692660 * big_x + 1.8760108 * luminance + 0.0415560 * big_z, 0.0].max
          b = sky[29] * sky[32] * [0.0556434 * big_x - 0.2040259 * luminance + 1.0572252 * big_z, 0.0].max
        end
        return r, g, b
      end
    end
  end
end
