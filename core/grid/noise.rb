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

      # Between two times, smoothly.
      kernel x: I32, y: I32, z: I32, t: I32, ft: F32, seed: I32, returns: F32
      def lattice_at(x, y, z, t, ft, seed)
        a = lattice(x, y, z, t, seed)
        a + ft * (lattice(x, y, z, t + 1, seed) - a)
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
