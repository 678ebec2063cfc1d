# frozen_string_literal: true

module Vumbral
  module Geometry
    # What a texture is at a place: rows as {Textures} makes them.
    module TextureKernels
      extend Kernel::Library

      KIND, SPACE, SEED, TIME, OCTAVES, WHICH, FIRST, SECOND, THIRD = 0, 1, 13, 14, 15, 16, 17, 18, 19
      BRIGHTNESS, GAMMA, CONTRAST, INVERTED, FACTOR, CELL, GAP, RAMPED, PERIOD, RAMP, STOPS = 20, 21, 22, 23, 24, 25, 26, 27, 28, 32, 32

      # @param n which; the place is in the world, metres; octaves much finer than `width` are left out, for what looks
      #   in such steps sees their mean
      kernel rows: F32[2], n: I32, x: F32, y: F32, z: F32, width: F32, returns: F32
      def value(rows, n, x, y, z, width)
        a = rows[n, 1] * x + rows[n, 2] * y + rows[n, 3] * z + rows[n, 4]
        b = rows[n, 5] * x + rows[n, 6] * y + rows[n, 7] * z + rows[n, 8]
        c = rows[n, 9] * x + rows[n, 10] * y + rows[n, 11] * z + rows[n, 12]
        kind = rows[n, KIND]
        found = 0.0
        # In features, by the way that is stretched least.
        wide = 0.0
        wide = width * Math.sqrt([rows[n, 1] * rows[n, 1] + rows[n, 5] * rows[n, 5] + rows[n, 9] * rows[n, 9], rows[n, 3] * rows[n, 3] + rows[n, 7] * rows[n, 7] + rows[n, 11] * rows[n, 11]].max) if width > 0.0
        if kind < 0.5
          found = noise(rows, n, a, b, c, wide)
        elsif kind < 1.5
          found = cells(rows, n, a, b, c)
        elsif kind < 2.5
          found = band(rows, n, rows[n, FIRST] * noise(rows, n, a, b, c, wide))
        elsif kind < 3.5
          along = rows[n, WHICH] > 0.5 ? Math.sqrt(a * a + c * c) : a
          along += rows[n, FIRST] * (2.0 * noise(rows, n, a, b, c, wide) - 1.0) if rows[n, FIRST] > 0.0
          found = band(rows, n, along)
        elsif kind < 4.5
          found = fall(rows, n, a, b, c)
        elsif kind < 5.5
          found = picture(rows, n, a, b)
        else
          found = lattice(rows, n, a, b, c)
        end
        finished(rows, n, found)
      end

      # 0 to 1, one feature a unit.
      kernel rows: F32[2], n: I32, a: F32, b: F32, c: F32, wide: F32, returns: F32
      def noise(rows, n, a, b, c, wide)
        sum = 0.0
        most = 0.0
        gain = 1.0
        at = 1.0
        again = local_i32(4)
        place = local_f32(48)
        row = local_f32(16)
        loops = rows[n, PERIOD] + rows[n, PERIOD + 1] + rows[n, PERIOD + 2] + rows[n, PERIOD + 3] > 0.0
        rows[n, OCTAVES].to_i.times do |o|
          share = (2.0 - wide * at).clamp(0.0, 1.0)
          one = 0.0
          if share > 0.0 && loops
            periods(again, rows, n, at)
            # The last of a row alone.
            place[15] = a
            place[31] = b
            place[47] = c
            Grid::Noise.row(row, place, at, rows[n, TIME] * at, rows[n, SEED].to_i * 31 + o, again, 15)
            one = share * row[15]
          elsif share > 0.0
            one = share * one_noise(a * at, b * at, c * at, rows[n, TIME] * at, rows[n, SEED].to_i * 31 + o)
          end
          # Billows are puffed up from below, ridges are where it changes its sign.
          one = 2.0 * one.abs - 1.0 if rows[n, WHICH] > 0.5 && rows[n, WHICH] < 1.5
          one = 1.0 - 2.0 * one.abs if rows[n, WHICH] > 1.5
          sum += gain * one
          most += gain
          gain *= 0.5
          at *= 2.0
        end
        0.5 + 0.5 * sum / most
      end

      # After how many features of an octave a texture is the same again.
      kernel again: I32[1], rows: F32[2], n: I32, at: F32
      def periods(again, rows, n, at)
        4.times { |c| again[c] = (rows[n, PERIOD + c] * at + 0.5).to_i }
      end

      # What does not change is sooner said.
      kernel a: F32, b: F32, c: F32, t: F32, seed: I32, returns: F32
      def one_noise(a, b, c, t, seed)
        found = 0.0
        if t == 0.0
          found, _x, _y, _z = Grid::Noise.slope(a, b, c, seed)
        else
          found = Grid::Noise.value(a, b, c, t, seed)
        end
        found
      end

      # Distances to points, one in each cell of a grid (Worley 1996).
      kernel rows: F32[2], n: I32, a: F32, b: F32, c: F32, returns: F32
      def cells(rows, n, a, b, c)
        sum = 0.0
        most = 0.0
        gain = 1.0
        at = 1.0
        again = local_i32(4)
        rows[n, OCTAVES].to_i.times do |o|
          periods(again, rows, n, at)
          near, second = nearest(a * at, b * at, c * at, rows[n, SEED].to_i * 31 + o, again)
          sum += gain * measured(rows, n, near, second)
          most += gain
          gain *= 0.5
          at *= 2.0
        end
        sum / most
      end

      # What counts of how far the nearest point is and the second.
      kernel rows: F32[2], n: I32, near: F32, second: F32, returns: F32
      def measured(rows, n, near, second)
        one = rows[n, WHICH] < 0.5 ? near : second
        if rows[n, WHICH] > 1.5
          # From the gap into the cell, over a fifth of the gap.
          s = ((second - near - rows[n, FIRST]) / (0.2 * rows[n, FIRST] + 0.01)).clamp(0.0, 1.0)
          one = rows[n, GAP] + s * (rows[n, CELL] - rows[n, GAP])
        end
        one
      end

      kernel a: F32, b: F32, c: F32, seed: I32, again: I32[1], returns: [F32, F32]
      def nearest(a, b, c, seed, again)
        i = a.floor
        j = b.floor
        k = c.floor
        near = 9.0
        second = 9.0
        (-1..1).each do |z|
          (-1..1).each do |y|
            (-1..1).each do |x|
              u = Grid::Noise.wrapped(i + x, again[0])
              v = Grid::Noise.wrapped(j + y, again[1])
              w = Grid::Noise.wrapped(k + z, again[2])
              p = i + x + Grid::Noise.lattice(u, v, w, 0, seed) - a
              q = j + y + Grid::Noise.lattice(u, v, w, 1, seed) - b
              r = k + z + Grid::Noise.lattice(u, v, w, 2, seed) - c
              far = p * p + q * q + r * r
              if far < near
                second = near
                near = far
              elsif far < second
                second = far
              end
            end
          end
        end
        return Math.sqrt(near), Math.sqrt(second)
      end

      # A place along folds or stripes as band or what is between bands.
      kernel rows: F32[2], n: I32, at: F32, returns: F32
      def band(rows, n, at)
        # 0 in the middle of a band, 1 in the middle between two.
        far = 2.0 * ((at - at.floor) - 0.5).abs
        s = ((rows[n, SECOND] - far) / [rows[n, THIRD], 0.001].max + 0.5).clamp(0.0, 1.0)
        s * s * (3.0 - 2.0 * s)
      end

      # 1 at the shape, 0 a unit away.
      kernel rows: F32[2], n: I32, a: F32, b: F32, c: F32, returns: F32
      def fall(rows, n, a, b, c)
        far = b.abs
        far = Math.sqrt(a * a + b * b + c * c) if rows[n, WHICH] > 0.5
        far = Math.sqrt(a * a + c * c) if rows[n, WHICH] > 1.5
        s = [1.0 - far, 0.0].max
        found = s
        found = s * s if rows[n, FIRST] > 0.5
        found = s * s * (3.0 - 2.0 * s) if rows[n, FIRST] > 1.5
        found
      end

      # One of the values behind the rows, where nothing lies there 1.
      kernel rows: F32[2], n: I32, at: I32, returns: F32
      def read(rows, n, at)
        rows[rows[n, FIRST].to_i + at / 64, at % 64]
      end

      # A picture, its middle where the texture begins and as wide as that is large; again beside itself, or nothing
      # there.
      kernel rows: F32[2], n: I32, a: F32, b: F32, returns: F32
      def picture(rows, n, a, b)
        found = rows[n, FIRST] < 0.5 ? 1.0 : 0.0
        w = [rows[n, SECOND].to_i, 1].max
        h = [rows[n, THIRD].to_i, 1].max
        u = a + 0.5
        v = 0.5 - b * w / h
        inside = u >= 0.0 && u < 1.0 && v >= 0.0 && v < 1.0
        if rows[n, FIRST] > 0.5 && (inside || rows[n, WHICH] > 0.5)
          x = (u - u.floor) * w - 0.5
          y = (v - v.floor) * h - 0.5
          i = x.floor
          j = y.floor
          fx = x - i
          fy = y - j
          left = (i.to_i + w) % w
          top = (j.to_i + h) % h
          right = (left + 1) % w
          under = (top + 1) % h
          if rows[n, WHICH] < 0.5
            right = left if right < left
            under = top if under < top
          end
          found = (1.0 - fy) * ((1.0 - fx) * read(rows, n, top * w + left) + fx * read(rows, n, top * w + right)) +
            fy * ((1.0 - fx) * read(rows, n, under * w + left) + fx * read(rows, n, under * w + right))
        end
        found
      end

      # Values in a box that is one long each way, about where the texture begins; beyond it as at its edge.
      kernel rows: F32[2], n: I32, a: F32, b: F32, c: F32, returns: F32
      def lattice(rows, n, a, b, c)
        found = rows[n, FIRST] < 0.5 ? 1.0 : 0.0
        if rows[n, FIRST] > 0.5
          m = rows[n, SECOND].to_i
          x = ((a + 0.5) * m - 0.5).clamp(0.0, m - 1.001)
          y = ((b + 0.5) * m - 0.5).clamp(0.0, m - 1.001)
          z = ((c + 0.5) * m - 0.5).clamp(0.0, m - 1.001)
          i = x.to_i
          j = y.to_i
          k = z.to_i
          8.times do |s|
            di = s & 1
            dj = (s >> 1) & 1
            dk = s >> 2
            share = (di > 0 ? x - i : 1.0 - x + i) * (dj > 0 ? y - j : 1.0 - y + j) * (dk > 0 ? z - k : 1.0 - z + k)
            found += share * read(rows, n, ((k + dk) * m + j + dj) * m + i + di)
          end
        end
        found
      end

      # Contrast, brightness, gamma, ramp and factor, in this order.
      kernel rows: F32[2], n: I32, found: F32, returns: F32
      def finished(rows, n, found)
        one = rows[n, INVERTED] > 0.5 ? 1.0 - found : found
        one = (0.5 + rows[n, CONTRAST] * (one - 0.5) + rows[n, BRIGHTNESS]).clamp(0.0, 1.0) if (rows[n, CONTRAST] - 1.0).abs > 0.0 || rows[n, BRIGHTNESS].abs > 0.0
        one = [one, 0.0].max**(1.0 / rows[n, GAMMA]) if (rows[n, GAMMA] - 1.0).abs > 0.0
        if rows[n, RAMPED] > 0.5
          at = one.clamp(0.0, 1.0) * (STOPS - 1)
          i = [at.to_i, STOPS - 2].min
          one = rows[n, RAMP + i] + (at - i) * (rows[n, RAMP + i + 1] - rows[n, RAMP + i])
        end
        one * rows[n, FACTOR]
      end

      # A texture over a sheet of places, for looking at it: `out` f32 [h, w]; `sheet` a corner, the ways across and
      # down.
      kernel out: F32[2], rows: F32[2], n: I32, sheet: F32[1]
      def look(out, rows, n, sheet)
        parallel(out.dim(0)) do |j|
          out.dim(1).times do |i|
            u = (i + 0.5) / out.dim(1)
            v = (j + 0.5) / out.dim(0)
            out[j, i] = value(rows, n, sheet[0] + u * sheet[3] + v * sheet[6], sheet[1] + u * sheet[4] + v * sheet[7],
              sheet[2] + u * sheet[5] + v * sheet[8], 0.0)
          end
        end
      end
    end
  end
end
