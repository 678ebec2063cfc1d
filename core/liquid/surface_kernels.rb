# frozen_string_literal: true

module Vumbral
  module Liquid
    # The surface of a liquid from its particles: at each place how far it is from where the particles about it are on
    # average (Zhu & Bridson 2005).
    module SurfaceKernels
      extend Kernel::Library

      # Particles count so far at least, cells; and twice as far as a drop's radius.
      REACH = 1.0
      # As far the speed of a place is told by them, cells, and where there are hardly any.
      ABOUT, FARTHER = 0.8, 2.0
      # And distances are told so far from the surface, cells.
      BAND = 1.5
      # At a wall liquid fills what is so near to it, cells; as much less as it is farther, and nothing from a cell on.
      CLINGS = 0.7

      # Adds, at points of some planes of a finer grid, how much particles weigh there and how far off they are. `grain`
      # is how many points there are along a cell; the first stands half a point from the chamber's corner. Every second
      # slab of cells, as thick as two particles reach, in one call (`odd` 0 or 1), so that every sum has its one order.
      # @param sums [planes, y, x, 4]: weight, then weighed ways along x, y, z, cells
      # @param from the first of these points along z, y and x; @param reach how far particles count, cells
      kernel sums: F32[4], at: F32[2], first: I32[1], size: I32[1], grain: F32, from: I32[1], odd: I32, reach: F32
      def gather(sums, at, first, size, grain, from, odd, reach)
        layer = size[1] * size[2]
        k0 = ((from[0] + 0.5) / grain - reach).floor.to_i.clamp(0, size[0] - 1)
        k1 = ((from[0] + sums.dim(0) - 0.5) / grain + reach).floor.to_i.clamp(0, size[0] - 1) + 1
        thick = (2.0 * reach).ceil.to_i
        parallel(((k1 - k0 + thick - 1) / thick + 1 - odd) / 2, uneven: true) do |n|
          low = k0 + thick * (2 * n + odd)
          high = [low + thick, k1].min
          (first[low * layer]...first[high * layer]).each { |p| spread(sums, at, p, grain, from, reach) }
        end
      end

      # One particle.
      kernel sums: F32[4], at: F32[2], p: I32, grain: F32, from: I32[1], reach: F32
      def spread(sums, at, p, grain, from, reach)
        x = at[p, 0]
        y = at[p, 1]
        z = at[p, 2]
        k0 = [((z - reach) * grain - 0.5).ceil.to_i - from[0], 0].max
        k1 = [((z + reach) * grain - 0.5).floor.to_i - from[0], sums.dim(0) - 1].min
        j0 = [((y - reach) * grain - 0.5).ceil.to_i - from[1], 0].max
        j1 = [((y + reach) * grain - 0.5).floor.to_i - from[1], sums.dim(1) - 1].min
        i0 = [((x - reach) * grain - 0.5).ceil.to_i - from[2], 0].max
        i1 = [((x + reach) * grain - 0.5).floor.to_i - from[2], sums.dim(2) - 1].min
        per = 1.0 / grain
        (k0..k1).each do |k|
          dz = z - (from[0] + k + 0.5) * per
          (j0..j1).each do |j|
            dy = y - (from[1] + j + 0.5) * per
            left = 1.0 - (dy * dy + dz * dz) / (reach * reach)
            if left > 0.0
              # Without a question inside, the four sums go side by side.
              (i0..i1).each do |i|
                dx = x - (from[2] + i + 0.5) * per
                near = [left - dx * dx / (reach * reach), 0.0].max
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

      # How much of the liquid is at each point, 0 to 1, with 0.5 on its surface.
      # @param inner cells where all is liquid; @param round radius of a single particle, cells; @param reach as in
      #   {#gather}
      # @param from i32 [4]: the first of these points along z, y and x, and its plane in `part`
      kernel part: F32[3], sums: F32[4], inner: U8[3], from: I32[1], grain: F32, round: F32, reach: F32
      def settle(part, sums, inner, from, grain, round, reach)
        parallel(sums.dim(0)) do |k|
          sums.dim(1).times do |j|
            sums.dim(2).times do |i|
              w = sums[k, j, i, 0]
              mx = sums[k, j, i, 1]
              my = sums[k, j, i, 2]
              mz = sums[k, j, i, 3]
              # As far as particles reach it comes to just that; beyond it must not go up in a step, which would be seen
              # in a calm surface below as soon as it is evened out.
              far = w > 1e-12 ? Math.sqrt(mx * mx + my * my + mz * mz) / w : reach
              far = 0.0 if inner[cell(from[0] + k, grain, inner.dim(0)), cell(from[1] + j, grain, inner.dim(1)), cell(from[2] + i, grain, inner.dim(2))] == 1
              part[from[3] + k, j, i] = (0.5 - (far - round) / (2.0 * BAND)).clamp(0.0, 1.0)
            end
          end
        end
      end

      # The cell that a point of the finer grid is in.
      kernel n: I32, grain: F32, cells: I32, returns: I32
      def cell(n, grain, cells)
        ((n + 0.5) / grain).to_i.clamp(0, cells - 1)
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

      # How fast places go, and which colour they have: as the particles about them, the nearer the more. @param frame
      # f32 [4]: the chamber's corner, its voxel, metres
      kernel out: F32[2], points: F32[2], at: F32[2], carried: F32[2], first: I32[1], size: I32[1], frame: F32[1]
      def carried(out, points, at, carried, first, size, frame)
        parallel(points.dim(0)) do |p|
          place = local_f32(3)
          3.times { |a| place[a] = (points[p, a] - frame[a]) / frame[3] }
          sum = local_f32(7)
          about(sum, place, at, carried, first, size, ABOUT)
          about(sum, place, at, carried, first, size, FARTHER) if sum[0] < 1e-3
          out.dim(1).times { |a| out[p, a] = sum[1 + a] / [sum[0], 1e-12].max }
        end
      end

      # Adds up what the particles about a place weigh, and what they carry.
      kernel sum: F32[1], place: F32[1], at: F32[2], carried: F32[2], first: I32[1], size: I32[1], reach: F32
      def about(sum, place, at, carried, first, size, reach)
        7.times { |n| sum[n] = 0.0 }
        x = place[0]
        y = place[1]
        z = place[2]
        (bound(z - reach, size[0])..bound(z + reach, size[0])).each do |k|
          (bound(y - reach, size[1])..bound(y + reach, size[1])).each do |j|
            row = (k * size[1] + j) * size[2]
            (first[row + bound(x - reach, size[2])]...first[row + bound(x + reach, size[2]) + 1]).each do |q|
              dx = at[q, 0] - x
              dy = at[q, 1] - y
              dz = at[q, 2] - z
              near = 1.0 - (dx * dx + dy * dy + dz * dz) / (reach * reach)
              if near > 0.0
                share = near * near * near
                sum[0] += share
                carried.dim(1).times { |a| sum[1 + a] += share * carried[q, a] }
              end
            end
          end
        end
      end

      # The cell at a place along an axis, held within the chamber.
      kernel place: F32, cells: I32, returns: I32
      def bound(place, cells)
        place.floor.to_i.clamp(0, cells - 1)
      end

      # Values with a border of nothing around, told as distances from a level (negative inside), as surfaces are made
      # from.
      kernel out: F32[3], part: F32[3], around: I32, level: F32
      def bordered(out, part, around, level)
        each_cell(out) do |k, j, i|
          c = k - around
          b = j - around
          a = i - around
          inside = c >= 0 && b >= 0 && a >= 0 && c < part.dim(0) && b < part.dim(1) && a < part.dim(2)
          out[k, j, i] = level -
            (inside ? part[c.clamp(0, part.dim(0) - 1), b.clamp(0, part.dim(1) - 1), a.clamp(0, part.dim(2) - 1)] : 0.0)
        end
      end

      # Lets the liquid lie close to walls, and end as evenly as these do: particles leave bumps and gaps there, which
      # are seen through glass. @param out as {#bordered} leaves it; @param walls as {Skin} has them
      # @param from i32 [3]: the point of the finer grid that is the first along z, y and x
      # @param none how far outside it is told where there is nothing
      kernel out: F32[3], walls: F16[3], from: I32[1], grain: F32, none: F32
      def walled(out, walls, from, grain, none)
        each_cell(out) do |k, j, i|
          far = off(walls, (from[0] + k + 0.5) / grain, (from[1] + j + 0.5) / grain, (from[2] + i + 0.5) / grain)
          if far < 1.0
            here = out[k, j, i]
            clings = CLINGS * (1.0 - far) * (1.0 - here / none).clamp(0.0, 1.0)
            out[k, j, i] = [here - clings / (2.0 * BAND), -far / (2.0 * BAND)].max
          end
        end
      end

      # How far a place lies within what the liquid may fill, cells: through a quadratic B-spline, for between corners
      # alone a round wall would have a facet for each cell, and glass shows each.
      kernel walls: F16[3], z: F32, y: F32, x: F32, returns: F32
      def off(walls, z, y, x)
        k = (z + 0.5).floor.to_i
        j = (y + 0.5).floor.to_i
        i = (x + 0.5).floor.to_i
        # From so far off no other corner brings it to within a cell of a wall.
        nearest = walls[k.clamp(0, walls.dim(0) - 1), j.clamp(0, walls.dim(1) - 1), i.clamp(0, walls.dim(2) - 1)]
        nearest >= SkinKernels::NEAR_WALLS ? nearest : smoothed(walls, k, j, i, z - k, y - j, x - i)
      end

      # The spline about a corner, so far from it.
      kernel walls: F16[3], k: I32, j: I32, i: I32, z: F32, y: F32, x: F32, returns: F32
      def smoothed(walls, k, j, i, z, y, x)
        sum = 0.0
        (-1..1).each do |c|
          rows = 0.0
          n = (k + c).clamp(0, walls.dim(0) - 1)
          (-1..1).each do |b|
            row = 0.0
            m = (j + b).clamp(0, walls.dim(1) - 1)
            (-1..1).each do |a|
              row += bell(x, a) * walls[n, m, (i + a).clamp(0, walls.dim(2) - 1)]
            end
            rows += bell(y, b) * row
          end
          sum += bell(z, c) * rows
        end
        sum
      end

      # How much a corner counts at a place up to half a cell from the middle one: that (0), or one beside it (-1, 1).
      kernel at: F32, which: I32, returns: F32
      def bell(at, which)
        side = 0.5 + which * at
        which == 0 ? 0.75 - at * at : 0.5 * side * side
      end
    end
  end
end
