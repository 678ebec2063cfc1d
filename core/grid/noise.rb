# frozen_string_literal: true

module Vumbral
  module Grid
    # Repeatable noise: the same place, time and seed give the same number on every machine.
    module Noise
      extend Kernel::Library

      # A well-mixed 32-bit number for a lattice point.
      kernel x: I32, y: I32, z: I32, t: I32, seed: I32, returns: I64
      def hash4(x, y, z, t, seed)
        h = (i64(x) * 73_856_093 ^ i64(y) * 19_349_663 ^ i64(z) * 83_492_791 ^ i64(t) * 49_979_687 ^ i64(seed) *
          67_867_979) & 0xffffffff
        h = ((h ^ (h >> 15)) * 739_982_445) & 0xffffffff
        h = ((h ^ (h >> 12)) * 695_872_825) & 0xffffffff
        h ^ (h >> 15)
      end

      # 0 to 1 at a lattice point.
      kernel x: I32, y: I32, z: I32, t: I32, seed: I32, returns: F32
      def lattice(x, y, z, t, seed)
        (hash4(x, y, z, t, seed) & 0xffffff).to_f / 16_777_215.0
      end

      # Value noise in space and time, -1 to 1, one feature a unit; smooth to the second
      # derivative in space (Perlin's 2002 fade).
      kernel x: F32, y: F32, z: F32, t: F32, seed: I32, returns: F32
      def value(x, y, z, t, seed)
        i = x.floor
        j = y.floor
        k = z.floor
        l = t.floor
        fx = fade(x - i)
        fy = fade(y - j)
        fz = fade(z - k)
        ft = fade(t - l)
        a = lattice_at(i, j, k, l, ft, seed)
        b = lattice_at(i + 1, j, k, l, ft, seed)
        c = lattice_at(i, j + 1, k, l, ft, seed)
        d = lattice_at(i + 1, j + 1, k, l, ft, seed)
        e = lattice_at(i, j, k + 1, l, ft, seed)
        f = lattice_at(i + 1, j, k + 1, l, ft, seed)
        g = lattice_at(i, j + 1, k + 1, l, ft, seed)
        h = lattice_at(i + 1, j + 1, k + 1, l, ft, seed)
        front = (a + fx * (b - a)) + fy * ((c + fx * (d - c)) - (a + fx * (b - a)))
        back = (e + fx * (f - e)) + fy * ((g + fx * (h - g)) - (e + fx * (f - e)))
        2.0 * (front + fz * (back - front)) - 1.0
      end

      # {#value} at sixteen places one after the other: `places` are 16 of each x, y, z, multiplied by `scale`. What
      # stands at the corners around a place is asked for again only where it leaves them.
      # `period` i32 [4]: after so many features along x, y, z and in time it is the same again; 0 never.
      # Those before `from` are left out.
      kernel out: F32[1], places: F32[1], scale: F32, t: F32, seed: I32, period: I32[1], from: I32
      def row(out, places, scale, t, seed, period, from)
        ends = local_i32(8)
        corners = local_f32(8)
        l = t.floor
        ft = fade(t - l)
        ends[6] = wrapped(l, period[3])
        ends[7] = wrapped(l + 1, period[3])
        first = from
        while first < 16
          right = ends[1]
          up = ends[2]
          back = ends[4]
          last = cell(ends, places, scale, first, period)
          # Next to the one before, half of its corners are known.
          if first > from && ends[0] == right && ends[2] == up && ends[4] == back
            4.times do |c|
              corners[2 * c] = corners[2 * c + 1]
              corners[2 * c + 1] = between(ends, 2 * c + 1, ft, seed)
            end
          else
            8.times { |c| corners[c] = between(ends, c, ft, seed) }
          end
          mix(out, 0, places, scale, corners, 0, first, last)
          first = last
        end
      end

      # The cell that a place lies in, as its two ends along each axis; whole divisions are slow, so each is done once
      # for all corners.
      # @return where those after it lie in another
      kernel ends: I32[1], places: F32[1], scale: F32, first: I32, period: I32[1], returns: I32
      def cell(ends, places, scale, first, period)
        i = (scale * places[first]).floor
        j = (scale * places[16 + first]).floor
        k = (scale * places[32 + first]).floor
        last = first + 1
        while last < 16 && (scale * places[last]).floor == i && (scale * places[16 + last]).floor == j &&
            (scale * places[32 + last]).floor == k
          last += 1
        end
        ends[0] = wrapped(i, period[0])
        ends[1] = wrapped(i + 1, period[0])
        ends[2] = wrapped(j, period[1])
        ends[3] = wrapped(j + 1, period[1])
        ends[4] = wrapped(k, period[2])
        ends[5] = wrapped(k + 1, period[2])
        last
      end

      # Between the eight corners of one cell, from `at` on in theirs, at some places of it.
      kernel out: F32[1], to: I32, places: F32[1], scale: F32, corners: F32[1], at: I32, first: I32, last: I32
      def mix(out, to, places, scale, corners, at, first, last)
        i = (scale * places[first]).floor.to_f
        j = (scale * places[16 + first]).floor.to_f
        k = (scale * places[32 + first]).floor.to_f
        a = corners[at]
        b = corners[at + 1]
        c = corners[at + 2]
        d = corners[at + 3]
        e = corners[at + 4]
        f = corners[at + 5]
        g = corners[at + 6]
        h = corners[at + 7]
        (first...last).each do |n|
          fx = fade(scale * places[n] - i)
          fy = fade(scale * places[16 + n] - j)
          fz = fade(scale * places[32 + n] - k)
          front = (a + fx * (b - a)) + fy * ((c + fx * (d - c)) - (a + fx * (b - a)))
          back = (e + fx * (f - e)) + fy * ((g + fx * (h - g)) - (e + fx * (f - e)))
          out[to + n] = 2.0 * (front + fz * (back - front)) - 1.0
        end
      end

      # Three noises at once at sixteen places, one behind the other in `out`, whose corners share what is worked out of
      # a place; otherwise as {#row}. What stands at the corners of a cell is kept for the rows around it: `kept` f32
      # [6144] with what is there, `keys` i32 [1024] of which cell and seed it is ({#forget} comes first); of one time,
      # and of one period for each seed.
      kernel out: F32[1], places: F32[1], scale: F32, t: F32, seed: I32, period: I32[1], kept: F32[1], keys: I32[1]
      def three(out, places, scale, t, seed, period, kept, keys)
        later = local_f32(24)
        ends = local_i32(8)
        l = t.floor
        ft = fade(t - l)
        ends[6] = wrapped(l, period[3])
        ends[7] = wrapped(l + 1, period[3])
        first = 0
        while first < 16
          i = (scale * places[first]).floor
          j = (scale * places[16 + first]).floor
          k = (scale * places[32 + first]).floor
          slot = 64 * (seed & 3) + 16 * (k & 3) + 4 * (j & 3) + (i & 3)
          last = cell(ends, places, scale, first, period)
          unless keys[4 * slot + 3] == seed && keys[4 * slot] == i && keys[4 * slot + 1] == j && keys[4 * slot + 2] == k
            keys[4 * slot] = i
            keys[4 * slot + 1] = j
            keys[4 * slot + 2] = k
            keys[4 * slot + 3] = seed
            8.times { |c| triple(kept, 24 * slot, c, ends, ends[6], seed) }
            if ft != 0.0
              8.times { |c| triple(later, 0, c, ends, ends[7], seed) }
              24.times { |c| kept[24 * slot + c] = kept[24 * slot + c] + ft * (later[c] - kept[24 * slot + c]) }
            end
          end
          blend(out, places, scale, kept, 24 * slot, first, last)
          first = last
        end
      end

      # {#mix} of three at once, for a whole row, of which only those from one to before another count.
      kernel out: F32[1], places: F32[1], scale: F32, corners: F32[1], at: I32, first: I32, last: I32
      def blend(out, places, scale, corners, at, first, last)
        i = (scale * places[first]).floor.to_f
        j = (scale * places[16 + first]).floor.to_f
        k = (scale * places[32 + first]).floor.to_f
        fx = local_f32(16)
        fy = local_f32(16)
        fz = local_f32(16)
        16.times do |n|
          fx[n] = fade(scale * places[n] - i)
          fy[n] = fade(scale * places[16 + n] - j)
          fz[n] = fade(scale * places[32 + n] - k)
        end
        3.times do |axis|
          c = at + 8 * axis
          16.times do |n|
            front = (corners[c] + fx[n] * (corners[c + 1] - corners[c])) +
              fy[n] * ((corners[c + 2] + fx[n] * (corners[c + 3] - corners[c + 2])) -
                (corners[c] + fx[n] * (corners[c + 1] - corners[c])))
            back = (corners[c + 4] + fx[n] * (corners[c + 5] - corners[c + 4])) +
              fy[n] * ((corners[c + 6] + fx[n] * (corners[c + 7] - corners[c + 6])) -
                (corners[c + 4] + fx[n] * (corners[c + 5] - corners[c + 4])))
            found = 2.0 * (front + fz[n] * (back - front)) - 1.0
            out[16 * axis + n] = n >= first && n < last ? found : out[16 * axis + n]
          end
        end
      end

      # No cell is known any more.
      kernel keys: I32[1]
      def forget(keys)
        256.times { |n| keys[4 * n + 3] = -1 }
      end

      # 0 to 1 at corner `c` of a cell, smoothly from one time to the next; `ends` i32 [8] the cell's numbers along x,
      # y, z and in time, each with the one after it.
      kernel ends: I32[1], c: I32, ft: F32, seed: I32, returns: F32
      def between(ends, c, ft, seed)
        found = lattice(ends[c & 1], ends[2 + ((c >> 1) & 1)], ends[4 + (c >> 2)], ends[6], seed)
        if ft != 0.0
          found +=
            ft * (lattice(ends[c & 1], ends[2 + ((c >> 1) & 1)], ends[4 + (c >> 2)], ends[7], seed) - found)
        end
        found
      end

      # Three numbers of 0 to 1 at such a corner, put where those of its cell begin.
      kernel corners: F32[1], at: I32, c: I32, ends: I32[1], t: I32, seed: I32
      def triple(corners, at, c, ends, t, seed)
        h = hash4(ends[c & 1], ends[2 + ((c >> 1) & 1)], ends[4 + (c >> 2)], t, seed)
        corners[at + c] = (h & 0xffffff).to_f / 16_777_215.0
        g = (h * 747_796_405 + 2_891_336_453) & 0xffffffff
        g = ((g ^ (g >> 15)) * 739_982_445) & 0xffffffff
        g ^= g >> 12
        corners[at + 8 + c] = (g & 0xffffff).to_f / 16_777_215.0
        g = (g * 695_872_825 + 12_345) & 0xffffffff
        g ^= g >> 15
        corners[at + 16 + c] = (g & 0xffffff).to_f / 16_777_215.0
      end

      # {#lattice_at} of a lattice that repeats.
      kernel x: I32, y: I32, z: I32, t: I32, ft: F32, seed: I32, period: I32[1], returns: F32
      def looping(x, y, z, t, ft, seed, period)
        i = wrapped(x, period[0])
        j = wrapped(y, period[1])
        k = wrapped(z, period[2])
        found = lattice(i, j, k, wrapped(t, period[3]), seed)
        found += ft * (lattice(i, j, k, wrapped(t + 1, period[3]), seed) - found) if ft != 0.0
        found
      end

      # A whole number that begins again after a period; 0 never.
      kernel n: I32, period: I32, returns: I32
      def wrapped(n, period)
        period > 0 ? ((n % period) + period) % period : n
      end

      # Between two times, smoothly; at a whole one only that counts.
      kernel x: I32, y: I32, z: I32, t: I32, ft: F32, seed: I32, returns: F32
      def lattice_at(x, y, z, t, ft, seed)
        found = lattice(x, y, z, t, seed)
        found += ft * (lattice(x, y, z, t + 1, seed) - found) if ft != 0.0
        found
      end

      # The same in space alone, with how steeply it rises along x, y, z.
      kernel x: F32, y: F32, z: F32, seed: I32, returns: [F32, F32, F32, F32]
      def slope(x, y, z, seed)
        i = x.floor
        j = y.floor
        k = z.floor
        fx = fade(x - i)
        fy = fade(y - j)
        fz = fade(z - k)
        a = lattice(i, j, k, 0, seed)
        ab = lattice(i + 1, j, k, 0, seed) - a
        c = lattice(i, j + 1, k, 0, seed)
        cd = lattice(i + 1, j + 1, k, 0, seed) - c
        e = lattice(i, j, k + 1, 0, seed)
        ef = lattice(i + 1, j, k + 1, 0, seed) - e
        g = lattice(i, j + 1, k + 1, 0, seed)
        gh = lattice(i + 1, j + 1, k + 1, 0, seed) - g
        low = a + fx * ab
        high = c + fx * cd
        under = e + fx * ef
        over = g + fx * gh
        front = low + fy * (high - low)
        back = under + fy * (over - under)
        along = (ab + fy * (cd - ab)) + fz * ((ef + fy * (gh - ef)) - (ab + fy * (cd - ab)))
        up = (high - low) + fz * ((over - under) - (high - low))
        return 2.0 * (front + fz * (back - front)) - 1.0, 2.0 * rising(x - i) * along, 2.0 * rising(y - j) * up,
          2.0 * rising(z - k) * (back - front)
      end

      # How steeply {#fade} rises.
      kernel s: F32, returns: F32
      def rising(s)
        30.0 * s * s * (s * (s - 2.0) + 1.0)
      end

      kernel s: F32, returns: F32
      def fade(s)
        s * s * s * (s * (s * 6.0 - 15.0) + 10.0)
      end
    end
  end
end
