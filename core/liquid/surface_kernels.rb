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

      # How much of the liquid is at each point of a finer grid, 0 to 1, with 0.5 on its surface. `grain` is how many
      # points there are along a cell; the first stands half a point from the chamber's corner.
      # @param round radius of a single particle, cells
      kernel part: F32[3], drops: Liquid::Drops, first: I32[1], size: I32[1], grain: F32, round: F32
      def part(part, drops, first, size, grain, round)
        parallel(part.dim(0), uneven: true) do |k|
          z = (k + 0.5) / grain
          part.dim(1).times do |j|
            y = (j + 0.5) / grain
            part.dim(2).times do |i|
              x = (i + 0.5) / grain
              far = distance(drops, first, size, x, y, z) - round
              part[k, j, i] = (0.5 - far / (2.0 * BAND)).clamp(0.0, 1.0)
            end
          end
        end
      end

      # How far a place is from the mean of the particles around it, cells; {BAND} and more where there are none.
      kernel drops: Liquid::Drops, first: I32[1], size: I32[1], x: F32, y: F32, z: F32, returns: F32
      def distance(drops, first, size, x, y, z)
        i0 = (x - REACH).floor.to_i.clamp(0, size[2] - 1)
        i1 = (x + REACH).floor.to_i.clamp(0, size[2] - 1)
        j0 = (y - REACH).floor.to_i.clamp(0, size[1] - 1)
        j1 = (y + REACH).floor.to_i.clamp(0, size[1] - 1)
        k0 = (z - REACH).floor.to_i.clamp(0, size[0] - 1)
        k1 = (z + REACH).floor.to_i.clamp(0, size[0] - 1)
        sum = 0.0
        mx = 0.0
        my = 0.0
        mz = 0.0
        (k0..k1).each do |k|
          (j0..j1).each do |j|
            row = (k * size[1] + j) * size[2]
            # Cells in a row stand one after the other.
            (first[row + i0]...first[row + i1 + 1]).each do |p|
              dx = drops.at[p, 0] - x
              dy = drops.at[p, 1] - y
              dz = drops.at[p, 2] - z
              near = 1.0 - (dx * dx + dy * dy + dz * dz) / (REACH * REACH)
              if near > 0.0
                w = near * near * near
                sum += w
                mx += w * dx
                my += w * dy
                mz += w * dz
              end
            end
          end
        end
        far = 10.0
        far = Math.sqrt(mx * mx + my * my + mz * mz) / sum if sum > 1e-6
        far
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
