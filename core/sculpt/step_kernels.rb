# frozen_string_literal: true

module Vumbral
  module Sculpt
    # Loops of the steps that change each value by itself.
    module StepKernels
      extend Kernel::Library

      # Below this nothing is divided by.
      LEAST = 1e-4

      # From distances (below 0 within) to densities: nothing `outside` the surface, `whole` from `inside` of it on.
      kernel out: F32[3], distance: F32[3], inside: F32, outside: F32, whole: F32
      def density(out, distance, inside, outside, whole)
        each_cell(out) do |k, j, i|
          s = ((outside - distance[k, j, i]) / [inside + outside, 1e-6].max).clamp(0.0, 1.0)
          out[k, j, i] = whole * s * s * (3.0 - 2.0 * s)
        end
      end

      # A density as a distance and back, a voxel's length for each unit about its half.
      kernel out: F32[3], density: F32[3], voxel: F32
      def as_distance(out, density, voxel)
        each_cell(out) { |k, j, i| out[k, j, i] = 2.0 * voxel * (0.5 - density[k, j, i]) }
      end

      kernel out: F32[3], distance: F32[3], voxel: F32
      def as_density(out, distance, voxel)
        each_cell(out) { |k, j, i| out[k, j, i] = [0.5 - distance[k, j, i] / (2.0 * voxel), 0.0].max }
      end

      kernel out: F32[3], before: F32[3], by: F32
      def add(out, before, by)
        each_cell(out) { |k, j, i| out[k, j, i] = before[k, j, i] + by }
      end

      kernel out: F32[3], before: F32[3], after: F32[3], part: F32
      def mix(out, before, after, part)
        each_cell(out) { |k, j, i| out[k, j, i] = before[k, j, i] + part * (after[k, j, i] - before[k, j, i]) }
      end

      # A wall of some thickness, half of it to either side of the surface.
      kernel out: F32[3], distance: F32[3], wall: F32
      def shell(out, distance, wall)
        each_cell(out) { |k, j, i| out[k, j, i] = distance[k, j, i].abs - 0.5 * wall }
      end

      # The lesser of two distances, rounded over where they are nearly alike (after Quilez' quadratic blend).
      kernel a: F32, b: F32, blend: F32, returns: F32
      def least(a, b, blend)
        near = blend > 0.0 ? [blend - (a - b).abs, 0.0].max / blend : 0.0
        [a, b].min - 0.25 * near * near * blend
      end

      # Two bodies by their distances: cut (0), union (1), intersection (2).
      kernel out: F32[3], one: F32[3], other: F32[3], how: I32, blend: F32
      def combine(out, one, other, how, blend)
        each_cell(out) do |k, j, i|
          a = one[k, j, i]
          b = other[k, j, i]
          out[k, j, i] = how == 1 ? least(a, b, blend) : -least(-a, how == 0 ? b : -b, blend)
        end
      end

      # A texture's values at each place of bricks, times a number and plus another.
      kernel values: F32[3], places: I32[2], rows: F32[2], lattice: Grid::Lattice, factor: F32, offset: F32
      def texture(values, places, rows, lattice, factor, offset)
        parallel(places.dim(0), uneven: true) do |n|
          spots = local_f32(48)
          found = local_f32(16)
          points = local_f32(20736)
          keys = local_i32(1024)
          Geometry::TextureRows.forget(keys)
          16.times do |k|
            16.times do |j|
              MoveKernels.spots(spots, places, lattice, n, k, j)
              Geometry::TextureRows.row(found, rows, 0, spots, lattice.voxel, points, keys)
              16.times { |i| values[16 * n + k, j, i] = offset + factor * found[i] }
            end
          end
        end
      end

      # Two values by the sum with this number ({Carving::SUMS}).
      kernel out: F32[3], before: F32[3], other: F32[3], sum: I32
      def sum(out, before, other, sum)
        each_cell(out) do |k, j, i|
          a = before[k, j, i]
          b = other[k, j, i]
          found = b
          found = a + b if sum == 0
          found = a - b if sum == 1
          found = a * b if sum == 2
          found = a / (b.abs > LEAST ? b : (b < 0.0 ? -LEAST : LEAST)) if sum == 3
          found = (a - b).abs if sum == 4
          found = [a, b].max if sum == 5
          found = [a, b].min if sum == 6
          found = a + b - 2.0 * a * b if sum == 8
          out[k, j, i] = found
        end
      end

      # What lies between two values, from 0 to 1; nothing between them cuts.
      kernel out: F32[3], before: F32[3], low: F32, high: F32
      def limit(out, before, low, high)
        each_cell(out) do |k, j, i|
          value = before[k, j, i]
          out[k, j, i] = high - low > 1e-6 ? ((value - low) / (high - low)).clamp(0.0, 1.0) : (value >= low ? 1.0 : 0.0)
        end
      end

      # By a curve through values from `low` to `high`; `table` f32 [m].
      kernel out: F32[3], before: F32[3], table: F32[1], low: F32, high: F32
      def remap(out, before, table, low, high)
        each_cell(out) do |k, j, i|
          at = ((before[k, j, i] - low) / (high - low)).clamp(0.0, 1.0) * (table.size - 1)
          n = [at.to_i, table.size - 2].min
          out[k, j, i] = table[n] + (at - n) * (table[n + 1] - table[n])
        end
      end

      # What noise has not yet eaten: the thin goes first. `amount` 0 leaves all, 1 nothing.
      kernel out: F32[3], before: F32[3], noise: F32[3], amount: F32, soft: F32
      def erode(out, before, noise, amount, soft)
        each_cell(out) do |k, j, i|
          value = before[k, j, i]
          lasts = 0.5 * [value, 1.0].min + 0.5 * noise[k, j, i]
          s = ((lasts - amount * (1.0 + soft)) / soft + 1.0).clamp(0.0, 1.0)
          out[k, j, i] = amount > 0.0 ? value * s * s * (3.0 - 2.0 * s) : value
        end
      end

      # Part of the way from one to another, by a mask of 0 to 1, at the cells of bricks.
      kernel out: F32[3], places: I32[2], before: Sculpt::Cells, after: Sculpt::Cells, mask: Sculpt::Cells, part: F32
      def masked(out, places, before, after, mask, part)
        parallel(places.dim(0)) do |n|
          4096.times do |c|
            k = 16 * places[n, 0] + c / 256
            j = 16 * places[n, 1] + c / 16 % 16
            i = 16 * places[n, 2] + c % 16
            value = FieldKernels.at(before, k, j, i)
            share = part * FieldKernels.at(mask, k, j, i).clamp(0.0, 1.0)
            out[16 * n + c / 256, c / 16 % 16, c % 16] = value + share * (FieldKernels.at(after, k, j, i) - value)
          end
        end
      end

      kernel out: F32[3], before: F32[3], factor: F32, offset: F32
      def scaled(out, before, factor, offset)
        each_cell(out) { |k, j, i| out[k, j, i] = offset + factor * before[k, j, i] }
      end

      # From distances to a mask: 1 within, softly to 0 outside.
      kernel out: F32[3], distance: F32[3], soft: F32
      def mask(out, distance, soft)
        each_cell(out) do |k, j, i|
          s = (0.5 - distance[k, j, i] / soft).clamp(0.0, 1.0)
          out[k, j, i] = s * s * (3.0 - 2.0 * s)
        end
      end

      kernel out: F32[3], before: F32[3]
      def inverted(out, before)
        each_cell(out) { |k, j, i| out[k, j, i] = 1.0 - before[k, j, i] }
      end

      # Another array, so many cells aside (x, y, z), less a number; nothing where it does not reach.
      kernel out: F32[3], given: F32[3], shift: I32[1], less: F32
      def shifted(out, given, shift, less)
        each_cell(out) do |k, j, i|
          c = k - shift[2]
          b = j - shift[1]
          a = i - shift[0]
          inside = a >= 0 && b >= 0 && c >= 0 && a < given.dim(2) && b < given.dim(1) && c < given.dim(0)
          value = inside ? given[c.clamp(0, given.dim(0) - 1), b.clamp(0, given.dim(1) - 1), a.clamp(0, given.dim(2) - 1)] - less : 0.0
          out[k, j, i] = value
        end
      end

      # A smaller array at the corner of a larger one.
      kernel out: F32[3], given: F32[3]
      def put(out, given)
        each_cell(given) { |k, j, i| out[k, j, i] = given[k, j, i] }
      end

      # Metres to a box or an ellipsoid (that one nearly); `setting` f32 [6] its middle and half lengths.
      kernel values: F32[3], places: I32[2], lattice: Grid::Lattice, setting: F32[1], round: BOOL, band: F32
      def region(values, places, lattice, setting, round, band)
        parallel(places.dim(0)) do |n|
          16.times do |k|
            z = (lattice.z + (16 * places[n, 0] + k) * lattice.voxel - setting[2]).abs
            16.times do |j|
              y = (lattice.y + (16 * places[n, 1] + j) * lattice.voxel - setting[1]).abs
              16.times do |i|
                x = (lattice.x + (16 * places[n, 2] + i) * lattice.voxel - setting[0]).abs
                far = 0.0
                if round
                  # How far it is by the ellipsoid's own measure, over how fast that grows (Quilez).
                  a = x / setting[3]
                  b = y / setting[4]
                  c = z / setting[5]
                  one = Math.sqrt(a * a + b * b + c * c)
                  slope =
                    Math.sqrt(
                      (a * a) / (setting[3] * setting[3]) + (b * b) / (setting[4] * setting[4]) +
                        (c * c) / (setting[5] * setting[5])
                    )
                  far = slope > 1e-9 ? one * (one - 1.0) / slope : -[setting[3], setting[4], setting[5]].min
                else
                  a = x - setting[3]
                  b = y - setting[4]
                  c = z - setting[5]
                  p = [a, 0.0].max
                  q = [b, 0.0].max
                  r = [c, 0.0].max
                  far = Math.sqrt(p * p + q * q + r * r) + [[a, b, c].max, 0.0].min
                end
                values[16 * n + k, j, i] = far.clamp(-band, band)
              end
            end
          end
        end
      end
    end
  end
end
