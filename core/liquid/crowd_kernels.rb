# frozen_string_literal: true

module Vumbral
  module Liquid
    # Particles that were pressed together where they cannot leave, as between a thing and the floor that it comes to
    # rest on, go to where the liquid about them has become thin.
    module CrowdKernels
      extend Kernel::Library

      # More than so many particles in a cell are a crowd, eight being usual.
      MOST = 20
      # Fewer than so many are thin, where each neighbour has as many as that at least.
      THIN, AROUND = 7, 4
      # Cells from a crowd within which there may be room, and how far from walls.
      REACH, APART = 12, 1.0

      # @param first where each cell's particles begin; @param deep cells that are full without any
      # @param came i32 [cells], takes how many have come to each cell, or stand for a deep one
      # @param far signed distance to walls at cells' corners, cells; @param scale of how speed changes, see
      #   {MoveKernels.turned}
      # @return [Integer] how many have moved
      kernel drops: Liquid::Drops, first: I32[1], deep: U8[3], came: I32[1], far: F32[3], faces: Flow::Faces,
        scale: F32,
        returns: I32
      def relieve(drops, first, deep, came, far, faces, scale)
        nz = faces.u.dim(0)
        ny = faces.u.dim(1)
        nx = faces.v.dim(2)
        nz.times { |k| ny.times { |j| nx.times { |i| came[(k * ny + j) * nx + i] = 8 * deep[k, j, i] } } }
        moved = 0
        (nz * ny * nx).times do |cell|
          p = first[cell + 1] - 1
          left = first[cell + 1] - first[cell] - MOST
          r = 1
          while left > 0 && r <= REACH
            k = cell / (ny * nx)
            j = cell / nx % ny
            i = cell % nx
            ([k - r, 1].max..[k + r, nz - 2].min).each do |c|
              ([j - r, 1].max..[j + r, ny - 2].min).each do |b|
                ([i - r, 1].max..[i + r, nx - 2].min).each do |a|
                  shell = [(c - k).abs, (b - j).abs, (a - i).abs].max == r
                  room = shell && left > 0 ? [thin(first, came, far, c, b, a, ny, nx), left].min : 0
                  room.times do |n|
                    drops.at[p, 0] = a + 0.1 + 0.8 * Grid::Noise.lattice(drops.id[p], n, 1, 3, 17)
                    drops.at[p, 1] = b + 0.1 + 0.8 * Grid::Noise.lattice(drops.id[p], n, 2, 3, 17)
                    drops.at[p, 2] = c + 0.1 + 0.8 * Grid::Noise.lattice(drops.id[p], n, 3, 3, 17)
                    u, v, w = MoveKernels.turned(drops, p, faces, scale)
                    drops.speed[p, 0] = u
                    drops.speed[p, 1] = v
                    drops.speed[p, 2] = w
                    p -= 1
                  end
                  came[(c * ny + b) * nx + a] += room
                  left -= room
                  moved += room
                end
              end
            end
            r += 1
          end
        end
        moved
      end

      # How many more find room in a cell within the liquid, away from walls.
      kernel first: I32[1], came: I32[1], far: F32[3], k: I32, j: I32, i: I32, ny: I32, nx: I32, returns: I32
      def thin(first, came, far, k, j, i, ny, nx)
        here = (k * ny + j) * nx + i
        room = THIN + 1 - held(first, came, here)
        if room > 1
          least = [
            [held(first, came, here - 1), held(first, came, here + 1)].min,
            [held(first, came, here - nx), held(first, came, here + nx)].min
          ].min
          least = [least, [held(first, came, here - ny * nx), held(first, came, here + ny * nx)].min].min
          room = 0 if least < AROUND || Grid::Sampling.linear(far, i + 0.5, j + 0.5, k + 0.5) < APART
        else
          room = 0
        end
        room
      end

      kernel first: I32[1], came: I32[1], cell: I32, returns: I32
      def held(first, came, cell)
        first[cell + 1] - first[cell] + came[cell]
      end
    end
  end
end
