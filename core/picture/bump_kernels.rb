# frozen_string_literal: true

module Vumbral
  module Picture
    # Uneven surfaces.
    module BumpKernels
      extend Kernel::Library

      # Of one octave's slope along one way, the mean square.
      RISE = 0.6

      # How high an uneven surface stands at a place and how steeply it rises along x, y, z, in parts of its
      # patches' size: octaves, each turned against the one before, of which those finer than `pixel` are
      # left out, so that nothing flickers. Last, the variance of the slopes that were left out.
      kernel x: F32, y: F32, z: F32, size: F32, pixel: F32, returns: [F32, F32, F32, F32, F32]
      def bumps(x, y, z, size, pixel)
        sum = 0.0
        gx = 0.0
        gy = 0.0
        gz = 0.0
        lost = 0.0
        at = 1.0 / size
        gain = 1.0
        a = x
        b = y
        c = z
        8.times do |n|
          part = (0.5 / (at * pixel + 1e-9) - 0.5).clamp(0.0, 1.0)
          share = part * gain
          lost += RISE * (1.0 - part * part) * (gain * at * size)**2
          if share > 0.0
            value, da, db, dc = Grid::Noise.slope(a * at, b * at, c * at, 401 + n)
            sum += share * value
            # Odd octaves are turned by 53 degrees about y, and so is their slope.
            odd = n % 2 == 1
            gx += share * at * size * (odd ? 0.6 * da + 0.8 * dc : da)
            gy += share * at * size * db
            gz += share * at * size * (odd ? 0.6 * dc - 0.8 * da : dc)
          end
          a = n % 2 == 0 ? 0.6 * x - 0.8 * z : x
          c = n % 2 == 0 ? 0.6 * z + 0.8 * x : z
          at *= 2.1
          gain *= 0.55
        end
        return sum, gx, gy, gz, lost
      end

      # Stains far wider than the patches, and how much of one there is at a place: -1 to 1.
      kernel x: F32, y: F32, z: F32, size: F32, pixel: F32, returns: F32
      def stains(x, y, z, size, pixel)
        sum = 0.0
        at = 0.19 / size
        gain = 0.62
        3.times do |n|
          share = (0.5 / (at * pixel + 1e-9) - 0.5).clamp(0.0, 1.0) * gain
          sum += share * Grid::Noise.value(0.6 * at * x + 0.8 * at * z, at * y, 0.6 * at * z - 0.8 * at * x, 0.0, 431 + n) if share > 0.0
          at *= 0.29
        end
        sum
      end

      # {#bumps} in the mean over what a pixel sees of a surface: `pixel` across, and as long as it is seen aslant.
      kernel spot: Picture::Spot, ray: Geometry::Ray, nx: F32, ny: F32, nz: F32, size: F32, pixel: F32,
        returns: [F32, F32, F32, F32, F32]
      def uneven(spot, ray, nx, ny, nz, size, pixel)
        facing = nx * ray.dx + ny * ray.dy + nz * ray.dz
        slant = [facing.abs, 0.03].max
        # Along the surface, away from whoever looks.
        tx = ray.dx - facing * nx
        ty = ray.dy - facing * ny
        tz = ray.dz - facing * nz
        stretch = pixel / slant / Math.sqrt(tx * tx + ty * ty + tz * tz + 1e-9)
        sum = 0.0
        gx = 0.0
        gy = 0.0
        gz = 0.0
        lost = 0.0
        count = slant < 0.4 ? 5 : 1
        count.times do |n|
          off = ((n + 0.5) / count - 0.5) * stretch
          value, da, db, dc, less = bumps(ray.ox + spot.far * ray.dx + off * tx, ray.oy + spot.far * ray.dy + off * ty,
            ray.oz + spot.far * ray.dz + off * tz, size, [pixel, pixel / slant / count].max)
          sum += value
          gx += da
          gy += db
          gz += dc
          lost += less
        end
        return sum / count, gx / count, gy / count, gz / count, lost / count
      end
    end
  end
end
