# frozen_string_literal: true

module Vumbral
  module Liquid
    # What comes up out of deep cells as particles: each of the eight that stand in one, somewhere in its eighth, goes
    # along with the speed of the grid, and is there where it comes to if that is not deep.
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
      kernel marks: I32[2], cells: I32[1], deep: U8[3], faces: Flow::Faces, far: F32[3], step: F32, seed: I32,
        returns: I32
      def find(marks, cells, deep, faces, far, step, seed)
        parallel(marks.dim(0)) do |m|
          bits = 0
          8.times do |s|
            x, y, z = place(deep, cells[m], s, seed)
            if Grid::Sampling.linear(far, x, y, z) > 0.02
              a, b, c = after(faces, x, y, z, step)
              inside =
                a >= 0.0 && b >= 0.0 && c >= 0.0 && a < deep.dim(2).to_f && b < deep.dim(1).to_f && c < deep.dim(0).to_f
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
      # @param pace f32 [3]: how far 1 m/s leads (cells), how much of the change of speed over space they carry, one
      #   over the voxel
      kernel drops: Liquid::Drops, marks: I32[2], cells: I32[1], deep: U8[3], faces: Flow::Faces, pace: F32[1],
        seed: I32
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
              u, v, w = MoveKernels.turned(drops, p, faces, pace[1] * pace[2])
              drops.speed[p, 0] = u
              drops.speed[p, 1] = v
              drops.speed[p, 2] = w
              p += 1
            end
          end
        end
      end
    end
  end
end
