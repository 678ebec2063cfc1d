# frozen_string_literal: true

module Vumbral
  module Geometry
    # Distances to a mesh from coarse to fine: told by the triangles near its surface ({NearKernels}); farther off,
    # where they are smooth, a cubic through those of cells twice as large tells them (within 0.02 of such a cell, but
    # where the nearest surface is no longer the same one).
    module DistanceKernels
      extend Kernel::Library

      # The cells of bricks, from cells twice as large, the first of which lies one of its own before. `m` leads to the
      # mesh.
      kernel values: F32[3], places: I32[2], coarse: F32[3], tree: Geometry::Tree, m: F32[1], lattice: Grid::Lattice,
        band: F32, closed: BOOL
      def bricks(values, places, coarse, tree, m, lattice, band, closed)
        parallel(places.dim(0), uneven: true) do |n|
          far = local_f32(4096)
          smooth = local_f32(4096)
          signs = local_i32(4096)
          frame = local_f32(12)
          z = 8 * places[n, 0]
          y = 8 * places[n, 1]
          x = 8 * places[n, 2]
          frame(frame, m, lattice, 2 * z, 2 * y, 2 * x)
          finer(smooth, coarse, z, y, x)
          if nearest(far, smooth, tree, frame, lattice.voxel)
            sided(signs, far, smooth, coarse, places, n, lattice.voxel, closed)
            4096.times { |c| signs[c] = side(signs, far, tree, frame, c, lattice.voxel, closed) if signs[c] == 0 }
            4096.times { |c| smooth[c] = signs[c] * far[c] if far[c] < NearKernels::REACH * lattice.voxel }
          end
          4096.times { |c| values[16 * n + c / 256, c / 16 & 15, c & 15] = smooth[c].clamp(-band, band) }
        end
      end

      # On which side cells lie by what coarse ones say, 0 where those do not tell. Where no triangle is as near as the
      # coarse cell next to it, that is on the same side.
      kernel signs: I32[1], far: F32[1], smooth: F32[1], coarse: F32[3], places: I32[2], n: I32, voxel: F32,
        closed: BOOL
      def sided(signs, far, smooth, coarse, places, n, voxel, closed)
        4096.times do |c|
          signs[c] = smooth[c] < 0.0 ? -1 : 1
          if far[c] < NearKernels::REACH * voxel
            odd = (c / 256 & 1) + (c / 16 & 1) + (c & 1)
            own =
              coarse[
                8 * places[n, 0] + 1 + c / 512, 8 * places[n, 1] + 1 + (c / 32 & 7), 8 * places[n, 2] + 1 + (c / 2 & 7)
              ]
            away = (odd == 0 ? 0.0 : Math.sqrt(odd.to_f) + 0.05) * voxel
            signs[c] = closed && [far[c], own.abs].max > away ? (own < 0.0 ? -1 : 1) : 0
          end
        end
      end

      # Metres to the surface where that is near, 1e6 elsewhere. @return whether it is anywhere
      kernel far: F32[1], smooth: F32[1], tree: Geometry::Tree, frame: F32[1], voxel: F32, returns: BOOL
      def nearest(far, smooth, tree, frame, voxel)
        near = NearKernels::REACH * voxel
        4096.times { |c| far[c] = 1e12 }
        count = NearKernels.tell(far, tree, frame, voxel)
        if count <= NearKernels::MANY
          4096.times { |c| far[c] = Math.sqrt(far[c]) * voxel } if count > 0
        else
          last = -1
          4096.times do |c|
            far[c] = 1e6
            # By what coarser cells say, with a cell to spare.
            if smooth[c].abs < near + voxel
              x, y, z = place(frame, c)
              far[c], last = BVHKernels.closest(tree.corners, tree.boxes, x, y, z, near, last)
            end
          end
        end
        count > 0
      end

      # On which side of the surface a cell lies whose coarse one does not say: on that of a neighbour farther from the
      # surface than from it, or else as the mesh winds around it.
      kernel signs: I32[1], far: F32[1], tree: Geometry::Tree, frame: F32[1], c: I32, voxel: F32, closed: BOOL,
        returns: I32
      def side(signs, far, tree, frame, c, voxel, closed)
        found = 0
        if closed
          k = c / 256
          j = c / 16 & 15
          i = c & 15
          ([k - 1, 0].max..[k + 1, 15].min).each do |r|
            ([j - 1, 0].max..[j + 1, 15].min).each do |q|
              ([i - 1, 0].max..[i + 1, 15].min).each do |p|
                at = 256 * r + 16 * q + p
                away = Math.sqrt(((r - k) * (r - k) + (q - j) * (q - j) + (p - i) * (p - i)).to_f) * voxel
                found = signs[at] if found == 0 && far[at] > 1.001 * away
              end
            end
          end
        end
        if found == 0
          x, y, z = place(frame, c)
          outside = BVHKernels.box_distance(tree.boxes, 0, x, y, z) > 0.0
          found = outside || BVHKernels.winding(tree.corners, tree.boxes, tree.far, x, y, z) <= 0.5 ? 1 : -1
        end
        found
      end

      # Where a brick's first cell lies in the mesh's space, and the way to the next along x, y and z.
      kernel frame: F32[1], m: F32[1], lattice: Grid::Lattice, k: I32, j: I32, i: I32
      def frame(frame, m, lattice, k, j, i)
        a = lattice.x + i * lattice.voxel
        b = lattice.y + j * lattice.voxel
        c = lattice.z + k * lattice.voxel
        3.times do |r|
          frame[r] = m[4 * r] * a + m[4 * r + 1] * b + m[4 * r + 2] * c + m[4 * r + 3]
          frame[3 + r] = m[4 * r] * lattice.voxel
          frame[6 + r] = m[4 * r + 1] * lattice.voxel
          frame[9 + r] = m[4 * r + 2] * lattice.voxel
        end
      end

      kernel frame: F32[1], c: I32, returns: [F32, F32, F32]
      def place(frame, c)
        i = c & 15
        j = c / 16 & 15
        k = c / 256
        return [
          frame[0] + i * frame[3] + j * frame[6] + k * frame[9], frame[1] + i * frame[4] + j * frame[7] + k * frame[10],
          frame[2] + i * frame[5] + j * frame[8] + k * frame[11]
        ]
      end

      # A brick's cells from cells twice as large, of which it begins at the second: those between two by Catmull and
      # Rom's four weights, along x, then y, then z.
      kernel smooth: F32[1], coarse: F32[3], z: I32, y: I32, x: I32
      def finer(smooth, coarse, z, y, x)
        rows = local_f32(1936)
        layers = local_f32(2816)
        11.times do |k|
          11.times do |j|
            8.times do |i|
              rows[176 * k + 16 * j + 2 * i] = coarse[z + k, y + j, x + i + 1]
              rows[176 * k + 16 * j + 2 * i + 1] = between(
                coarse[z + k, y + j, x + i], coarse[z + k, y + j, x + i + 1], coarse[z + k, y + j, x + i + 2],
                coarse[z + k, y + j, x + i + 3]
              )
            end
          end
        end
        11.times { |k| 8.times { |j| pair(layers, 256 * k + 32 * j, rows, 176 * k + 16 * j, 16, 16) } }
        8.times { |k| pair(smooth, 512 * k, layers, 256 * k, 256, 256) }
      end

      # Two rows of `count` numbers, from four that stand `apart`: the second as it is, and between it and the third.
      kernel out: F32[1], to: I32, from: F32[1], at: I32, apart: I32, count: I32
      def pair(out, to, from, at, apart, count)
        count.times do |c|
          out[to + c] = from[at + apart + c]
          out[to + count + c] = between(
            from[at + c], from[at + apart + c], from[at + 2 * apart + c], from[at + 3 * apart + c]
          )
        end
      end

      kernel a: F32, b: F32, c: F32, d: F32, returns: F32
      def between(a, b, c, d)
        0.5625 * (b + c) - 0.0625 * (a + d)
      end

      # Bricks of numbers into one array, as far as it goes.
      kernel out: F32[3], values: F32[3], places: I32[2]
      def lay(out, values, places)
        parallel(places.dim(0)) do |n|
          4096.times do |c|
            k = 16 * places[n, 0] + c / 256
            j = 16 * places[n, 1] + (c / 16 & 15)
            i = 16 * places[n, 2] + (c & 15)
            out[k, j, i] = values[16 * n + c / 256, c / 16 & 15, c & 15] if k < out.dim(0) && j < out.dim(1) && i < out.dim(2)
          end
        end
      end

      # Which bricks come as near as `band`, by cells twice as large as theirs (one before the first); and what all
      # others are.
      kernel marks: U8[3], tiles: F32[3], coarse: F32[3], band: F32, voxel: F32
      def nearing(marks, tiles, coarse, band, voxel)
        each_cell(marks) do |k, j, i|
          least = 1e30
          (0..8).each do |c|
            (0..8).each do |b|
              (0..8).each { |a| least = [least, coarse[8 * k + c + 1, 8 * j + b + 1, 8 * i + a + 1].abs].min }
            end
          end
          marks[k, j, i] = least < band + 1.8 * voxel ? 1 : 0
          tiles[k, j, i] = coarse[8 * k + 5, 8 * j + 5, 8 * i + 5] < 0.0 ? -band : band
        end
      end
    end
  end
end
