# frozen_string_literal: true

module Vumbral
  module Picture
    # What lamps send through smoke to the eye.
    module ScatterKernels
      extend Kernel::Library

      # From this optical depth of a voxel on, light is looked at more closely: so many cells of its way.
      DENSE = 0.35
      NEAR = 2.6

      # How much light goes on in a direction, whose cosine with the light's own is given (Henyey & Greenstein
      # 1941); 1/4π where all directions are alike.
      kernel cosine: F32, g: F32, returns: F32
      def lobe(cosine, g)
        below = 1.0 + g * g - 2.0 * g * cosine
        Light::VolumeKernels::ISOTROPIC * (1.0 - g * g) / (below * Math.sqrt(below))
      end

      # Density times metres before a lamp at a place (cells; the ray's direction leads to the lamp): the next
      # `near` cells by themselves, and what was found beyond them.
      kernel volume: Picture::Filled, n: I32, near: F32, place: Geometry::Ray, voxel: F32, returns: F32
      def before(volume, n, near, place, voxel)
        sum = 0.0
        if near > 0.0
          6.times do |s|
            # Closer steps first.
            at = near * (s + 0.5) * (s + 0.5) * 0.02777778
            x = place.ox + at * place.dx
            y = place.oy + at * place.dy
            z = place.oz + at * place.dz
            sum += (2.0 * s + 1.0) * MarchKernels.value(volume.smoke, x, y, z, volume.smooth) if within(volume.smoke, x, y, z)
          end
          sum *= 0.02777778 * near * voxel
        end
        x = place.ox + near * place.dx
        y = place.oy + near * place.dy
        z = place.oz + near * place.dz
        sum += Grid::Sampling.one_of(volume.depths, n, x, y, z) if within(volume.smoke, x, y, z)
        sum
      end

      # Is a place (cells) within a grid?
      kernel field: F32[3], x: F32, y: F32, z: F32, returns: BOOL
      def within(field, x, y, z)
        x > -0.5 && y > -0.5 && z > -0.5 && x < field.dim(2) - 0.5 && y < field.dim(1) - 0.5 && z < field.dim(0) - 0.5
      end

      # Light that has been scattered and still goes nearly the way it went: what comes through if a share `ahead`
      # of it goes on, less what comes straight.
      kernel depth: F32, straight: F32, ahead: F32, returns: F32
      def nearly(depth, straight, ahead)
        ahead > 0.01 ? Math.exp(-(1.0 - ahead) * depth) - straight : 0.0
      end

      # What lamps send through the smoke to the eye at a place: red, green, blue. `place` begins at the cells,
      # the ray says where that is and which way one looks; where `density` is thick, one looks closer.
      kernel volume: Picture::Filled, paint: Picture::Paint, lamps: F32[2], ray: Geometry::Ray, place: Geometry::Ray,
        density: F32, voxel: F32, haze: Light::HazeLight, returns: [F32, F32, F32]
      def lamplight(volume, paint, lamps, ray, place, density, voxel, haze)
        r = 0.0
        g = 0.0
        b = 0.0
        # Where smoke is thick, what stands before a lamp changes much within a voxel.
        near = paint.shadow * voxel * density > DENSE ? NEAR : 0.0
        deep = Grid::Sampling.linear(volume.skin, (place.ox + 0.5) / volume.edge - 0.5,
          (place.oy + 0.5) / volume.edge - 0.5,
          (place.oz + 0.5) / volume.edge - 0.5)
        lamps.dim(0).times do |n|
          lx, ly, lz, _far, gain = Light::LampKernels.towards(lamps, n, ray.ox, ray.oy, ray.oz)
          share = 1.0
          wider = 1.0
          if paint.forward != 0.0 || paint.back_share > 0.0
            cosine = (lx * ray.dx + ly * ray.dy + lz * ray.dz).clamp(-1.0, 1.0)
            share = 12.5663706 * ((1.0 - paint.back_share) * lobe(cosine, paint.forward) +
              paint.back_share * lobe(cosine, paint.back))
            wider = 12.5663706 * ((1.0 - paint.back_share) * lobe(cosine, paint.forward * paint.forward) +
              paint.back_share * lobe(cosine, paint.back * paint.back))
          end
          depth = 0.0
          if lamps[n, 7] > 0.5
            depth = paint.shadow * before(volume, n, near, Geometry::Ray.new(place.ox, place.oy, place.oz, lx, ly,
              lz), voxel)
          end
          near_by = gain * Light::VolumeKernels::ISOTROPIC
          if volume.shaded && lamps[n, 7] > 0.5 && within(volume.smoke, place.ox, place.oy, place.oz)
            near_by *= Grid::Sampling.one_of(volume.open, n, place.ox, place.oy, place.oz)
          end
          near_by *= Light::HazeKernels.clear(haze, n, ray.ox, ray.oy, ray.oz) if haze.veils.dim(0) > 0
          straight = Math.exp(-depth)
          r += near_by * lamps[n, 4] * (share * straight + wider * nearly(depth, straight, paint.ahead * paint.red))
          g += near_by * lamps[n, 5] * (share * straight + wider * nearly(depth, straight, paint.ahead * paint.green))
          b += near_by * lamps[n, 6] * (share * straight + wider * nearly(depth, straight, paint.ahead * paint.blue))
          if deep > 0.02
            skin = deep * near_by
            r += skin * lamps[n, 4] * Light::VolumeKernels.skin(paint.thinner * depth, paint.soft_red)
            g += skin * lamps[n, 5] * Light::VolumeKernels.skin(paint.thinner * depth, paint.soft_green)
            b += skin * lamps[n, 6] * Light::VolumeKernels.skin(paint.thinner * depth, paint.soft_blue)
          end
        end
        return r * paint.red, g * paint.green, b * paint.blue
      end
    end
  end
end
