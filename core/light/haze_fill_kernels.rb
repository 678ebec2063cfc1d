# frozen_string_literal: true

module Vumbral
  module Light
    # How much of the light fogs leave, on a coarse lattice, once for pictures of all sizes.
    module HazeFillKernels
      extend Kernel::Library

      STEPS = 9

      # What a ray loses to all fogs within `most`: optical depth.
      kernel haze: Light::HazeLight, lamps: F32[2], ray: Geometry::Ray, most: F32, returns: F32
      def lost(haze, lamps, ray, most)
        sum = 0.0
        haze.veils.dim(0).times do |n|
          if haze.veils[n, 0] < 2.5
            first, last = HazeKernels.span(haze, n, lamps, ray, most)
            if last > first
              step = (last - first) / STEPS
              STEPS.times do |s|
                t = first + (s + 0.5) * step
                sum +=
                  step * HazeKernels.thick(haze, n, ray.ox + t * ray.dx, ray.oy + t * ray.dy, ray.oz + t * ray.dz, step)
              end
            end
          end
        end
        sum
      end

      # @param left f32 [lamp, z, y, x] and open f32 [z, y, x], filled; `thickness` of the smoke's shadows
      kernel left: F32[4], open: F32[3], haze: Light::HazeLight, lamps: F32[2], smoke: F32[3], lattice: Grid::Lattice,
        thickness: F32
      def fill(left, open, haze, lamps, smoke, lattice, thickness)
        parallel(open.dim(0), uneven: true) do |k|
          open.dim(1).times do |j|
            open.dim(2).times do |i|
              x = haze.x + i * haze.voxel
              y = haze.y + j * haze.voxel
              z = haze.z + k * haze.voxel
              lamps.dim(0).times do |n|
                dx, dy, dz, distance, gain = LampKernels.towards(lamps, n, x, y, z)
                found = 1.0
                # What is dark need not be looked for.
                if lamps[n, 7] > 0.5 && gain > 0.0 && lamps[n, 4] + lamps[n, 5] + lamps[n, 6] > 0.0
                  found =
                    Math.exp(
                      -lost(haze, lamps, Geometry::Ray.new(x, y, z, dx, dy, dz), distance) -
                        thickness *
                          VolumeKernels.strides(smoke, lattice, Geometry::Ray.new(x, y, z, dx, dy, dz), distance, 2.0,
                            VolumeKernels::BLACK / [thickness, 0.001].max)
                    )
                end
                left[n, k, j, i] = found
              end
              sum = 0.0
              lit = haze.red + haze.green + haze.blue > 0.0
              sum = 1.0 if !lit
              (lit ? BounceKernels::WAYS : 0).times do |n|
                a, b, c = BounceKernels.way(n)
                one = 1.0 / Math.sqrt(a * a + b * b + c * c)
                sum +=
                  (n < 6 ? BounceKernels::AXIS : BounceKernels::DIAGONAL) *
                  Math.exp(-lost(haze, lamps, Geometry::Ray.new(x, y, z, a * one, b * one, c * one), 1e9))
              end
              open[k, j, i] = sum
            end
          end
        end
      end
    end
  end
end
