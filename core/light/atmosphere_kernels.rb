# frozen_string_literal: true

module Vumbral
  module Light
    # Sunlight in clear to hazy air around a round earth: molecules, haze and ozone (Bruneton & Neyret 2008), with
    # all that is scattered more than once as Hillaire (2020) has it. Red, green and blue are taken at 612, 549 and
    # 464 nm, where the screen's own primaries stand. Heights and ways in kilometres; a sun of
    # radiance 1 over the solid angle 1. `air` f32 [2]: how much a kilometre of haze takes at the ground, and how
    # much light the ground returns.
    module AtmosphereKernels
      extend Kernel::Library

      # How much of red, green and blue a kilometre takes: molecules at the ground, ozone where it is thickest; and of
      # haze, against what it takes of green.
      RED, GREEN, BLUE = 0.008840, 0.013650, 0.026800
      OZONE_RED, OZONE_GREEN, OZONE_BLUE = 0.002550, 0.001881, 0.000220
      HAZE_RED, HAZE_BLUE = 0.9, 1.18

      GROUND = 6360.0
      TOP = 6460.0
      # How high above the ground it thins to 1/e.
      MOLECULES = 8.0
      HAZE = 1.2
      # How much of what haze takes goes on.
      GOES_ON = 0.93
      # What a way that meets the ground is given, so that nothing comes through.
      DARK = 1.0e4
      SUN_STEPS = 10
      STEPS = 14
      SIGHT_STEPS = 28
      UP_STEPS = 8
      AROUND_STEPS = 4

      # How far it is from a height to where air ends, along the cosine of the angle to straight up.
      kernel height: F32, up: F32, returns: F32
      def far(height, up)
        r = GROUND + height
        [-r * up + Math.sqrt([r * r * (up * up - 1.0) + TOP * TOP, 0.0].max), 0.0].max
      end

      # How far it is to the ground; less than nothing where the way misses it.
      kernel height: F32, up: F32, returns: F32
      def fall(height, up)
        r = GROUND + height
        left = r * r * (up * up - 1.0) + GROUND * GROUND
        up < 0.0 && left > 0.0 ? [-r * up - Math.sqrt(left), 0.0].max : -1.0
      end

      # How high a way is after so many kilometres.
      kernel height: F32, up: F32, gone: F32, returns: F32
      def risen(height, up, gone)
        r = GROUND + height
        [Math.sqrt(r * r + gone * (gone + 2.0 * r * up)) - GROUND, 0.0].max
      end

      # What is left of red, green and blue on the way to the edge of the air.
      kernel air: F32[1], height: F32, up: F32, returns: [F32, F32, F32]
      def through(air, height, up)
        molecules = 0.0
        haze = 0.0
        ozone = 0.0
        if fall(height, up) >= 0.0
          molecules = DARK
        else
          whole = far(height, up)
          SUN_STEPS.times do |n|
            at = (n + 0.5) / SUN_STEPS
            here = risen(height, up, whole * at * at)
            step = whole * 2.0 * at / SUN_STEPS
            molecules += step * Math.exp(-here / MOLECULES)
            haze += step * Math.exp(-here / HAZE)
            ozone += step * [1.0 - (here - 25.0).abs / 15.0, 0.0].max
          end
        end
        return Math.exp(-RED * molecules - HAZE_RED * air[0] * haze - OZONE_RED * ozone),
          Math.exp(-GREEN * molecules - air[0] * haze - OZONE_GREEN * ozone),
          Math.exp(-BLUE * molecules - HAZE_BLUE * air[0] * haze - OZONE_BLUE * ozone)
      end

      # What one kilometre takes at a height, red, green, blue; and how much of it scatters in molecules and in haze.
      kernel air: F32[1], height: F32, returns: [F32, F32, F32, F32, F32]
      def taken(air, height)
        molecules = Math.exp(-height / MOLECULES)
        haze = air[0] * Math.exp(-height / HAZE)
        ozone = [1.0 - (height - 25.0).abs / 15.0, 0.0].max
        return RED * molecules + HAZE_RED * haze + OZONE_RED * ozone, GREEN * molecules + haze + OZONE_GREEN * ozone,
          BLUE * molecules + HAZE_BLUE * haze + OZONE_BLUE * ozone, molecules, GOES_ON * haze
      end

      # Light that was scattered more than once, alike from everywhere: a table by height (0 to 60 km, square of
      # the row) and by the sun's cosine (see {#sunny}).
      kernel glow: F32[3], air: F32[1]
      def scatter_again(glow, air)
        parallel(glow.dim(0)) do |k|
          row = k / (glow.dim(0) - 1.0)
          height = [60.0 * row * row, 0.02].max
          glow.dim(1).times do |j|
            warp = 1.5 * j / (glow.dim(1) - 1.0) - 0.5
            sun = warp * warp.abs
            side = Math.sqrt([1.0 - sun * sun, 0.0].max)
            once_r = 0.0
            once_g = 0.0
            once_b = 0.0
            more_r = 0.0
            more_g = 0.0
            more_b = 0.0
            (UP_STEPS * AROUND_STEPS).times do |way|
              up = 2.0 * (way / AROUND_STEPS + 0.5) / UP_STEPS - 1.0
              turn = Math.cos(3.14159265 * (way % AROUND_STEPS + 0.5) / AROUND_STEPS)
              down = fall(height, up)
              whole = down >= 0.0 ? down : far(height, up)
              toward = up * sun + side * turn * Math.sqrt([1.0 - up * up, 0.0].max)
              clear_r = 1.0
              clear_g = 1.0
              clear_b = 1.0
              STEPS.times do |n|
                at = (n + 0.5) / STEPS
                gone = whole * at * at
                step = whole * 2.0 * at / STEPS
                here = risen(height, up, gone)
                # The sun stands otherwise there, for the earth is round.
                there = ((GROUND + height) * sun + gone * toward) / (GROUND + here)
                sr, sg, sb = through(air, here, there.clamp(-1.0, 1.0))
                r, g, b, molecules, haze = taken(air, here)
                pr = clear_r * Math.exp(-0.5 * r * step) * step * (RED * molecules + HAZE_RED * haze)
                pg = clear_g * Math.exp(-0.5 * g * step) * step * (GREEN * molecules + haze)
                pb = clear_b * Math.exp(-0.5 * b * step) * step * (BLUE * molecules + HAZE_BLUE * haze)
                once_r += pr * sr
                once_g += pg * sg
                once_b += pb * sb
                more_r += pr
                more_g += pg
                more_b += pb
                clear_r *= Math.exp(-r * step)
                clear_g *= Math.exp(-g * step)
                clear_b *= Math.exp(-b * step)
              end
              if down >= 0.0
                there = ((GROUND + height) * sun + down * toward) / GROUND
                sr, sg, sb = through(air, 0.0, there.clamp(0.0, 1.0))
                # As much as if it came from air, whose part is divided by 4 pi below.
                back = 4.0 * air[1] * [there, 0.0].max
                once_r += clear_r * back * sr
                once_g += clear_g * back * sg
                once_b += clear_b * back * sb
              end
            end
            count = 1.0 * UP_STEPS * AROUND_STEPS
            glow[k, j, 0] = 0.07957747 * once_r / count / (1.0 - [more_r / count, 0.95].min)
            glow[k, j, 1] = 0.07957747 * once_g / count / (1.0 - [more_g / count, 0.95].min)
            glow[k, j, 2] = 0.07957747 * once_b / count / (1.0 - [more_b / count, 0.95].min)
          end
        end
      end

      # Where in its table a cosine of the sun's angle stands, which is fine about the horizon.
      kernel sun: F32, columns: I32, returns: F32
      def sunny(sun, columns)
        warp = sun < 0.0 ? -Math.sqrt(-sun) : Math.sqrt(sun)
        ((warp + 0.5) / 1.5 * (columns - 1)).clamp(0.0, columns - 1.001)
      end

      # One colour of that table between its places.
      kernel glow: F32[3], row: F32, column: F32, colour: I32, returns: F32
      def between(glow, row, column, colour)
        k = row.to_i
        j = column.to_i
        fk = row - k
        fj = column - j
        (1.0 - fk) * ((1.0 - fj) * glow[k, j, colour] + fj * glow[k, j + 1, colour]) +
          fk * ((1.0 - fj) * glow[k + 1, j, colour] + fj * glow[k + 1, j + 1, colour])
      end

      # What is seen from near the ground: a table by height over the horizon (the sine's root) and by the cosine
      # of the compass way to the sun (1 to -1); red, green, blue without what haze scatters once, and that,
      # before its direction counts. `sun` is the sine of the sun's height.
      kernel table: F32[3], glow: F32[3], air: F32[1], sun: F32
      def look_up(table, glow, air, sun)
        parallel(table.dim(0)) do |k|
          row = k / (table.dim(0) - 1.0)
          up = row * row
          flat = Math.sqrt([(1.0 - up * up) * (1.0 - sun * sun), 0.0].max)
          height = 0.05
          whole = far(height, up)
          table.dim(1).times do |j|
            toward = up * sun + flat * (1.0 - 2.0 * j / (table.dim(1) - 1.0))
            # Rayleigh's phase function.
            lobe = 0.05968310 * (1.0 + toward * toward)
            clear_r = 1.0
            clear_g = 1.0
            clear_b = 1.0
            6.times { |c| table[k, j, c] = 0.0 }
            SIGHT_STEPS.times do |n|
              at = (n + 0.5) / SIGHT_STEPS
              gone = whole * at * at
              step = whole * 2.0 * at / SIGHT_STEPS
              here = risen(height, up, gone)
              there = (((GROUND + height) * sun + gone * toward) / (GROUND + here)).clamp(-1.0, 1.0)
              sr, sg, sb = through(air, here, there)
              r, g, b, molecules, haze = taken(air, here)
              pr = clear_r * (1.0 - Math.exp(-r * step)) / [r, 1.0e-12].max
              pg = clear_g * (1.0 - Math.exp(-g * step)) / [g, 1.0e-12].max
              pb = clear_b * (1.0 - Math.exp(-b * step)) / [b, 1.0e-12].max
              place = [Math.sqrt([here / 60.0, 1.0].min) * (glow.dim(0) - 1), glow.dim(0) - 1.001].min
              column = sunny(there, glow.dim(1))
              table[k, j, 0] += pr * (RED * molecules * (lobe * sr + between(glow, place, column, 0)) +
                HAZE_RED * haze * between(glow, place, column, 0))
              table[k, j, 1] += pg * (GREEN * molecules * (lobe * sg + between(glow, place, column, 1)) +
                haze * between(glow, place, column, 1))
              table[k, j, 2] += pb * (BLUE * molecules * (lobe * sb + between(glow, place, column, 2)) +
                HAZE_BLUE * haze * between(glow, place, column, 2))
              table[k, j, 3] += pr * HAZE_RED * haze * sr
              table[k, j, 4] += pg * haze * sg
              table[k, j, 5] += pb * HAZE_BLUE * haze * sb
              clear_r *= Math.exp(-r * step)
              clear_g *= Math.exp(-g * step)
              clear_b *= Math.exp(-b * step)
            end
          end
        end
      end
    end
  end
end
