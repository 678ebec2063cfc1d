# frozen_string_literal: true

module Vumbral
  module Liquid
    # The surface of a liquid from its particles: at each place how far it is from where the particles about it are on
    # average (Zhu & Bridson 2005).
    module SurfaceKernels
      extend Kernel::Library

      # Particles count so far, cells.
      REACH = 1.0
      # And distances are told so far from the surface, cells.
      BAND = 1.5

      # Adds, at points of some planes of a finer grid, how much particles weigh there and how far off they are. `grain` is how
      # many points there are along a cell; the first stands half a point from the chamber's corner. Every second slab of two
      # cells in one call (`odd` 0 or 1), so that every sum has its one order.
      # @param sums [planes, y, x, 4]: weight, then weighed ways along x, y, z, cells
      # @param from the first of these planes
      kernel sums: F32[4], drops: Liquid::Drops, first: I32[1], size: I32[1], grain: F32, from: I32, odd: I32
      def gather(sums, drops, first, size, grain, from, odd)
        layer = size[1] * size[2]
        k0 = ((from + 0.5) / grain - REACH).floor.to_i.clamp(0, size[0] - 1)
        k1 = ((from + sums.dim(0) - 0.5) / grain + REACH).floor.to_i.clamp(0, size[0] - 1) + 1
        parallel(((k1 - k0 + 1) / 2 + 1 - odd) / 2, uneven: true) do |n|
          low = k0 + 2 * (2 * n + odd)
          high = [low + 2, k1].min
          (first[low * layer]...first[high * layer]).each { |p| spread(sums, drops, p, grain, from) }
        end
      end

      # One particle.
      kernel sums: F32[4], drops: Liquid::Drops, p: I32, grain: F32, from: I32
      def spread(sums, drops, p, grain, from)
        x = drops.at[p, 0]
        y = drops.at[p, 1]
        z = drops.at[p, 2]
        k0 = [((z - REACH) * grain - 0.5).ceil.to_i - from, 0].max
        k1 = [((z + REACH) * grain - 0.5).floor.to_i - from, sums.dim(0) - 1].min
        j0 = [((y - REACH) * grain - 0.5).ceil.to_i, 0].max
        j1 = [((y + REACH) * grain - 0.5).floor.to_i, sums.dim(1) - 1].min
        i0 = [((x - REACH) * grain - 0.5).ceil.to_i, 0].max
        i1 = [((x + REACH) * grain - 0.5).floor.to_i, sums.dim(2) - 1].min
        (k0..k1).each do |k|
          dz = z - (from + k + 0.5) / grain
          (j0..j1).each do |j|
            dy = y - (j + 0.5) / grain
            left = 1.0 - (dy * dy + dz * dz) / (REACH * REACH)
            if left > 0.0
              (i0..i1).each do |i|
                dx = x - (i + 0.5) / grain
                near = left - dx * dx / (REACH * REACH)
                if near > 0.0
                  w = near * near * near
                  sums[k, j, i, 0] += w
                  sums[k, j, i, 1] += w * dx
                  sums[k, j, i, 2] += w * dy
                  sums[k, j, i, 3] += w * dz
                end
              end
            end
          end
        end
      end

      # How much of the liquid is at each point, 0 to 1, with 0.5 on its surface.
      # @param round radius of a single particle, cells
      kernel part: F32[3], sums: F32[4], from: I32, round: F32
      def settle(part, sums, from, round)
        parallel(sums.dim(0)) do |k|
          sums.dim(1).times do |j|
            sums.dim(2).times do |i|
              w = sums[k, j, i, 0]
              mx = sums[k, j, i, 1]
              my = sums[k, j, i, 2]
              mz = sums[k, j, i, 3]
              # Nothing near is far enough.
              far = w > 1e-6 ? Math.sqrt(mx * mx + my * my + mz * mz) / w : 10.0
              part[from + k, j, i] = (0.5 - (far - round) / (2.0 * BAND)).clamp(0.0, 1.0)
            end
          end
        end
      end

      # Evens bumps out: a share of the way to the mean of the six neighbours, or away from it.
      kernel out: F32[3], part: F32[3], share: F32
      def even(out, part, share)
        nz = part.dim(0)
        ny = part.dim(1)
        nx = part.dim(2)
        each_cell(part) do |k, j, i|
          here = part[k, j, i]
          mean = (part[k, j, [i - 1, 0].max] + part[k, j, [i + 1, nx - 1].min] + part[k, [j - 1, 0].max, i] + part[k, [j + 1, ny - 1].min, i] +
            part[[k - 1, 0].max, j, i] + part[[k + 1, nz - 1].min, j, i]) / 6.0
          out[k, j, i] = here + share * (mean - here)
        end
      end

      # The grid's speed at places of the world, m/s.
      kernel speeds: F32[2], points: F32[2], faces: Flow::Faces, corner: F32[1], per: F32
      def speeds(speeds, points, faces, corner, per)
        parallel(points.dim(0)) do |p|
          u, v, w = Grid::Sampling.velocity(faces.u, faces.v, faces.w, per * (points[p, 0] - corner[0]), per * (points[p, 1] - corner[1]), per * (points[p, 2] - corner[2]))
          speeds[p, 0] = u
          speeds[p, 1] = v
          speeds[p, 2] = w
        end
      end

      # Values with a border of nothing around, told as distances from a level (negative inside), as surfaces are made from.
      kernel out: F32[3], part: F32[3], around: I32, level: F32
      def bordered(out, part, around, level)
        each_cell(out) do |k, j, i|
          c = k - around
          b = j - around
          a = i - around
          inside = c >= 0 && b >= 0 && a >= 0 && c < part.dim(0) && b < part.dim(1) && a < part.dim(2)
          out[k, j, i] = level - (inside ? part[c.clamp(0, part.dim(0) - 1), b.clamp(0, part.dim(1) - 1), a.clamp(0, part.dim(2) - 1)] : 0.0)
        end
      end
    end
  end
end
