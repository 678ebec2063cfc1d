# frozen_string_literal: true

module Vumbral
  module Sculpt
    # Loops of the steps that take each value from another place.
    module MoveKernels
      extend Kernel::Library

      # The places of a row of sixteen cells, metres: all x, then y, then z.
      kernel spots: F32[1], places: I32[2], lattice: Grid::Lattice, n: I32, k: I32, j: I32
      def spots(spots, places, lattice, n, k, j)
        16.times do |i|
          spots[i] = lattice.x + (16 * places[n, 2] + i) * lattice.voxel
          spots[16 + i] = lattice.y + (16 * places[n, 1] + j) * lattice.voxel
          spots[32 + i] = lattice.z + (16 * places[n, 0] + k) * lattice.voxel
        end
      end

      # The same counted in sizes of a noise, and turned, for its lattice would show where it stood upright.
      kernel spots: F32[1], size: F32
      def turned(spots, size)
        16.times do |i|
          x = spots[i] / size
          y = spots[16 + i] / size
          z = spots[32 + i] / size
          spots[i] = 0.36 * x + 0.48 * y - 0.8 * z
          spots[16 + i] = -0.8 * x + 0.6 * y
          spots[32 + i] = 0.48 * x + 0.64 * y + 0.6 * z
        end
      end

      # Octaves of noise at a row of places, from about -1 to 1, each half as strong as the one before; in time it is
      # the same again after `loop`, 0 never.
      kernel out: F32[1], spots: F32[1], octaves: I32, time: F32, loop: I32, seed: I32
      def octaves(out, spots, octaves, time, loop, seed)
        row = local_f32(16)
        again = local_i32(4)
        4.times { |c| again[c] = 0 }
        again[3] = loop
        16.times { |i| out[i] = 0.0 }
        part = 1.0
        scale = 1.0
        octaves.times do |o|
          Grid::Noise.row(row, spots, scale, time, seed + o, again, 0)
          16.times { |i| out[i] = out[i] + part * row[i] }
          part *= 0.5
          scale *= 2.0
        end
      end

      # Noise from 0 to 1 at the cells of bricks; `setting` f32 [4]: size (metres), octaves, time and after how
      # much of it it is the same again.
      kernel values: F32[3], places: I32[2], lattice: Grid::Lattice, setting: F32[1], seed: I32
      def noise(values, places, lattice, setting, seed)
        parallel(places.dim(0), uneven: true) do |n|
          here = local_f32(48)
          found = local_f32(16)
          16.times do |k|
            16.times do |j|
              spots(here, places, lattice, n, k, j)
              turned(here, setting[0])
              octaves(found, here, setting[1].to_i, setting[2], setting[3].to_i, seed)
              16.times { |i| values[16 * n + k, j, i] = (0.5 + 0.4 * found[i]).clamp(0.0, 1.0) }
            end
          end
        end
      end

      # Each place takes the value of one that noise leads to. `setting` f32 [6]: the bends' size and how far they lead
      # (metres), octaves, time, how far the noise is bent by itself first, in sizes, and when it is the same again.
      kernel out: F32[3], places: I32[2], cells: Sculpt::Cells, lattice: Grid::Lattice, setting: F32[1], seed: I32
      def warp(out, places, cells, lattice, setting, seed)
        parallel(places.dim(0), uneven: true) do |n|
          here = local_f32(48)
          shifted = local_f32(48)
          away = local_f32(48)
          again = local_i32(4)
          kept = local_f32(6144)
          keys = local_i32(1024)
          Grid::Noise.forget(keys)
          3.times { |c| again[c] = 0 }
          again[3] = setting[5].to_i
          per = setting[1] / lattice.voxel
          16.times do |k|
            16.times do |j|
              spots(here, places, lattice, n, k, j)
              turned(here, setting[0])
              if setting[4] > 0.0
                Grid::Noise.three(shifted, here, 0.5, setting[3], seed + 101, again, kept, keys)
                48.times { |c| here[c] = here[c] + setting[4] * shifted[c] }
              end
              part = per
              scale = 1.0
              48.times { |c| away[c] = 0.0 }
              setting[2].to_i.times do |o|
                Grid::Noise.three(shifted, here, scale, setting[3], seed + o, again, kept, keys)
                48.times { |c| away[c] = away[c] + part * shifted[c] }
                part *= 0.5
                scale *= 2.0
              end
              16.times do |i|
                out[16 * n + k, j, i] = FieldKernels.linear(
                  cells, 16 * places[n, 2] + i + away[i], 16 * places[n, 1] + j + away[16 + i],
                  16 * places[n, 0] + k + away[32 + i]
                )
              end
            end
          end
        end
      end

      # Carried along rolls of noise that flow neither out nor in (Bridson, Hourihan & Nordenstam 2007), back along the
      # way in short steps. `setting` f32 [3]: the rolls' size (metres), how far it goes all in all, and time.
      kernel out: F32[3], places: I32[2], cells: Sculpt::Cells, lattice: Grid::Lattice, setting: F32[1], steps: I32,
        seed: I32
      def flow(out, places, cells, lattice, setting, steps, seed)
        parallel(places.dim(0), uneven: true) do |n|
          16.times do |k|
            16.times do |j|
              16.times do |i|
                per = 1.0 / setting[0]
                x = (lattice.x + (16 * places[n, 2] + i) * lattice.voxel) * per
                y = (lattice.y + (16 * places[n, 1] + j) * lattice.voxel) * per
                z = (lattice.z + (16 * places[n, 0] + k) * lattice.voxel) * per
                a = x
                b = y
                c = z
                pace = setting[1] * per / steps
                steps.times do |_step|
                  u, v, w = roll(a, b, c, setting[2], seed)
                  u, v, w = roll(a - 0.5 * pace * u, b - 0.5 * pace * v, c - 0.5 * pace * w, setting[2], seed)
                  a -= pace * u
                  b -= pace * v
                  c -= pace * w
                end
                out[16 * n + k, j, i] = FieldKernels.linear(
                  cells, 16 * places[n, 2] + i + (a - x) * setting[0] / lattice.voxel,
                  16 * places[n, 1] + j + (b - y) * setting[0] / lattice.voxel,
                  16 * places[n, 0] + k + (c - z) * setting[0] / lattice.voxel
                )
              end
            end
          end
        end
      end

      # The curl of three noises, which is free of sources; about 1 strong. Time leads through the noise.
      kernel x: F32, y: F32, z: F32, time: F32, seed: I32, returns: [F32, F32, F32]
      def roll(x, y, z, time, seed)
        _a, _ax, ay, az = Grid::Noise.slope(x, y, z + time, seed)
        _b, bx, _by, bz = Grid::Noise.slope(x, y + time, z, seed + 1)
        _c, cx, cy, _cz = Grid::Noise.slope(x + time, y, z, seed + 2)
        return cy - bz, az - cx, bx - ay
      end

      # Carried along a velocity at the cells of a lattice, m/s, for some seconds; there is none beyond it.
      kernel out: F32[3], places: I32[2], cells: Sculpt::Cells, lattice: Grid::Lattice, flow: Grid::VectorField,
        from: Grid::Lattice, seconds: F32, steps: I32
      def carried(out, places, cells, lattice, flow, from, seconds, steps)
        parallel(places.dim(0), uneven: true) do |n|
          per = 1.0 / from.voxel
          step = seconds / steps
          16.times do |k|
            16.times do |j|
              16.times do |i|
                x = lattice.x + (16 * places[n, 2] + i) * lattice.voxel
                y = lattice.y + (16 * places[n, 1] + j) * lattice.voxel
                z = lattice.z + (16 * places[n, 0] + k) * lattice.voxel
                steps.times do |_step|
                  a = (x - from.x) * per
                  b = (y - from.y) * per
                  c = (z - from.z) * per
                  inside =
                    a > -1.0 && b > -1.0 && c > -1.0 && a < flow.x.dim(2) && b < flow.x.dim(1) && c < flow.x.dim(0)
                  if inside
                    x -= step * Grid::Sampling.linear(flow.x, a, b, c)
                    y -= step * Grid::Sampling.linear(flow.y, a, b, c)
                    z -= step * Grid::Sampling.linear(flow.z, a, b, c)
                  end
                end
                out[16 * n + k, j, i] = FieldKernels.linear(
                  cells, (x - lattice.x) / lattice.voxel, (y - lattice.y) / lattice.voxel,
                  (z - lattice.z) / lattice.voxel
                )
              end
            end
          end
        end
      end

      # Beyond a plane, at `at` along an axis (0 x, 1 y, 2 z), everything is as on this side of it; or with a period
      # from there on again and again.
      kernel out: F32[3], places: I32[2], cells: Sculpt::Cells, lattice: Grid::Lattice, axis: I32, at: F32, period: F32
      def again(out, places, cells, lattice, axis, at, period)
        parallel(places.dim(0)) do |n|
          16.times do |k|
            16.times do |j|
              16.times do |i|
                x = 16.0 * places[n, 2] + i
                y = 16.0 * places[n, 1] + j
                z = 16.0 * places[n, 0] + k
                first = axis == 0 ? lattice.x : (axis == 1 ? lattice.y : lattice.z)
                here = (axis == 0 ? x : (axis == 1 ? y : z)) - (at - first) / lattice.voxel
                piece = period / lattice.voxel
                turned = period > 0.0 ? here - piece * (here / piece).floor : -here.abs
                other = turned + (at - first) / lattice.voxel
                out[16 * n + k, j, i] = FieldKernels.linear(
                  cells, axis == 0 ? other : x, axis == 1 ? other : y, axis == 2 ? other : z
                )
              end
            end
          end
        end
      end
    end
  end
end
