# frozen_string_literal: true

module Vumbral
  module Sculpt
    # Loops over the bricks of a {Field}.
    module FieldKernels
      extend Kernel::Library

      # The value of a cell; beyond the edge as at it.
      kernel cells: Sculpt::Cells, k: I32, j: I32, i: I32, returns: F32
      def at(cells, k, j, i)
        z = k.clamp(0, 16 * cells.tiles.dim(0) - 1)
        y = j.clamp(0, 16 * cells.tiles.dim(1) - 1)
        x = i.clamp(0, 16 * cells.tiles.dim(2) - 1)
        brick = cells.index[z / 16, y / 16, x / 16]
        brick < 0 ? cells.tiles[z / 16, y / 16, x / 16] : cells.values[16 * brick + z % 16, y % 16, x % 16]
      end

      # The sixteen values of a row of a brick's place, put from `to` on; beyond the edge as at it.
      kernel out: F32[1], to: I32, cells: Sculpt::Cells, k: I32, j: I32, brick: I32
      def row(out, to, cells, k, j, brick)
        z = k.clamp(0, 16 * cells.tiles.dim(0) - 1)
        y = j.clamp(0, 16 * cells.tiles.dim(1) - 1)
        found = cells.index[z / 16, y / 16, brick]
        if found < 0
          tile = cells.tiles[z / 16, y / 16, brick]
          16.times { |i| out[to + i] = tile }
        else
          16.times { |i| out[to + i] = cells.values[16 * found + z % 16, y % 16, i] }
        end
      end

      # Between cells, at a place counted in them.
      kernel cells: Sculpt::Cells, x: F32, y: F32, z: F32, returns: F32
      def linear(cells, x, y, z)
        i = x.floor
        j = y.floor
        k = z.floor
        fx = x - i
        fy = y - j
        fz = z - k
        brick = 0
        inside =
          i >= 0 && j >= 0 && k >= 0 && i < 16 * cells.tiles.dim(2) - 1 && j < 16 * cells.tiles.dim(1) - 1 &&
          k < 16 * cells.tiles.dim(0) - 1
        p = i & 15
        q = j & 15
        r = k & 15
        # Mostly all eight lie in one brick.
        inside = inside && p < 15 && q < 15 && r < 15
        brick = cells.index[k >> 4, j >> 4, i >> 4] if inside
        a = 0.0
        b = 0.0
        c = 0.0
        d = 0.0
        if inside && brick < 0
          a = cells.tiles[k >> 4, j >> 4, i >> 4]
          b = a
          c = a
          d = a
        elsif inside
          l = 16 * brick + r
          a = cells.values[l, q, p]
          b = cells.values[l, q + 1, p]
          c = cells.values[l + 1, q, p]
          d = cells.values[l + 1, q + 1, p]
          a += fx * (cells.values[l, q, p + 1] - a)
          b += fx * (cells.values[l, q + 1, p + 1] - b)
          c += fx * (cells.values[l + 1, q, p + 1] - c)
          d += fx * (cells.values[l + 1, q + 1, p + 1] - d)
        else
          a = at(cells, k, j, i)
          b = at(cells, k, j + 1, i)
          c = at(cells, k + 1, j, i)
          d = at(cells, k + 1, j + 1, i)
          a += fx * (at(cells, k, j, i + 1) - a)
          b += fx * (at(cells, k, j + 1, i + 1) - b)
          c += fx * (at(cells, k + 1, j, i + 1) - c)
          d += fx * (at(cells, k + 1, j + 1, i + 1) - d)
        end
        low = a + fy * (b - a)
        low + fz * (c + fy * (d - c) - low)
      end

      kernel out: U8[3], index: I32[3]
      def marks(out, index)
        each_cell(out) { |k, j, i| out[k, j, i] = index[k, j, i] >= 0 ? 1 : 0 }
      end

      kernel out: U8[3], index: I32[3], tiles: F32[3]
      def filled(out, index, tiles)
        each_cell(out) { |k, j, i| out[k, j, i] = index[k, j, i] >= 0 || tiles[k, j, i] != 0.0 ? 1 : 0 }
      end

      # Marks bricks within `reach` of one that is there, or of another number than theirs.
      kernel out: U8[3], index: I32[3], tiles: F32[3], reach: I32
      def near(out, index, tiles, reach)
        each_cell(out) do |k, j, i|
          found = index[k, j, i] >= 0 ? 1 : 0
          ([k - reach, 0].max..[k + reach, out.dim(0) - 1].min).each do |c|
            ([j - reach, 0].max..[j + reach, out.dim(1) - 1].min).each do |b|
              ([i - reach, 0].max..[i + reach, out.dim(2) - 1].min).each do |a|
                found = 1 if index[c, b, a] >= 0 || tiles[c, b, a] != tiles[k, j, i]
              end
            end
          end
          out[k, j, i] = found
        end
      end

      # Which bricks are alike all through.
      kernel out: U8[1], values: F32[3]
      def alike(out, values)
        parallel(out.size) do |n|
          first = values[16 * n, 0, 0]
          same = 1
          16.times do |k|
            if same == 1
              16.times { |j| 16.times { |i| same = 0 if values[16 * n + k, j, i] != first } }
            end
          end
          out[n] = same
        end
      end

      # The number of each brick that is alike goes where it stood.
      kernel tiles: F32[3], values: F32[3], places: I32[2], alike: U8[1]
      def lay(tiles, values, places, alike)
        alike.size.times do |n|
          if alike[n] == 1
            tiles[places[n, 0], places[n, 1], places[n, 2]] = values[16 * n, 0, 0]
          end
        end
      end

      # Bricks at other places, from what was there.
      kernel moved: F32[3], index: I32[3], places: I32[2], cells: Sculpt::Cells
      def move(moved, index, places, cells)
        parallel(places.dim(0)) do |n|
          z = places[n, 0]
          y = places[n, 1]
          x = places[n, 2]
          index[z, y, x] = n
          brick = cells.index[z, y, x]
          tile = cells.tiles[z, y, x]
          16.times do |k|
            16.times do |j|
              16.times { |i| moved[16 * n + k, j, i] = brick < 0 ? tile : cells.values[16 * brick + k, j, i] }
            end
          end
        end
      end

      kernel out: F32[3], cells: Sculpt::Cells
      def spread(out, cells)
        each_cell(out) { |k, j, i| out[k, j, i] = at(cells, k, j, i) }
      end

      kernel values: F32[3], dense: F32[3], places: I32[2]
      def gather(values, dense, places)
        parallel(places.dim(0)) do |n|
          16.times do |k|
            16.times do |j|
              16.times do |i|
                values[16 * n + k, j, i] = dense[16 * places[n, 0] + k, 16 * places[n, 1] + j, 16 * places[n, 2] + i]
              end
            end
          end
        end
      end

      # The first channel of bricks. @param from f16 [n, channels, 4096]
      kernel values: F32[3], from: F16[3]
      def unpack(values, from)
        parallel(from.dim(0)) do |n|
          16.times do |k|
            16.times { |j| 16.times { |i| values[16 * n + k, j, i] = from[n, 0, (16 * k + j) * 16 + i] } }
          end
        end
      end

      # Cells from `first` (z, y, x) on as distances below 0 within, and outside in the two layers around.
      kernel out: F32[3], cells: Sculpt::Cells, first: I32[1], level: F32, distance: BOOL
      def beneath(out, cells, first, level, distance)
        each_cell(out) do |k, j, i|
          value = at(cells, first[0] + k, first[1] + j, first[2] + i)
          found = distance ? value - level : level - value
          edge = k < 2 || j < 2 || i < 2 || k > out.dim(0) - 3 || j > out.dim(1) - 3 || i > out.dim(2) - 3
          # A value that is exactly the level would make faces without area.
          found = 1e-7 if found == 0.0
          # Nothing beyond.
          beyond = distance ? [found.abs, 1e-4].max : [level, 1e-4].max
          out[k, j, i] = edge ? beyond : found
        end
      end

      # Marks where two on the same bricks are not the same.
      kernel out: U8[3], one: Sculpt::Cells, other: Sculpt::Cells
      def differing(out, one, other)
        each_cell(out) do |k, j, i|
          out[k, j, i] = one.index[k, j, i] >= 0 || other.index[k, j, i] >= 0 || one.tiles[k, j, i] != other.tiles[k, j, i] ? 1 : 0
        end
      end

      # The greatest value, and how many are more than a hundredth.
      kernel values: F32[3], returns: [F64, F64]
      def held(values)
        most = parallel_max(values.dim(0)) do |k|
          found = f64(0.0)
          values.dim(1).times { |j| values.dim(2).times { |i| found = [found, f64(values[k, j, i])].max } }
          found
        end
        count = parallel_sum(values.dim(0)) do |k|
          found = f64(0.0)
          values.dim(1).times { |j| values.dim(2).times { |i| found += values[k, j, i] > 0.01 ? 1.0 : 0.0 } }
          found
        end
        return most, count
      end

      # How often values come up between two ends: `out` i32 [bins].
      kernel out: I32[1], values: F32[3], low: F32, high: F32
      def tally(out, values, low, high)
        per = out.size / (high - low)
        values.dim(0).times do |k|
          values.dim(1).times do |j|
            values.dim(2).times do |i|
              at = ((values[k, j, i] - low) * per).floor
              out[at] = out[at] + 1 if at >= 0 && at < out.size
            end
          end
        end
      end

      kernel one: U8[3], other: U8[3]
      def either(one, other)
        each_cell(one) { |k, j, i| one[k, j, i] = 1 if other[k, j, i] == 1 }
      end

      # One channel of a frame's bricks, held to what a half can say.
      kernel out: F16[3], places: I32[2], cells: Sculpt::Cells, channel: I32
      def pack(out, places, cells, channel)
        parallel(places.dim(0)) do |n|
          4096.times do |c|
            out[n, channel, c] = at(
              cells, 16 * places[n, 0] + c / 256, 16 * places[n, 1] + c / 16 % 16, 16 * places[n, 2] + c % 16
            ).clamp(-65_000.0, 65_000.0)
          end
        end
      end

      # Between cells at places in even steps: `setting` f32 [4] the corner of the first (cells) and the step. Nothing
      # beyond the edge.
      kernel out: F32[3], cells: Sculpt::Cells, setting: F32[1]
      def cube(out, cells, setting)
        each_cell(out) do |k, j, i|
          x = setting[0] + (i + 0.5) * setting[3] - 0.5
          y = setting[1] + (j + 0.5) * setting[3] - 0.5
          z = setting[2] + (k + 0.5) * setting[3] - 0.5
          inside =
            x > -0.5 && y > -0.5 && z > -0.5 && x < 16.0 * cells.tiles.dim(2) - 0.5 &&
            y < 16.0 * cells.tiles.dim(1) - 0.5 && z < 16.0 * cells.tiles.dim(0) - 0.5
          out[k, j, i] = inside ? linear(cells, x, y, z) : 0.0
        end
      end

      # Another field, on a lattice of its own, at the cells of bricks; beyond it a number. `m` f32 [12] leads from the
      # world to where it was, if it stands elsewhere now.
      kernel values: F32[3], places: I32[2], lattice: Grid::Lattice, cells: Sculpt::Cells, from: Grid::Lattice,
        m: F32[1], beyond: F32
      def placed(values, places, lattice, cells, from, m, beyond)
        parallel(places.dim(0)) do |n|
          per = 1.0 / from.voxel
          nz = 16.0 * cells.tiles.dim(0)
          ny = 16.0 * cells.tiles.dim(1)
          nx = 16.0 * cells.tiles.dim(2)
          16.times do |k|
            z = lattice.z + (16 * places[n, 0] + k) * lattice.voxel
            16.times do |j|
              y = lattice.y + (16 * places[n, 1] + j) * lattice.voxel
              16.times do |i|
                x = lattice.x + (16 * places[n, 2] + i) * lattice.voxel
                a = (m[0] * x + m[1] * y + m[2] * z + m[3] - from.x) * per
                b = (m[4] * x + m[5] * y + m[6] * z + m[7] - from.y) * per
                c = (m[8] * x + m[9] * y + m[10] * z + m[11] - from.z) * per
                inside = a > -0.5 && b > -0.5 && c > -0.5 && a < nx - 0.5 && b < ny - 0.5 && c < nz - 0.5
                values[16 * n + k, j, i] = inside ? linear(cells, a, b, c) : beyond
              end
            end
          end
        end
      end

      # Marks the bricks of a lattice into which something of another field comes.
      kernel marks: U8[3], lattice: Grid::Lattice, cells: Sculpt::Cells, from: Grid::Lattice
      def reached(marks, lattice, cells, from)
        each_cell(marks) do |k, j, i|
          per = 0.0625 / from.voxel
          wide = 16.0 * lattice.voxel * per
          # In bricks of the other, with a cell more on either side.
          z = (lattice.z + (16 * k - 0.5) * lattice.voxel - from.z + 0.5 * from.voxel) * per
          y = (lattice.y + (16 * j - 0.5) * lattice.voxel - from.y + 0.5 * from.voxel) * per
          x = (lattice.x + (16 * i - 0.5) * lattice.voxel - from.x + 0.5 * from.voxel) * per
          found = 0
          ([(z - 0.07).floor, 0].max..[(z + wide + 0.07).floor, cells.tiles.dim(0) - 1].min).each do |c|
            ([(y - 0.07).floor, 0].max..[(y + wide + 0.07).floor, cells.tiles.dim(1) - 1].min).each do |b|
              ([(x - 0.07).floor, 0].max..[(x + wide + 0.07).floor, cells.tiles.dim(2) - 1].min).each do |a|
                found = 1 if cells.index[c, b, a] >= 0 || cells.tiles[c, b, a] != 0.0
              end
            end
          end
          marks[k, j, i] = found
        end
      end
    end
  end
end
