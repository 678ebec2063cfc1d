# frozen_string_literal: true

module Vumbral
  module Picture
    # Fogs and beams on a lattice, for views that draw them by themselves ({HazeView}).
    module HazeViewKernels
      extend Kernel::Library

      # At each place how thick all fogs are (per metre), what they send on for each metre to all sides, what lamps
      # would send straight on if their light went to all sides alike, and the way to these: the mean of all, as long as
      # they agree. `light`, `straight` and `ways` f32 [3, z, y, x].
      # @param placed whether lamps that stand at a place send theirs straight on here too
      kernel thick: F32[3], light: F32[4], straight: F32[4], ways: F32[4], haze: Light::HazeLight, lamps: F32[2],
        placed: BOOL, lattice: Grid::Lattice
      def fill(thick, light, straight, ways, haze, lamps, placed, lattice)
        parallel(thick.dim(0), uneven: true) do |k|
          held = local_f32(11)
          thick.dim(1).times do |j|
            thick.dim(2).times do |i|
              x = lattice.x + i * lattice.voxel
              y = lattice.y + j * lattice.voxel
              z = lattice.z + k * lattice.voxel
              11.times { |c| held[c] = 0.0 }
              HazeMarchKernels.even(haze, x, y, z, lattice.voxel, held)
              all = 0.0
              wx = 0.0
              wy = 0.0
              wz = 0.0
              if held[0] > 0.0
                lamps.dim(0).times do |n|
                  lx, ly, lz, near =
                    HazeMarchKernels.light(haze, lamps, n, Geometry::Ray.new(x, y, z, 0.0, 0.0, 1.0), 0.0, 0.0)
                  if near > 0.0
                    left = Light::HazeKernels.clear(haze, n, x, y, z)
                    depth = left < 0.98 ? -Math.log([left, 1e-12].max) : 0.0
                    goes = placed || lamps[n, 0] < 0.5 ? left : 0.0
                    sum = near * goes * (lamps[n, 4] + lamps[n, 5] + lamps[n, 6])
                    all += sum
                    wx += sum * lx
                    wy += sum * ly
                    wz += sum * lz
                    3.times do |c|
                      more = depth > 0.0 ? ScatterKernels.nearly(depth, left, 0.7 * held[7 + c] / held[0]) : 0.0
                      sent = Light::VolumeKernels::ISOTROPIC * near * lamps[n, 4 + c] * held[7 + c]
                      held[4 + c] = held[4 + c] + sent * more
                      straight[c, k, j, i] = straight[c, k, j, i] + sent * goes
                    end
                  end
                end
              end
              share = all > 0.0 ? 1.0 / all : 0.0
              ways[0, k, j, i] = share * wx
              ways[1, k, j, i] = share * wy
              ways[2, k, j, i] = share * wz
              haze.veils.dim(0).times do |n|
                HazeMarchKernels.beam(haze, n, lamps, Geometry::Ray.new(x, y, z, 0.0, 0.0, 1.0), 0.0, 0.0, held) if haze.veils[n, 0] > 2.5
              end
              thick[k, j, i] = held[0]
              3.times { |c| light[c, k, j, i] = held[1 + c] + held[4 + c] }
            end
          end
        end
      end
    end
  end
end
