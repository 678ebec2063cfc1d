# frozen_string_literal: true

module Vumbral
  module Geometry
    # Textures at sixteen places one after the other: the numbers of {TextureKernels.value}, but what places near to
    # each other have in common is worked out once.
    module TextureRows
      extend Kernel::Library

      # @param places 16 of each x, y, z in the world, metres
      # @param points f32 [20736] the points of cells that were asked for before; @param keys i32 [1024] which cells and
      #   seeds those are ({#forget} comes first)
      kernel out: F32[1], rows: F32[2], n: I32, places: F32[1], width: F32, points: F32[1], keys: I32[1]
      def row(out, rows, n, places, width, points, keys)
        kind = rows[n, TextureKernels::KIND]
        if kind < 1.5
          own = local_f32(48)
          16.times do |c|
            x = places[c]
            y = places[16 + c]
            z = places[32 + c]
            own[c] = rows[n, 1] * x + rows[n, 2] * y + rows[n, 3] * z + rows[n, 4]
            own[16 + c] = rows[n, 5] * x + rows[n, 6] * y + rows[n, 7] * z + rows[n, 8]
            own[32 + c] = rows[n, 9] * x + rows[n, 10] * y + rows[n, 11] * z + rows[n, 12]
          end
          if kind < 0.5
            wide = 0.0
            if width > 0.0
              wide =
                width *
                Math.sqrt(
                  [
                    rows[n, 1] * rows[n, 1] + rows[n, 5] * rows[n, 5] + rows[n, 9] * rows[n, 9],
                    rows[n, 3] * rows[n, 3] + rows[n, 7] * rows[n, 7] + rows[n, 11] * rows[n, 11]
                  ].max
                )
            end
            noise(out, rows, n, own, wide)
          else
            cells(out, rows, n, own, points, keys)
          end
          16.times { |c| out[c] = TextureKernels.finished(rows, n, out[c]) }
        else
          16.times { |c| out[c] = TextureKernels.value(rows, n, places[c], places[16 + c], places[32 + c], width) }
        end
      end

      kernel out: F32[1], rows: F32[2], n: I32, own: F32[1], wide: F32
      def noise(out, rows, n, own, wide)
        octave = local_f32(16)
        again = local_i32(4)
        most = 0.0
        gain = 1.0
        at = 1.0
        which = rows[n, TextureKernels::WHICH]
        16.times { |c| out[c] = 0.0 }
        rows[n, TextureKernels::OCTAVES].to_i.times do |o|
          share = (2.0 - wide * at).clamp(0.0, 1.0)
          16.times { |c| octave[c] = 0.0 }
          TextureKernels.periods(again, rows, n, at)
          if share > 0.0
            Grid::Noise.row(
              octave, own, at, rows[n, TextureKernels::TIME] * at, rows[n, TextureKernels::SEED].to_i * 31 + o, again, 0
            )
          end
          16.times do |c|
            one = share * octave[c]
            one = 2.0 * one.abs - 1.0 if which > 0.5 && which < 1.5
            one = 1.0 - 2.0 * one.abs if which > 1.5
            out[c] = out[c] + gain * one
          end
          most += gain
          gain *= 0.5
          at *= 2.0
        end
        16.times { |c| out[c] = 0.5 + 0.5 * out[c] / most }
      end

      kernel keys: I32[1]
      def forget(keys)
        256.times { |n| keys[4 * n + 3] = -1 }
      end

      kernel out: F32[1], rows: F32[2], n: I32, own: F32[1], points: F32[1], keys: I32[1]
      def cells(out, rows, n, own, points, keys)
        again = local_i32(4)
        scaled = local_f32(48)
        near = local_f32(16)
        second = local_f32(16)
        most = 0.0
        gain = 1.0
        at = 1.0
        16.times { |c| out[c] = 0.0 }
        rows[n, TextureKernels::OCTAVES].to_i.times do |o|
          seed = rows[n, TextureKernels::SEED].to_i * 31 + o
          TextureKernels.periods(again, rows, n, at)
          48.times { |c| scaled[c] = own[c] * at }
          first = 0
          while first < 16
            i = scaled[first].floor
            j = scaled[16 + first].floor
            k = scaled[32 + first].floor
            # Those that lie in one cell have the same points around them.
            last = first + 1
            while last < 16 && scaled[last].floor == i && scaled[16 + last].floor == j && scaled[32 + last].floor == k
              last += 1
            end
            slot = 64 * (o & 3) + 16 * (k & 3) + 4 * (j & 3) + (i & 3)
            around(points, slot, i, j, k, seed, again) unless known(keys, slot, i, j, k, seed)
            nearest(near, second, scaled, points, 81 * slot)
            (first...last).each do |c|
              out[c] = out[c] + gain * TextureKernels.measured(rows, n, Math.sqrt(near[c]), Math.sqrt(second[c]))
            end
            first = last
          end
          most += gain
          gain *= 0.5
          at *= 2.0
        end
        16.times { |c| out[c] = out[c] / most }
      end

      # Squared distances of a row of places to the nearest two of the points about a cell; of all, for that is sooner
      # done, though only those in the cell count.
      kernel near: F32[1], second: F32[1], places: F32[1], points: F32[1], at: I32
      def nearest(near, second, places, points, at)
        16.times do |c|
          near[c] = 9.0
          second[c] = 9.0
        end
        27.times do |m|
          x = points[at + 3 * m]
          y = points[at + 3 * m + 1]
          z = points[at + 3 * m + 2]
          16.times do |c|
            p = x - places[c]
            q = y - places[16 + c]
            r = z - places[32 + c]
            far = p * p + q * q + r * r
            second[c] = (far < near[c]) ? near[c] : [second[c], far].min
            near[c] = [near[c], far].min
          end
        end
      end

      # Whether the points about a cell are there; from now on they are.
      kernel keys: I32[1], slot: I32, i: I32, j: I32, k: I32, seed: I32, returns: BOOL
      def known(keys, slot, i, j, k, seed)
        found = keys[4 * slot + 3] == seed && keys[4 * slot] == i && keys[4 * slot + 1] == j && keys[4 * slot + 2] == k
        keys[4 * slot] = i
        keys[4 * slot + 1] = j
        keys[4 * slot + 2] = k
        keys[4 * slot + 3] = seed
        found
      end

      # The points of a cell and of those around it.
      kernel points: F32[1], slot: I32, i: I32, j: I32, k: I32, seed: I32, again: I32[1]
      def around(points, slot, i, j, k, seed, again)
        27.times do |m|
          x = m % 3 - 1
          y = m / 3 % 3 - 1
          z = m / 9 - 1
          u = Grid::Noise.wrapped(i + x, again[0])
          v = Grid::Noise.wrapped(j + y, again[1])
          w = Grid::Noise.wrapped(k + z, again[2])
          points[81 * slot + 3 * m] = i + x + Grid::Noise.lattice(u, v, w, 0, seed)
          points[81 * slot + 3 * m + 1] = j + y + Grid::Noise.lattice(u, v, w, 1, seed)
          points[81 * slot + 3 * m + 2] = k + z + Grid::Noise.lattice(u, v, w, 2, seed)
        end
      end
    end
  end
end
