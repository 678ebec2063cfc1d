# frozen_string_literal: true

module Vumbral
  module Liquid
    # What particles give to the grid: each to the eight faces around it, with its own change of speed over space (affine
    # particle-in-cell, Jiang et al. 2015).
    module TransferKernels
      extend Kernel::Library

      # Adds up every particle's share. Two layers of cells at a time are added by one thread, and every second pair in
      # one call (`odd` 0 or 1), so that no two threads write at the same place and every sum has its one order.
      # @param full how much there is about each cell's centre, 8 particles a cell being 1
      kernel faces: Flow::Faces, weights: Flow::Faces, full: F32[3], drops: Liquid::Drops, first: I32[1], odd: I32, voxel: F32
      def give(faces, weights, full, drops, first, odd, voxel)
        nz = full.dim(0)
        layer = full.dim(1) * full.dim(2)
        parallel(((nz + 1) / 2 + 1 - odd) / 2, uneven: true) do |n|
          low = 2 * (2 * n + odd)
          high = [low + 2, nz].min
          (first[low * layer]...first[high * layer]).each do |p|
            share(faces.u, weights.u, drops, p, 0, voxel)
            share(faces.v, weights.v, drops, p, 1, voxel)
            share(faces.w, weights.w, drops, p, 2, voxel)
            fill(full, drops, p)
          end
        end
      end

      # One part of one particle's speed (0 x, 1 y, 2 z).
      kernel field: F32[3], weight: F32[3], drops: Liquid::Drops, p: I32, axis: I32, voxel: F32
      def share(field, weight, drops, p, axis, voxel)
        x = (drops.at[p, 0] - (axis == 0 ? 0.0 : 0.5)).clamp(0.0, (field.dim(2) - 1).to_f)
        y = (drops.at[p, 1] - (axis == 1 ? 0.0 : 0.5)).clamp(0.0, (field.dim(1) - 1).to_f)
        z = (drops.at[p, 2] - (axis == 2 ? 0.0 : 0.5)).clamp(0.0, (field.dim(0) - 1).to_f)
        i = x.to_i.clamp(0, field.dim(2) - 2)
        j = y.to_i.clamp(0, field.dim(1) - 2)
        k = z.to_i.clamp(0, field.dim(0) - 2)
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
            field[k + c, j + b, i] += near * first
            weight[k + c, j + b, i] += near
            field[k + c, j + b, i + 1] += away * (first + gx)
            weight[k + c, j + b, i + 1] += away
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
        2.times do |c|
          wz = 0.125 * (c == 0 ? 1.0 - fz : fz)
          2.times do |b|
            wy = wz * (b == 0 ? 1.0 - fy : fy)
            2.times do |a|
              if k + c >= 0 && k + c < full.dim(0) && j + b >= 0 && j + b < full.dim(1) && i + a >= 0 && i + a < full.dim(2)
                full[k + c, j + b, i + a] += wy * (a == 0 ? 1.0 - fx : fx)
              end
            end
          end
        end
      end

      # Speeds from sums, where there is anything; `known` says where.
      kernel field: F32[3], weight: F32[3], known: U8[3]
      def settle(field, weight, known)
        each_cell(field) do |k, j, i|
          share = weight[k, j, i]
          there = share > 1e-4
          field[k, j, i] = there ? field[k, j, i] / share : 0.0
          known[k, j, i] = there ? 1 : 0
        end
      end

      # Speeds one cell further out: where none is known, or only that of a few particles (2), the mean of the known ones
      # beside it (1).
      kernel dst: F32[3], found: U8[3], src: F32[3], known: U8[3]
      def further(dst, found, src, known)
        nz = src.dim(0)
        ny = src.dim(1)
        nx = src.dim(2)
        parallel(nz) do |k|
          ny.times do |j|
            nx.times do |i|
              value = src[k, j, i]
              there = known[k, j, i] == 1
              unless there
                sum = 0.0
                count = 0.0
                if i > 0 && known[k, j, i - 1] == 1
                  sum += src[k, j, i - 1]
                  count += 1.0
                end
                if i < nx - 1 && known[k, j, i + 1] == 1
                  sum += src[k, j, i + 1]
                  count += 1.0
                end
                if j > 0 && known[k, j - 1, i] == 1
                  sum += src[k, j - 1, i]
                  count += 1.0
                end
                if j < ny - 1 && known[k, j + 1, i] == 1
                  sum += src[k, j + 1, i]
                  count += 1.0
                end
                if k > 0 && known[k - 1, j, i] == 1
                  sum += src[k - 1, j, i]
                  count += 1.0
                end
                if k < nz - 1 && known[k + 1, j, i] == 1
                  sum += src[k + 1, j, i]
                  count += 1.0
                end
                if count > 0.0
                  value = sum / count
                  there = true
                end
              end
              dst[k, j, i] = value
              found[k, j, i] = there || known[k, j, i] == 2 ? 1 : 0
            end
          end
        end
      end
    end
  end
end
