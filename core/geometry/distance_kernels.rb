# frozen_string_literal: true

module Vumbral
  module Geometry
    # Distances to a mesh from coarse to fine: they are looked up near its surface; farther off, where they are smooth,
    # a cubic through those of cells twice or four times as large tells them (within 0.02 of such a cell, but where the
    # nearest surface is no longer the same one).
    module DistanceKernels
      extend Kernel::Library

      # Catmull-Rom's four weights.
      kernel f: F32, returns: [F32, F32, F32, F32]
      def weights(f)
        return f * (f * (1.0 - 0.5 * f) - 0.5), 1.0 + f * f * (1.5 * f - 2.5), f * (0.5 + f * (2.0 - 1.5 * f)), 0.5 * f * f * (f - 1.0)
      end

      kernel coarse: F32[3], k: I32, j: I32, i: I32, fx: F32, returns: F32
      def along(coarse, k, j, i, fx)
        a, b, c, d = weights(fx)
        a * coarse[k, j, i - 1] + b * coarse[k, j, i] + c * coarse[k, j, i + 1] + d * coarse[k, j, i + 2]
      end

      kernel coarse: F32[3], k: I32, j: I32, i: I32, fx: F32, fy: F32, returns: F32
      def across(coarse, k, j, i, fx, fy)
        a, b, c, d = weights(fy)
        a * along(coarse, k, j - 1, i, fx) + b * along(coarse, k, j, i, fx) + c * along(coarse, k, j + 1, i, fx) + d * along(coarse, k, j + 2, i, fx)
      end

      # The least of eight around a place, as far from nothing.
      kernel coarse: F32[3], k: I32, j: I32, i: I32, returns: F32
      def least(coarse, k, j, i)
        a = [coarse[k, j, i].abs, coarse[k, j, i + 1].abs, coarse[k, j + 1, i].abs, coarse[k, j + 1, i + 1].abs].min
        [a, coarse[k + 1, j, i].abs, coarse[k + 1, j, i + 1].abs, coarse[k + 1, j + 1, i].abs, coarse[k + 1, j + 1, i + 1].abs].min
      end

      # Distance at one cell. `x y z` its place; `k j i` its place among the coarse cells, counted in fractions of
      # `step`, of which one is `voxel` metres; a guess at the nearest triangle goes in and comes out.
      kernel coarse: F32[3], tree: Geometry::Tree, place: F32[1], cell: I32[1], step: I32, voxel: F32, band: F32, closed: BOOL, returns: F32
      def value(coarse, tree, place, cell, step, voxel, band, closed)
        k = cell[0] / step
        j = cell[1] / step
        i = cell[2] / step
        near = least(coarse, k, j, i)
        found = coarse[k, j, i]
        if near > 1.75 * step * voxel
          cell[3] = -1
          # Where all are as far as any is told there is nothing to tell.
          if near < band + 2.0 * voxel
            part = 1.0 / step
            fx = part * (cell[2] - step * i)
            fy = part * (cell[1] - step * j)
            fz = part * (cell[0] - step * k)
            a, b, c, d = weights(fz)
            found = a * across(coarse, k - 1, j, i, fx, fy) + b * across(coarse, k, j, i, fx, fy) + c * across(coarse, k + 1, j, i, fx, fy) + d * across(coarse, k + 2, j, i, fx, fy)
          end
        else
          far, last = BVHKernels.closest(tree.corners, tree.boxes, place[0], place[1], place[2], band, cell[3])
          inside = false
          if BVHKernels.box_distance(tree.boxes, 0, place[0], place[1], place[2]) <= 0.0
            # Where no triangle is as near as the coarse cell next to it, that is on the same side; so is the cell before.
            p = cell[2] - step * i > step / 2 ? 1 : 0
            q = cell[1] - step * j > step / 2 ? 1 : 0
            r = cell[0] - step * k > step / 2 ? 1 : 0
            own = coarse[k + r, j + q, i + p]
            away = Math.sqrt((cell[2] - step * (i + p))**2 + (cell[1] - step * (j + q))**2 + (cell[0] - step * (k + r))**2) * voxel
            if closed && [far, own.abs].max > away
              inside = own < 0.0
            elsif closed && cell[4] != 0 && far > voxel
              inside = cell[4] < 0
            else
              inside = BVHKernels.winding(tree.corners, tree.boxes, tree.far, place[0], place[1], place[2]) > 0.5
            end
            cell[4] = inside ? -1 : 1
          end
          cell[3] = last
          found = inside ? -far : far
        end
        found.clamp(-band, band)
      end

      # All cells of a lattice, from one twice as coarse that begins one of its cells sooner. `m` leads to the mesh.
      kernel out: F32[3], coarse: F32[3], tree: Geometry::Tree, m: F32[1], lattice: Grid::Lattice, band: F32, closed: BOOL
      def refine(out, coarse, tree, m, lattice, band, closed)
        parallel(out.dim(0), uneven: true) do |k|
          place = local_f32(3)
          cell = local_i32(5)
          out.dim(1).times do |j|
            cell[3] = -1
            cell[4] = 0
            out.dim(2).times do |i|
              lead(place, m, lattice, k, j, i)
              cell[0] = k + 2
              cell[1] = j + 2
              cell[2] = i + 2
              out[k, j, i] = value(coarse, tree, place, cell, 2, lattice.voxel, band, closed)
            end
          end
        end
      end

      # The cells of bricks alike.
      kernel values: F32[3], places: I32[2], coarse: F32[3], tree: Geometry::Tree, m: F32[1], lattice: Grid::Lattice, band: F32, closed: BOOL
      def bricks(values, places, coarse, tree, m, lattice, band, closed)
        parallel(places.dim(0), uneven: true) do |n|
          place = local_f32(3)
          cell = local_i32(5)
          16.times do |k|
            16.times do |j|
              cell[3] = -1
              cell[4] = 0
              16.times do |i|
                lead(place, m, lattice, 16 * places[n, 0] + k, 16 * places[n, 1] + j, 16 * places[n, 2] + i)
                cell[0] = 16 * places[n, 0] + k + 2
                cell[1] = 16 * places[n, 1] + j + 2
                cell[2] = 16 * places[n, 2] + i + 2
                values[16 * n + k, j, i] = value(coarse, tree, place, cell, 2, lattice.voxel, band, closed)
              end
            end
          end
        end
      end

      kernel place: F32[1], m: F32[1], lattice: Grid::Lattice, k: I32, j: I32, i: I32
      def lead(place, m, lattice, k, j, i)
        a = lattice.x + i * lattice.voxel
        b = lattice.y + j * lattice.voxel
        c = lattice.z + k * lattice.voxel
        place[0] = m[0] * a + m[1] * b + m[2] * c + m[3]
        place[1] = m[4] * a + m[5] * b + m[6] * c + m[7]
        place[2] = m[8] * a + m[9] * b + m[10] * c + m[11]
      end

      # Which bricks come as near as `band`, by cells twice as large as theirs (one before the first); and what all
      # others are.
      kernel marks: U8[3], tiles: F32[3], coarse: F32[3], band: F32, voxel: F32
      def nearing(marks, tiles, coarse, band, voxel)
        each_cell(marks) do |k, j, i|
          least = 1e30
          (0..8).each do |c|
            (0..8).each { |b| (0..8).each { |a| least = [least, coarse[8 * k + c + 1, 8 * j + b + 1, 8 * i + a + 1].abs].min } }
          end
          marks[k, j, i] = least < band + 1.8 * voxel ? 1 : 0
          tiles[k, j, i] = coarse[8 * k + 5, 8 * j + 5, 8 * i + 5] < 0.0 ? -band : band
        end
      end
    end
  end
end
