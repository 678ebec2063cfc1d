# frozen_string_literal: true

module Vumbral
  module Liquid
    # What comes up out of deep cells as particles: each of the eight that stand in one, somewhere in its eighth, goes along
    # with the speed of the grid, and is there where it comes to if that is not deep.
    module WellKernels
      extend Kernel::Library

      # Where one of the eight particles of a cell is: `n` counts the cells, `s` the eighths.
      kernel deep: U8[3], n: I32, s: I32, seed: I32, returns: [F32, F32, F32]
      def place(deep, n, s, seed)
        nx = deep.dim(2)
        ny = deep.dim(1)
        x = n % nx + 0.5 * (s & 1) + 0.5 * Grid::Noise.lattice(n, s, 0, 0, seed)
        y = (n / nx) % ny + 0.5 * (s >> 1 & 1) + 0.5 * Grid::Noise.lattice(n, s, 1, 0, seed)
        z = n / (nx * ny) + 0.5 * (s >> 2) + 0.5 * Grid::Noise.lattice(n, s, 2, 0, seed)
        return x, y, z
      end

      # Where what is there comes to.
      kernel faces: Flow::Faces, x: F32, y: F32, z: F32, step: F32, returns: [F32, F32, F32]
      def after(faces, x, y, z, step)
        u, v, w = MoveKernels.speed_at(faces, x, y, z)
        a, b, c = DeepKernels.before(faces, x, y, z, -step * u, -step * v, -step * w, -step)
        return a, b, c
      end

      # How many come out of each of some cells, and which (a bit for each eighth).
      # @param marks i32 [cells, 2] takes the bits, and before how many others each one's stand
      # @param step how far a speed of 1 m/s leads, cells
      # @return how many in all
      kernel marks: I32[2], cells: I32[1], deep: U8[3], faces: Flow::Faces, far: F32[3], step: F32, seed: I32, returns: I32
      def find(marks, cells, deep, faces, far, step, seed)
        parallel(marks.dim(0)) do |m|
          bits = 0
          8.times do |s|
            x, y, z = place(deep, cells[m], s, seed)
            if Grid::Sampling.linear(far, x, y, z) > 0.02
              a, b, c = after(faces, x, y, z, step)
              inside = a >= 0.0 && b >= 0.0 && c >= 0.0 && a < deep.dim(2).to_f && b < deep.dim(1).to_f && c < deep.dim(0).to_f
              if inside && Grid::Sampling.linear(far, a, b, c) > MoveKernels::APART
                bits |= (1 << s) if deep[c.to_i, b.to_i, a.to_i] == 0
              end
            end
          end
          marks[m, 0] = bits
        end
        count = 0
        marks.dim(0).times do |m|
          marks[m, 1] = count
          8.times { |s| count += marks[m, 0] >> s & 1 }
        end
        count
      end

      # Puts them where they come to, with the grid's speed.
      # @param pace f32 [3]: how far 1 m/s leads (cells), how much of the change of speed over space they carry, one over
      #   the voxel
      kernel drops: Liquid::Drops, marks: I32[2], cells: I32[1], deep: U8[3], faces: Flow::Faces, pace: F32[1], seed: I32
      def put(drops, marks, cells, deep, faces, pace, seed)
        parallel(marks.dim(0)) do |m|
          p = marks[m, 1]
          8.times do |s|
            if marks[m, 0] >> s & 1 == 1
              x, y, z = place(deep, cells[m], s, seed)
              a, b, c = after(faces, x, y, z, pace[0])
              drops.at[p, 0] = a
              drops.at[p, 1] = b
              drops.at[p, 2] = c
              speed(drops, p, faces, a, b, c, pace[1] * pace[2])
              p += 1
            end
          end
        end
      end

      # The grid's speed at a place, and how it changes there, for one particle.
      kernel drops: Liquid::Drops, p: I32, faces: Flow::Faces, x: F32, y: F32, z: F32, scale: F32
      def speed(drops, p, faces, x, y, z, scale)
        i, fx = MoveKernels.spot(x - 0.5, faces.v.dim(2))
        j, fy = MoveKernels.spot(y - 0.5, faces.u.dim(1))
        k, fz = MoveKernels.spot(z - 0.5, faces.u.dim(0))
        i1, fx1 = MoveKernels.spot(x, faces.v.dim(2) + 1)
        j1, fy1 = MoveKernels.spot(y, faces.u.dim(1) + 1)
        k1, fz1 = MoveKernels.spot(z, faces.u.dim(0) + 1)
        u, ux, uy, uz = MoveKernels.taken(faces.u, k, j, i1, fz, fy, fx1)
        v, vx, vy, vz = MoveKernels.taken(faces.v, k, j1, i, fz, fy1, fx)
        w, wx, wy, wz = MoveKernels.taken(faces.w, k1, j, i, fz1, fy, fx)
        drops.speed[p, 0] = u
        drops.speed[p, 1] = v
        drops.speed[p, 2] = w
        drops.turn[p, 0] = scale * ux
        drops.turn[p, 1] = scale * uy
        drops.turn[p, 2] = scale * uz
        drops.turn[p, 3] = scale * vx
        drops.turn[p, 4] = scale * vy
        drops.turn[p, 5] = scale * vz
        drops.turn[p, 6] = scale * wx
        drops.turn[p, 7] = scale * wy
        drops.turn[p, 8] = scale * wz
      end
    end
  end
end
