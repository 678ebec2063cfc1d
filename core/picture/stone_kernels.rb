# frozen_string_literal: true

module Vumbral
  module Picture
    # Stones and grit on surfaces: balls in the cells of a lattice, cut by the surface, so that one stands out more than
    # another, and the same again at smaller sizes. {stones} of the view says the same.
    module StoneKernels
      extend Kernel::Library

      SIZES = 3
      # Each size beside the one before it.
      SMALLER = 0.41
      # Edges of cells beside the largest stone in them, which fills one where it stands in the middle of the surface.
      CELL = 1.05
      # How far heaps of stones lie from each other, in widths of theirs.
      HEAP = 17.0
      # How high the top of a stone stands out, in parts of half its width.
      TALL = 0.75
      # No stone stands out more than this, in widths.
      TALLEST = 0.46
      # How steep grit that is too fine to be seen is, as the mean square of its slopes.
      STEEP = 0.5

      # What lies at a place, by the normal of the surface there: how high it stands out (metres), how its top leans
      # along x, y, z, how much brighter it is than the ground, how open the place is to the light around (1 away from
      # stones), and the mean square of the slopes that are too fine for the pixel.
      kernel place: Geometry::Ray, size: F32, share: F32, pixel: F32, returns: [F32, F32, F32, F32, F32, F32, F32]
      def stones(place, size, share, pixel)
        high = 0.0
        tx = 0.0
        ty = 0.0
        tz = 0.0
        tone = 1.0
        open = 1.0
        lost = 0.0
        wide = size
        SIZES.times do |n|
          part = (0.25 * wide / (pixel + 1.0e-9) - 0.4).clamp(0.0, 1.0)
          lost += STEEP * share * (1.0 - part)
          if part > 0.0
            top, lx, ly, lz, own, ring = among(place, wide, share, n)
            open = [open, 1.0 - part * (1.0 - ring)].min
            if top > high
              high = part * top
              tx = part * lx
              ty = part * ly
              tz = part * lz
              tone = 1.0 + part * (own - 1.0)
            end
          end
          wide *= SMALLER
        end
        return high, tx, ty, tz, high > 0.0 ? tone : 1.0, high > 0.0 ? 1.0 : open, lost
      end

      # Of one size, as {#stones}: the stone that stands out most, and how open the place is.
      kernel place: Geometry::Ray, wide: F32, share: F32, seed: I32, returns: [F32, F32, F32, F32, F32, F32]
      def among(place, wide, share, seed)
        cell = CELL * wide
        high = 0.0
        lx = 0.0
        ly = 0.0
        lz = 0.0
        tone = 1.0
        open = 1.0
        i = (place.ox / cell - 0.5).floor
        j = (place.oy / cell - 0.5).floor
        k = (place.oz / cell - 0.5).floor
        # They lie together here and are swept away there.
        heap = 255.0 * share * (0.75 + 1.1 * Grid::Noise.value(place.ox / (HEAP * wide), place.oy / (HEAP * wide), place.oz / (HEAP * wide), 0.0, 617 + seed)).clamp(0.0, 1.3)
        8.times do |c|
          ci = i + (c & 1)
          cj = j + ((c >> 1) & 1)
          ck = k + (c >> 2)
          h = Grid::Noise.hash4(ci, cj, ck, 0, 601 + seed).to_i
          if ((h >> 24) & 255) < heap
            # From the middle of the stone, in cells.
            dx = place.ox / cell - ci - (h & 63) / 63.0
            dy = place.oy / cell - cj - ((h >> 6) & 63) / 63.0
            dz = place.oz / cell - ck - ((h >> 12) & 63) / 63.0
            ball = 0.5 * (0.45 + 0.55 * ((h >> 18) & 63) / 63.0)
            up = dx * place.dx + dy * place.dy + dz * place.dz
            cut = ball * ball - up * up
            if cut > 0.0
              ax = dx - up * place.dx
              ay = dy - up * place.dy
              az = dz - up * place.dz
              # No stone is round: its rim goes in and out.
              rim = cut * (1.0 + 0.35 * Grid::Noise.value(3.0 * dx / ball + ci, 3.0 * dy / ball + cj, 3.0 * dz / ball + ck, 0.0, 611))
              out = (ax * ax + ay * ay + az * az) / rim
              top = TALL * cell * Math.sqrt([rim * (1.0 - out), 0.0].max)
              if top > high
                high = top
                per = 1.0 / Math.sqrt(rim)
                lx = ax * per
                ly = ay * per
                lz = az * per
                tone = 0.65 + 0.8 * ((h >> 3) & 31) / 31.0
              end
              open = [open, 0.45 + 0.55 * ((out - 1.0) * 1.6).clamp(0.0, 1.0)].min
            end
          end
        end
        return high, lx, ly, lz, tone, open
      end

      # How high what lies at a place stands out, where it is more than `least`.
      kernel place: Geometry::Ray, size: F32, share: F32, pixel: F32, least: F32, returns: F32
      def tall(place, size, share, pixel, least)
        high = 0.0
        wide = size
        SIZES.times do |n|
          part = (0.25 * wide / (pixel + 1.0e-9) - 0.4).clamp(0.0, 1.0)
          if part > 0.0 && part * TALLEST * wide > [least, high].max
            top, _x, _y, _z, _tone, _ring = among(place, wide, share, n)
            high = [high, part * top].max
          end
          wide *= SMALLER
        end
        high
      end

      # How much of a lamp's light stones let through to a place, `high` above the surface: looked at in three steps
      # along the surface towards the lamp, whose way is `to` (and its origin the place).
      kernel to: Geometry::Ray, nx: F32, ny: F32, nz: F32, size: F32, share: F32, pixel: F32, high: F32, returns: F32
      def past(to, nx, ny, nz, size, share, pixel, high)
        up = to.dx * nx + to.dy * ny + to.dz * nz
        ax = to.dx - up * nx
        ay = to.dy - up * ny
        az = to.dz - up * nz
        across = Math.sqrt(ax * ax + ay * ay + az * az) + 1.0e-6
        left = 1.0
        if pixel < 0.7 * size && up < 0.98
          step = 0.12 * size
          over = high + step * up / across
          while step < 2.0 * size && left > 0.0 && over < TALLEST * size
            far = step / across
            stands = tall(Geometry::Ray.new(to.ox + far * ax, to.oy + far * ay, to.oz + far * az, nx, ny, nz), size, share, pixel, over)
            left = [left, 1.0 - ((stands - over) / (0.04 * size)).clamp(0.0, 1.0)].min
            step *= 2.3
            over = high + step * up / across
          end
        end
        left
      end
    end
  end
end
