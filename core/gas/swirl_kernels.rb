# frozen_string_literal: true

module Vumbral
  module Gas
    # Loops for a tile of small rolls: the curl of three noises (Bridson, Hourihan & Nordenstam 2007) that begins again
    # after so many features, worked out once and read many times.
    module SwirlKernels
      extend Kernel::Library

      # Samples along each edge of the tile, a power of two, and how many of them a feature of the noise has.
      TILE = 64
      SAMPLES = 4
      # How strong rolls are beside the plain curl.
      STRENGTH = 0.85

      # Three noises, one after the other.
      kernel potential: F32[4], seed: I32
      def weave(potential, seed)
        parallel(3 * TILE) do |n|
          period = local_i32(4)
          places = local_f32(48)
          row = local_f32(16)
          3.times { |axis| period[axis] = TILE / SAMPLES }
          period[3] = 0
          TILE.times do |j|
            (TILE / 16).times do |part|
              16.times do |i|
                places[i] = (16 * part + i).to_f
                places[16 + i] = j.to_f
                places[32 + i] = (n % TILE).to_f
              end
              Grid::Noise.row(row, places, 1.0 / SAMPLES, 0.0, seed + n / TILE, period, 0)
              16.times { |i| potential[n / TILE, n % TILE, j, 16 * part + i] = row[i] }
            end
          end
        end
      end

      # Their curl, per feature; the last of four numbers is nothing.
      kernel tile: F32[4], potential: F32[4]
      def curl(tile, potential)
        scale = STRENGTH * SAMPLES / 2.0
        last = TILE - 1
        parallel(TILE) do |k|
          TILE.times do |j|
            TILE.times do |i|
              tile[k, j, i, 0] = scale * (potential[2, k, (j + 1) & last, i] - potential[2, k, (j - 1) & last, i] -
                potential[1, (k + 1) & last, j, i] + potential[1, (k - 1) & last, j, i])
              tile[k, j, i, 1] = scale * (potential[0, (k + 1) & last, j, i] - potential[0, (k - 1) & last, j, i] -
                potential[2, k, j, (i + 1) & last] + potential[2, k, j, (i - 1) & last])
              tile[k, j, i, 2] = scale * (potential[1, k, j, (i + 1) & last] - potential[1, k, j, (i - 1) & last] -
                potential[0, k, (j + 1) & last, i] + potential[0, k, (j - 1) & last, i])
              tile[k, j, i, 3] = 0.0
            end
          end
        end
      end

      # A roll at a place in features; `n` takes another part of the tile for each use.
      kernel tile: F32[4], x: F32, y: F32, z: F32, n: I32, returns: [F32, F32, F32]
      def swirl(tile, x, y, z, n)
        sx = x * SAMPLES
        sy = y * SAMPLES
        sz = z * SAMPLES
        i = sx.floor
        j = sy.floor
        k = sz.floor
        fx = sx - i
        fy = sy - j
        fz = sz - k
        last = TILE - 1
        # Parts that lie far from each other and do not meet again.
        i += 29 * n
        j += 19 * n
        k += 13 * n
        out = local_f32(4)
        4.times do |c|
          a = tile[k & last, j & last, i & last, c]
          b = tile[k & last, (j + 1) & last, i & last, c]
          d = tile[(k + 1) & last, j & last, i & last, c]
          e = tile[(k + 1) & last, (j + 1) & last, i & last, c]
          a += fx * (tile[k & last, j & last, (i + 1) & last, c] - a)
          b += fx * (tile[k & last, (j + 1) & last, (i + 1) & last, c] - b)
          d += fx * (tile[(k + 1) & last, j & last, (i + 1) & last, c] - d)
          e += fx * (tile[(k + 1) & last, (j + 1) & last, (i + 1) & last, c] - e)
          a += fy * (b - a)
          out[c] = a + fz * (d + fy * (e - d) - a)
        end
        return out[0], out[1], out[2]
      end
    end
  end
end
