# frozen_string_literal: true

module Vumbral
  module Picture
    # What fogs and beams send to the eye along a step of a ray.
    module HazeMarchKernels
      extend Kernel::Library

      # Steps through a fog, and through a beam.
      STEPS, BEAM_STEPS = 26.0, 20.0
      # Fog without an end is walked in steps that begin so long and grow with the distance.
      FIRST, GROWTH = 0.25, 0.2
      # Near a lamp steps are this share of the distance to it, but no shorter than so many metres.
      CLOSE, LEAST = 0.13, 0.012

      # How far a fog stays much the same from a place on, or how long a step in a beam is; `a` and `b` where it begins
      # and ends. `offset` 0 to 1, another one for each pixel and step, so that steps never show.
      kernel haze: Light::HazeLight, n: I32, a: F32, b: F32, t: F32, offset: F32, returns: F32
      def pace(haze, n, a, b, t, offset)
        kind = haze.veils[n, 0]
        step = (b - a) / (kind > 2.5 ? BEAM_STEPS : STEPS)
        step = FIRST + GROWTH * t if kind < 0.5
        step *= t - a < 0.0001 * step + 0.00002 ? 0.05 + 0.95 * offset : 0.7 + 0.6 * offset
        [step, b - t + 0.00001].min
      end

      # How long a step is where lamps with a place throw shafts, `near` how far the nearest of them is.
      kernel near: F32, offset: F32, returns: F32
      def close(near, offset)
        [CLOSE * near * (0.7 + 0.6 * offset), LEAST].max
      end

      # How far the nearest lamp with a place is that casts shadows: about it shafts are narrow.
      kernel lamps: F32[2], x: F32, y: F32, z: F32, returns: F32
      def nearest(lamps, x, y, z)
        near = 1e9
        lamps.dim(0).times do |n|
          if lamps[n, 0] > 0.5 && lamps[n, 7] > 0.5
            a = lamps[n, 1] - x
            b = lamps[n, 2] - y
            c = lamps[n, 3] - z
            near = [near, a * a + b * b + c * c].min
          end
        end
        Math.sqrt(near)
      end

      # Adds what fogs send of lamps, which stands in `hits` beside each depth, in the mean of the nine pixels around
      # that are as deep: steps begin elsewhere in each of the nine, so that the mean shows none.
      kernel image: F32[3], hits: F32[3]
      def lay(image, hits)
        parallel(image.dim(0)) do |y|
          image.dim(1).times do |x|
            here = [hits[y, x, 0], 1e4].min
            sum = 0.0
            red = 0.0
            green = 0.0
            blue = 0.0
            ([y - 1, 0].max..[y + 1, image.dim(0) - 1].min).each do |j|
              ([x - 1, 0].max..[x + 1, image.dim(1) - 1].min).each do |i|
                off = ([hits[j, i, 0], 1e4].min - here).abs / here.abs
                share = off < 0.05 ? 1.0 : (j == y && i == x ? 1.0 : 0.0)
                sum += share
                red += share * hits[j, i, 1]
                green += share * hits[j, i, 2]
                blue += share * hits[j, i, 3]
              end
            end
            image[y, x, 0] += red / sum
            image[y, x, 1] += green / sum
            image[y, x, 2] += blue / sum
          end
        end
      end

      # What all fogs are at a place, in the mean of about so many metres, and what they send on of light from all
      # around and their own: `held` as {#slow} takes it.
      kernel haze: Light::HazeLight, x: F32, y: F32, z: F32, width: F32, held: F32[1]
      def even(haze, x, y, z, width, held)
        open = -1.0
        haze.veils.dim(0).times do |n|
          thick = haze.veils[n, 0] < 2.5 ? Light::HazeKernels.thick(haze, n, x, y, z, width) : 0.0
          if thick > 0.0
            open = Light::HazeKernels.around(haze, x, y, z) if open < 0.0
            held[0] = held[0] + thick
            3.times do |c|
              albedo = haze.veils[n, 2 + c]
              held[7 + c] = held[7 + c] + thick * albedo
              # With all that is scattered again, which keeps white fog white.
              sky = c == 0 ? haze.red : (c == 1 ? haze.green : haze.blue)
              held[1 + c] = held[1 + c] + thick * (haze.veils[n, 36 + c] + open * haze.veils[n, 39] * albedo * sky / (1.0 - albedo * (1.0 - open) + 0.00001))
            end
            held[10] = held[10] + thick * haze.veils[n, 5]
          end
        end
      end

      # What changes slowly, in the middle of a stretch: `held` f32 [11], thickness per metre of all fogs, what they
      # send on for each metre of light from all around and their own (red, green, blue), and of suns, how much they
      # scatter, and how much of it keeps its way.
      kernel haze: Light::HazeLight, lamps: F32[2], ray: Geometry::Ray, t: F32, length: F32, held: F32[1]
      def slow(haze, lamps, ray, t, length, held)
        11.times { |c| held[c] = 0.0 }
        m = t + 0.5 * length
        x = ray.ox + m * ray.dx
        y = ray.oy + m * ray.dy
        z = ray.oz + m * ray.dz
        even(haze, x, y, z, length, held)
        if held[0] > 0.0
          held[10] = held[10] / held[0]
          lamps.dim(0).times { |n| scatter(haze, lamps, n, ray, t, length, held) if lamps[n, 0] < 0.5 }
        end
      end

      # In the middle of a step: what fogs and beams send on for each metre of lamps with a place: `got` f32 [11], where
      # suns stand already, as {#slow} found them.
      kernel haze: Light::HazeLight, lamps: F32[2], ray: Geometry::Ray, t: F32, length: F32, got: F32[1]
      def quick(haze, lamps, ray, t, length, got)
        lamps.dim(0).times { |n| scatter(haze, lamps, n, ray, t, length, got) if lamps[n, 0] > 0.5 } if got[0] > 0.0
        haze.veils.dim(0).times { |n| beam(haze, n, lamps, ray, t, length, got) if haze.veils[n, 0] > 2.5 }
      end

      # Adds what of a lamp goes on.
      kernel haze: Light::HazeLight, lamps: F32[2], n: I32, ray: Geometry::Ray, t: F32, length: F32, got: F32[1]
      def scatter(haze, lamps, n, ray, t, length, got)
        lx, ly, lz, near = light(haze, lamps, n, ray, t, length)
        if near > 0.0
          m = t + 0.5 * length
          left = Light::HazeKernels.clear(haze, n, ray.ox + m * ray.dx, ray.oy + m * ray.dy, ray.oz + m * ray.dz)
          straight = near * left * ScatterKernels.lobe(lx * ray.dx + ly * ray.dy + lz * ray.dz, got[10])
          # What was scattered and still goes on.
          depth = left < 0.98 ? -Math.log([left, 1e-12].max) : 0.0
          again = near * Light::VolumeKernels::ISOTROPIC
          3.times do |c|
            more = depth > 0.0 ? again * ScatterKernels.nearly(depth, left, 0.7 * got[7 + c] / got[0]) : 0.0
            got[4 + c] = got[4 + c] + lamps[n, 4 + c] * got[7 + c] * (straight + more)
          end
        end
      end

      # Towards a lamp from the middle of a step, and how much of its light comes there past the props.
      kernel haze: Light::HazeLight, lamps: F32[2], n: I32, ray: Geometry::Ray, t: F32, length: F32,
        returns: [F32, F32, F32, F32]
      def light(haze, lamps, n, ray, t, length)
        m = t + 0.5 * length
        x = ray.ox + m * ray.dx
        y = ray.oy + m * ray.dy
        z = ray.oz + m * ray.dz
        lx, ly, lz, far, gain = Light::LampKernels.towards(lamps, n, x, y, z)
        bright = lamps[n, 4] + lamps[n, 5] + lamps[n, 6]
        near = bright > 0.0 ? gain : 0.0
        if near > 0.0
          # From afar the middle of a step says enough.
          if lamps[n, 0] > 0.5 && lamps[n, 17] > 1.5 && length > 0.25 * far
            near = Light::HazeKernels.nearness(lamps, n, ray, t, length)
            near *= Light::LampKernels.ahead(lamps, n, lx, ly, lz) if lamps[n, 8] > 0.5
          end
          near *= Light::ShadowKernels.lit(haze, lamps, n, x, y, z) if lamps[n, 7] > 0.5
        end
        return lx, ly, lz, near
      end

      # A beam is lit by its own lamp alone.
      kernel haze: Light::HazeLight, n: I32, lamps: F32[2], ray: Geometry::Ray, t: F32, length: F32, got: F32[1]
      def beam(haze, n, lamps, ray, t, length, got)
        lamp = haze.veils[n, 35].to_i
        lx, ly, lz, near = light(haze, lamps, lamp, ray, t, length)
        if near > 0.0
          m = t + 0.5 * length
          cosine = -(lx * lamps[lamp, 9] + ly * lamps[lamp, 10] + lz * lamps[lamp, 11])
          inner = ((cosine - lamps[lamp, 12]) / (1.0 - lamps[lamp, 12] + 0.00001)).clamp(0.0, 1.0)
          near *= 1.0 + haze.veils[n, 10] * (inner * (2.0 - inner) - 1.0)
          near *=
            haze.veils[n, 1] * Light::VolumeKernels::ISOTROPIC *
            Light::HazeKernels.clear(haze, lamp, ray.ox + m * ray.dx, ray.oy + m * ray.dy, ray.oz + m * ray.dz)
          got[4] = got[4] + near * lamps[lamp, 4]
          got[5] = got[5] + near * lamps[lamp, 5]
          got[6] = got[6] + near * lamps[lamp, 6]
        end
      end
    end
  end
end
