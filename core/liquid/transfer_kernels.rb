# frozen_string_literal: true

module Vumbral
  module Liquid
    # What particles give to the grid: each to the eight faces around it, with its own change of speed over space
    # (affine particle-in-cell, Jiang et al. 2015).
    module TransferKernels
      extend Kernel::Library

      # Adds up every particle's share. Two layers of cells at a time are added by one thread, and every second pair in
      # one call (`odd` 0 or 1), so that no two threads write at the same place and every sum has its one order.
      # @param full how much there is about each cell's centre, 8 particles a cell being 1
      kernel sums: Liquid::Sums, full: F32[3], drops: Liquid::Drops, first: I32[1], odd: I32, voxel: F32
      def give(sums, full, drops, first, odd, voxel)
        nz = full.dim(0)
        layer = full.dim(1) * full.dim(2)
        parallel(((nz + 1) / 2 + 1 - odd) / 2, uneven: true) do |n|
          low = 2 * (2 * n + odd)
          high = [low + 2, nz].min
          (first[low * layer]...first[high * layer]).each do |p|
            share(sums.u, drops, p, 0, voxel)
            share(sums.v, drops, p, 1, voxel)
            share(sums.w, drops, p, 2, voxel)
            fill(full, drops, p)
          end
        end
      end

      # One part of one particle's speed (0 x, 1 y, 2 z): times its weights, and these themselves.
      kernel sums: F32[3], drops: Liquid::Drops, p: I32, axis: I32, voxel: F32
      def share(sums, drops, p, axis, voxel)
        x = (drops.at[p, 0] - (axis == 0 ? 0.0 : 0.5)).clamp(0.0, (sums.dim(2) / 2 - 1).to_f)
        y = (drops.at[p, 1] - (axis == 1 ? 0.0 : 0.5)).clamp(0.0, (sums.dim(1) - 1).to_f)
        z = (drops.at[p, 2] - (axis == 2 ? 0.0 : 0.5)).clamp(0.0, (sums.dim(0) - 1).to_f)
        i = x.to_i.clamp(0, sums.dim(2) / 2 - 2)
        j = y.to_i.clamp(0, sums.dim(1) - 2)
        k = z.to_i.clamp(0, sums.dim(0) - 2)
        fx = x - i
        fy = y - j
        fz = z - k
        gx = voxel * drops.turn[p, 3 * axis]
        gy = voxel * drops.turn[p, 3 * axis + 1]
        gz = voxel * drops.turn[p, 3 * axis + 2]
        base = drops.speed[p, axis] - fx * gx - fy * gy - fz * gz
        2.times do |c|
          wz = c == 0 ? 1.0 - fz : fz
          2.times do |b|
            wy = wz * (b == 0 ? 1.0 - fy : fy)
            first = base + b * gy + c * gz
            near = wy * (1.0 - fx)
            away = wy * fx
            # The four stand side by side.
            n = 2 * i
            sums[k + c, j + b, n] += near * first
            sums[k + c, j + b, n + 1] += near
            sums[k + c, j + b, n + 2] += away * (first + gx)
            sums[k + c, j + b, n + 3] += away
          end
        end
      end

      kernel full: F32[3], drops: Liquid::Drops, p: I32
      def fill(full, drops, p)
        x = drops.at[p, 0] - 0.5
        y = drops.at[p, 1] - 0.5
        z = drops.at[p, 2] - 0.5
        i = x.floor.to_i
        j = y.floor.to_i
        k = z.floor.to_i
        fx = x - i
        fy = y - j
        fz = z - k
        if k >= 0 && j >= 0 && i >= 0 && k + 1 < full.dim(0) && j + 1 < full.dim(1) && i + 1 < full.dim(2)
          2.times do |c|
            wz = 0.125 * (c == 0 ? 1.0 - fz : fz)
            2.times do |b|
              wy = wz * (b == 0 ? 1.0 - fy : fy)
              full[k + c, j + b, i] += wy * (1.0 - fx)
              full[k + c, j + b, i + 1] += wy * fx
            end
          end
        else
          8.times do |n|
            a = n & 1
            d = n >> 1 & 1
            e = n >> 2
            if k + e >= 0 && k + e < full.dim(0) && j + d >= 0 && j + d < full.dim(1) && i + a >= 0 && i + a < full.dim(2)
              full[k + e, j + d, i + a] += 0.125 * (e == 0 ? 1.0 - fz : fz) * (d == 0 ? 1.0 - fy : fy) *
                (a == 0 ? 1.0 - fx : fx)
            end
          end
        end
      end

      # Speeds from sums, and how much there is of each; `known` says where there is anything.
      kernel field: F32[3], weight: F32[3], known: U8[3], sums: F32[3]
      def settle(field, weight, known, sums)
        each_cell(field) do |k, j, i|
          share = sums[k, j, 2 * i + 1]
          there = share > 1e-4
          weight[k, j, i] = share
          field[k, j, i] = there ? sums[k, j, 2 * i] / share : 0.0
          known[k, j, i] = there ? 1 : 0
        end
      end

      # Which rows of cells have particles within so many cells, or are deep: all else is air that nothing has to be
      # known of. `busy` u8 [z + 1, y + 1], for faces as well.
      kernel busy: U8[2], first: I32[1], deep: U8[3], size: I32[1], reach: I32
      def busy(busy, first, deep, size, reach)
        nz = size[0]
        ny = size[1]
        nx = size[2]
        parallel(busy.dim(0)) do |k|
          busy.dim(1).times do |j|
            count = 0
            low = [j - reach, 0].max
            high = [j + reach, ny].min
            ([k - reach, 0].max...[k + reach, nz].min).each do |c|
              count += first[(c * ny + high) * nx] - first[(c * ny + low) * nx] if high > low
            end
            4.times do |n|
              c = k - (n & 1)
              b = j - (n >> 1)
              if count == 0 && c >= 0 && b >= 0 && c < nz && b < ny
                nx.times { |i| count += deep[c, b, i] }
              end
            end
            busy[k, j] = count > 0 ? 1 : 0
          end
        end
      end

      # Speeds one cell further out: where none is known, or only that of a few particles (2), the mean of the known
      # ones beside it. What is known since such a pass is marked 3 and the pass's number on top, so that none of a pass
      # counts within it.
      kernel field: F32[3], known: U8[3], busy: U8[2], pass: I32
      def further(field, known, busy, pass)
        nz = field.dim(0)
        ny = field.dim(1)
        nx = field.dim(2)
        parallel(nz, uneven: true) do |k|
          ny.times do |j|
            if busy[k, j] != 0
              nx.times do |i|
                mark = known[k, j, i].to_i
                if mark == 0 || mark == 2
                  sum = 0.0
                  count = 0.0
                  if i > 0 && told(known, k, j, i - 1, pass)
                    sum += field[k, j, i - 1]
                    count += 1.0
                  end
                  if i < nx - 1 && told(known, k, j, i + 1, pass)
                    sum += field[k, j, i + 1]
                    count += 1.0
                  end
                  if j > 0 && told(known, k, j - 1, i, pass)
                    sum += field[k, j - 1, i]
                    count += 1.0
                  end
                  if j < ny - 1 && told(known, k, j + 1, i, pass)
                    sum += field[k, j + 1, i]
                    count += 1.0
                  end
                  if k > 0 && told(known, k - 1, j, i, pass)
                    sum += field[k - 1, j, i]
                    count += 1.0
                  end
                  if k < nz - 1 && told(known, k + 1, j, i, pass)
                    sum += field[k + 1, j, i]
                    count += 1.0
                  end
                  field[k, j, i] = sum / count if count > 0.0
                  known[k, j, i] = 3 + pass if count > 0.0 || mark == 2
                end
              end
            end
          end
        end
      end

      # Whether a speed was known before a pass.
      kernel known: U8[3], k: I32, j: I32, i: I32, pass: I32, returns: BOOL
      def told(known, k, j, i, pass)
        mark = known[k, j, i].to_i
        mark == 1 || (mark >= 3 && mark < 3 + pass)
      end
    end
  end
end
