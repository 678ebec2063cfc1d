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
      CLOSE, LEAST = 0.2, 0.012

      # How long a step is in a fog at a place, `near` how far the nearest lamp that throws shafts is, `a` and `b` where the
      # fog begins and ends; `offset` 0 to 1, another one for each pixel and step, so that steps never show.
      kernel haze: Light::HazeLight, n: I32, a: F32, b: F32, t: F32, offset: F32, near: F32, returns: F32
      def pace(haze, n, a, b, t, offset, near)
        kind = haze.veils[n, 0]
        step = (b - a) / (kind > 2.5 ? BEAM_STEPS : STEPS)
        step = FIRST + GROWTH * t if kind < 0.5
        step = [step, [CLOSE * near, LEAST].max].min
        step *= t - a < 0.0001 * step + 0.00002 ? 0.05 + 0.95 * offset : 0.7 + 0.6 * offset
        [step, b - t + 0.00001].min
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

      # Adds what fogs send of lamps, which stands in `hits` beside each depth, in the mean of the nine pixels around that are as
      # deep: steps begin elsewhere in each of the nine, so that the mean shows none.
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
                off = ([hits[j, i, 0], 1e4].min - here).abs / here
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

      # In the middle of a step: `got` f32 [7], thickness per metre of all fogs, what they send on for each metre of light
      # from all around and their own (red, green, blue), and what fogs and beams do of lamps.
      kernel haze: Light::HazeLight, lamps: F32[2], ray: Geometry::Ray, t: F32, length: F32, got: F32[1]
      def source(haze, lamps, ray, t, length, got)
        7.times { |c| got[c] = 0.0 }
        m = t + 0.5 * length
        x = ray.ox + m * ray.dx
        y = ray.oy + m * ray.dy
        z = ray.oz + m * ray.dz
        red = 0.0
        green = 0.0
        blue = 0.0
        forward = 0.0
        open = -1.0
        haze.veils.dim(0).times do |n|
          if haze.veils[n, 0] < 2.5
            thick = Light::HazeKernels.thick(haze, n, x, y, z, length)
            if thick > 0.0
              open = Light::HazeKernels.around(haze, x, y, z) if open < 0.0
              got[0] = got[0] + thick
              red += thick * haze.veils[n, 2]
              green += thick * haze.veils[n, 3]
              blue += thick * haze.veils[n, 4]
              forward += thick * haze.veils[n, 5]
              # From all around, with all that is scattered again, which keeps white fog white.
              share = thick * open * haze.veils[n, 39]
              got[1] = got[1] + thick * haze.veils[n, 36] + share * haze.veils[n, 2] * haze.red / (1.0 - haze.veils[n, 2] * (1.0 - open) + 0.00001)
              got[2] = got[2] + thick * haze.veils[n, 37] + share * haze.veils[n, 3] * haze.green / (1.0 - haze.veils[n, 3] * (1.0 - open) + 0.00001)
              got[3] = got[3] + thick * haze.veils[n, 38] + share * haze.veils[n, 4] * haze.blue / (1.0 - haze.veils[n, 4] * (1.0 - open) + 0.00001)
            end
          else
            beam(haze, n, lamps, ray, t, length, got)
          end
        end
        if got[0] > 0.0
          g = forward / got[0]
          lamps.dim(0).times do |n|
            lx, ly, lz, near = light(haze, lamps, n, ray, t, length)
            if near > 0.0
              left = Light::HazeKernels.clear(haze, n, x, y, z)
              straight = near * left * ScatterKernels.lobe(lx * ray.dx + ly * ray.dy + lz * ray.dz, g)
              # What was scattered and still goes on.
              depth = -Math.log([left, 1e-12].max)
              again = near * Light::VolumeKernels::ISOTROPIC
              got[4] = got[4] + lamps[n, 4] * red * (straight + again * ScatterKernels.nearly(depth, left, 0.7 * red / got[0]))
              got[5] = got[5] + lamps[n, 5] * green * (straight + again * ScatterKernels.nearly(depth, left, 0.7 * green / got[0]))
              got[6] = got[6] + lamps[n, 6] * blue * (straight + again * ScatterKernels.nearly(depth, left, 0.7 * blue / got[0]))
            end
          end
        end
      end

      # Towards a lamp from the middle of a step, and how much of its light comes there past the props.
      kernel haze: Light::HazeLight, lamps: F32[2], n: I32, ray: Geometry::Ray, t: F32, length: F32, returns: [F32, F32, F32, F32]
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
          near *= haze.veils[n, 1] * Light::VolumeKernels::ISOTROPIC * Light::HazeKernels.clear(haze, lamp, ray.ox + m * ray.dx, ray.oy + m * ray.dy, ray.oz + m * ray.dz)
          got[4] = got[4] + near * lamps[lamp, 4]
          got[5] = got[5] + near * lamps[lamp, 5]
          got[6] = got[6] + near * lamps[lamp, 6]
        end
      end
    end
  end
end
