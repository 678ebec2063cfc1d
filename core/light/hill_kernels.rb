# frozen_string_literal: true

module Vumbral
  module Light
    # Hills far off, as the sky shows them above the horizon: three rows of ridges, each paler than the one before it,
    # with mist at their feet. Of `sky` ({SkyKernels}) they take 15 how high they stand (as a slope; 0 for none), 16
    # which ones they are, 17 to 19 light from above that they return, 20 to 22 what they return of the sun's, 23 to 25
    # the direction to it. {HILLS} of the view says the same.
    module HillKernels
      extend Kernel::Library

      # How much of a crest is seen through the haze, of the nearest row and those behind it.
      CLEAR = 0.55
      PALER = 0.56
      # No crest is higher than so many times what is said.
      MOST = 1.6
      # Of the nearest, how high it is beside the farthest.
      NEAREST = 0.42

      # Light from a way with what stands before the sky there; `wide` is the angle that a pixel sees.
      kernel sky: F32[1], dx: F32, dy: F32, dz: F32, wide: F32, returns: [F32, F32, F32]
      def seen(sky, dx, dy, dz, wide)
        r, g, b = SkyKernels.radiance(sky, dx, dy, dz)
        across = [Math.sqrt(dx * dx + dz * dz), 1.0e-6].max
        up = dy / across
        if sky[15] > 0.0 && up < MOST * sky[15] + wide && up > -wide
          hr, hg, hb = SkyKernels.radiance(sky, dx / across, 0.0, dz / across)
          # The farthest first, each over those behind it.
          3.times do |n|
            row = 2 - n
            tall, tilt = crest(sky, dx / across, dz / across, row, wide)
            over = ((tall - up) / wide + 0.5).clamp(0.0, 1.0)
            if over > 0.0
              cr, cg, cb = slope(sky, dx / across, up / sky[15], dz / across, tilt)
              clear = CLEAR * PALER**row * risen((up / [tall, 1.0e-6].max).clamp(0.0, 1.0))
              r += over * (hr + clear * (cr - hr) - r)
              g += over * (hg + clear * (cg - hg) - g)
              b += over * (hb + clear * (cb - hb) - b)
            end
          end
        end
        return r, g, b
      end

      # How much of a hill stands out of the mist, from its foot (0) to its crest.
      kernel part: F32, returns: F32
      def risen(part)
        part * (2.0 - part)
      end

      # How high a row stands over the horizon in a compass way, as a slope, and how it rises at large to the right of
      # whoever looks, over an angle of one. What is finer than a pixel is left out.
      kernel sky: F32[1], cx: F32, cz: F32, row: I32, wide: F32, returns: [F32, F32]
      def crest(sky, cx, cz, row, wide)
        most = sky[15] * (NEAREST + (1.0 - NEAREST) * 0.5 * row)
        at = 2.3 + 0.9 * (2 - row)
        gain = 0.5
        sum = 0.0
        along = 0.0
        7.times do |n|
          share = gain * (0.6 / (at * wide + 1.0e-9) - 0.5).clamp(0.0, 1.0)
          if share > 0.0
            value, da, _db, dc = Grid::Noise.slope(at * cx, 7.3 * row + 3.1 * n + 0.37, at * cz, sky[16].to_i + 517)
            sum += share * value
            along += share * at * (dc * cx - da * cz) if n < 3
          end
          at *= 2.07
          gain *= 0.52
        end
        return most * [0.5 + 1.05 * sum, 0.03].max, most * along
      end

      # What a hillside sends here: its gullies and woods are tilted on their own. `part` is the height in parts of the
      # highest.
      kernel sky: F32[1], cx: F32, part: F32, cz: F32, tilt: F32, returns: [F32, F32, F32]
      def slope(sky, cx, part, cz, tilt)
        fine, fa, fb, fc = Grid::Noise.slope(23.0 * cx, 2.2 * part, 23.0 * cz, 523)
        small, ga, gb, gc = Grid::Noise.slope(71.0 * cx, 6.0 * part, 71.0 * cz, 541)
        # To the right, and up.
        side = 4.0 * tilt + 0.26 * (fc * cx - fa * cz) + 0.16 * (gc * cx - ga * cz)
        rise = 0.26 * fb + 0.16 * gb
        nx = -cx + side * cz
        ny = 0.8 - rise
        nz = -cz - side * cx
        facing = [(nx * sky[23] + ny * sky[24] + nz * sky[25]) / Math.sqrt(nx * nx + ny * ny + nz * nz), 0.0].max
        tone = 1.0 + 0.3 * fine + 0.25 * small
        return [
          tone * (sky[17] + facing * sky[20]), tone * (sky[18] + facing * sky[21]), tone * (sky[19] + facing * sky[22])
        ]
      end
    end
  end
end
