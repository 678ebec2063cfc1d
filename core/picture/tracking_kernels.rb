# frozen_string_literal: true

module Vumbral
  module Picture
    # Light in a volume by following single paths: where a path would meet something is drawn from the thickest
    # place, and what is thinner lets it pass by as much (Woodcock 1965); what lies before a lamp is weighed
    # the same way (Novák, Selle & Jarosz 2014). Slow, uneven, and right in the mean.
    module TrackingKernels
      extend Kernel::Library

      # A number from 0 to 1, ever another one: the `n`th of a path.
      kernel path: I32, n: I32, seed: I32, returns: F32
      def chance(path, n, seed)
        Grid::Noise.lattice(path, n, path >> 16, 0, seed)
      end

      # How far it goes to where something may be met, for a thickness of 1.
      kernel u: F32, returns: F32
      def free(u)
        -Math.log([1.0 - u, 1e-7].max)
      end

      # Extinction at a place (metres).
      kernel volume: Picture::Tracked, lattice: Grid::Lattice, thickness: F32, x: F32, y: F32, z: F32, returns: F32
      def thick(volume, lattice, thickness, x, y, z)
        per = 1.0 / lattice.voxel
        thickness * Grid::Sampling.linear(volume.smoke, (x - lattice.x) * per, (y - lattice.y) * per,
          (z - lattice.z) * per)
      end

      # How much light comes through along a ray, and the next number of the path.
      kernel volume: Picture::Tracked, lattice: Grid::Lattice, ray: Geometry::Ray, reach: F32, thickness: F32,
        path: I32,
        n: I32, returns: [F32, I32]
      def through(volume, lattice, ray, reach, thickness, path, n)
        first, last = Light::VolumeKernels.crossing(volume.smoke, lattice, ray)
        finish = [last, reach].min
        passed = 1.0
        at = n
        t = first + free(chance(path, at, volume.seed)) / volume.most
        while t < finish && passed > 0.0
          found = thick(volume, lattice, thickness, ray.ox + t * ray.dx, ray.oy + t * ray.dy, ray.oz + t * ray.dz)
          passed *= 1.0 - found / volume.most
          at += 1
          t += free(chance(path, at, volume.seed)) / volume.most
        end
        return passed, at + 1
      end

      # A direction that light goes on in, around the one it had (Henyey & Greenstein 1941).
      kernel ray: Geometry::Ray, g: F32, u: F32, v: F32, returns: [F32, F32, F32]
      def turned(ray, g, u, v)
        cosine = 1.0 - 2.0 * u
        if g.abs > 0.001
          part = (1.0 - g * g) / (1.0 - g + 2.0 * g * u)
          cosine = ((1.0 + g * g - part * part) / (2.0 * g)).clamp(-1.0, 1.0)
        end
        sine = Math.sqrt([1.0 - cosine * cosine, 0.0].max)
        turn = 6.2831853 * v
        # Two directions across the ray.
        flat = ray.dy.abs < 0.9
        ax = flat ? ray.dz : 0.0
        ay = flat ? 0.0 : -ray.dz
        az = flat ? -ray.dx : ray.dy
        per = 1.0 / Math.sqrt(ax * ax + ay * ay + az * az)
        ax *= per
        ay *= per
        az *= per
        a = sine * Math.cos(turn)
        b = sine * Math.sin(turn)
        return cosine * ray.dx + a * ax + b * (ray.dy * az - ray.dz * ay),
          cosine * ray.dy + a * ay + b * (ray.dz * ax - ray.dx * az),
          cosine * ray.dz + a * az + b * (ray.dx * ay - ray.dy * ax)
      end

      # A picture of a volume alone: `image` f32 [h, w, 4] as {MarchKernels#march} makes it.
      kernel image: F32[3], view: F32[1], volume: Picture::Tracked, paint: Picture::Paint, lamps: F32[2], sky: F32[1],
        lattice: Grid::Lattice
      def track(image, view, volume, paint, lamps, sky, lattice)
        parallel(image.dim(0), uneven: true) do |py|
          image.dim(1).times do |px|
            red = 0.0
            green = 0.0
            blue = 0.0
            alpha = 0.0
            volume.paths.times do |s|
              path = (py * image.dim(1) + px) * volume.paths + s
              n = 2
              dx, dy, dz = EyeKernels.direction(view, px + chance(path, 0, volume.seed), py + chance(path, 1,
                volume.seed))
              ox = view[0]
              oy = view[1]
              oz = view[2]
              r = 1.0
              g = 1.0
              b = 1.0
              met = 0
              going = true
              while going
                first, last = Light::VolumeKernels.crossing(volume.smoke, lattice, Geometry::Ray.new(ox, oy, oz, dx,
                  dy, dz))
                t = first
                meeting = false
                while t < last && !meeting
                  t += free(chance(path, n, volume.seed)) / volume.most
                  n += 1
                  if t < last
                    x = ox + t * dx
                    y = oy + t * dy
                    z = oz + t * dz
                    per = 1.0 / lattice.voxel
                    at = (Grid::Sampling.linear(volume.glowing, (x - lattice.x) * per, (y - lattice.y) * per,
                      (z - lattice.z) * per) - paint.low) * paint.per
                    if at > 0.0
                      red += r * Light::ShapingKernels.read(volume.table, 0, at) / volume.most
                      green += g * Light::ShapingKernels.read(volume.table, 1, at) / volume.most
                      blue += b * Light::ShapingKernels.read(volume.table, 2, at) / volume.most
                    end
                    meeting = chance(path, n, volume.seed) * volume.most < thick(volume, lattice, paint.thickness, x,
                      y, z)
                    n += 1
                  end
                end
                met += 1 if meeting
                if meeting && met > volume.bounces + 1
                  going = false
                elsif meeting
                  alpha += 1.0 if met == 1
                  ox += t * dx
                  oy += t * dy
                  oz += t * dz
                  r *= paint.red
                  g *= paint.green
                  b *= paint.blue
                  lamps.dim(0).times do |lamp|
                    lx, ly, lz, far, gain = Light::LampKernels.towards(lamps, lamp, ox, oy, oz)
                    passed, n = through(volume, lattice, Geometry::Ray.new(ox, oy, oz, lx, ly, lz), far,
                      paint.thickness, path, n)
                    cosine = lx * dx + ly * dy + lz * dz
                    share = gain * passed * ((1.0 - paint.back_share) * ScatterKernels.lobe(cosine,
                      paint.forward) + paint.back_share * ScatterKernels.lobe(cosine, paint.back))
                    red += r * share * lamps[lamp, 4]
                    green += g * share * lamps[lamp, 5]
                    blue += b * share * lamps[lamp, 6]
                  end
                  lobe = chance(path, n, volume.seed) < paint.back_share ? paint.back : paint.forward
                  dx, dy, dz = turned(Geometry::Ray.new(ox, oy, oz, dx, dy, dz), lobe, chance(path, n + 1,
                    volume.seed), chance(path, n + 2, volume.seed))
                  n += 3
                  # What has next to nothing left goes on by chance.
                  most = [r, g, b].max
                  if most < 0.1
                    going = chance(path, n, volume.seed) * 0.1 < most
                    r *= 0.1 / [most, 1e-9].max
                    g *= 0.1 / [most, 1e-9].max
                    b *= 0.1 / [most, 1e-9].max
                    n += 1
                  end
                else
                  going = false
                  if met > 0
                    half = dy > 0.0 ? 0 : 3
                    red += r * sky[half]
                    green += g * sky[half + 1]
                    blue += b * sky[half + 2]
                  end
                end
              end
            end
            image[py, px, 0] = red / volume.paths
            image[py, px, 1] = green / volume.paths
            image[py, px, 2] = blue / volume.paths
            image[py, px, 3] = alpha / volume.paths
          end
        end
      end
    end
  end
end
