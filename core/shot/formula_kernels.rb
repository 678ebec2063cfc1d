# frozen_string_literal: true

module Vumbral
  module Shot
    # Carries out {Formula} programs over fields, cell by cell, on a small stack.
    module FormulaKernels
      extend Kernel::Library

      STACK = 64

      # `out` takes the formula's value at each cell of a region; it is also what `value` reads.
      # `program` f32 [steps, 2]. Cells stand at `x0 y0 z0` and on, metres; the box goes from `bx by bz`
      # over `sx sy sz`. A division by nothing gives nothing.
      kernel out: F32[3], program: F32[2], frame: F32, t: F32, seed: F32, x0: F32, y0: F32, z0: F32, voxel: F32,
        bx: F32, by: F32, bz: F32, sx: F32, sy: F32, sz: F32
      def evaluate(out, program, frame, t, seed, x0, y0, z0, voxel, bx, by, bz, sx, sy, sz)
        parallel(out.dim(0), uneven: true) do |k|
          z = z0 + k * voxel
          out.dim(1).times do |j|
            y = y0 + j * voxel
            out.dim(2).times do |i|
              x = x0 + i * voxel
              stack = local_f32(64)
              top = 0
              program.dim(0).times do |n|
                kind = program[n, 0].to_i
                if kind == 0
                  stack[top] = program[n, 1]
                  top += 1
                elsif kind == 1
                  which = program[n, 1].to_i
                  stack[top] = pick(which, frame, t, x, y, z, (x - bx) / sx, (y - by) / sy, (z - bz) / sz, out[k, j, i], seed)
                  top += 1
                else
                  takes = count(kind - 2)
                  top -= takes
                  a = stack[top]
                  b = takes > 1 ? stack[top + 1] : 0.0
                  c = takes > 2 ? stack[top + 2] : 0.0
                  stack[top] = work(kind - 2, a, b, c, seed)
                  top += 1
                end
              end
              out[k, j, i] = stack[0]
            end
          end
        end
      end

      kernel which: I32, frame: F32, t: F32, x: F32, y: F32, z: F32, u: F32, v: F32, w: F32, value: F32, seed: F32, returns: F32
      def pick(which, frame, t, x, y, z, u, v, w, value, seed)
        return frame if which == 0
        return t if which == 1
        return x if which == 2
        return y if which == 3
        return z if which == 4
        return u if which == 5
        return v if which == 6
        return w if which == 7
        return value if which == 8

        seed
      end

      # How many numbers a function takes, in the order of {Formula::FUNCTIONS}.
      kernel f: I32, returns: I32
      def count(f)
        return 1 if f == 5 || (f >= 12 && f <= 17) || f == 25
        return 3 if f == 11 || (f >= 20 && f <= 23)

        2
      end

      kernel f: I32, a: F32, b: F32, c: F32, seed: F32, returns: F32
      def work(f, a, b, c, seed)
        return a + b if f == 0
        return a - b if f == 1
        return a * b if f == 2
        return b == 0.0 ? 0.0 : a / b if f == 3
        return raised(a, b) if f == 4
        return -a if f == 5
        return a < b ? 1.0 : 0.0 if f == 6
        return a > b ? 1.0 : 0.0 if f == 7
        return (a - b).abs < 0.000001 ? 1.0 : 0.0 if f == 8
        return a != 0.0 && b != 0.0 ? 1.0 : 0.0 if f == 9
        return a != 0.0 || b != 0.0 ? 1.0 : 0.0 if f == 10
        return a != 0.0 ? b : c if f == 11
        return Math.sin(a) if f == 12
        return Math.cos(a) if f == 13
        return a.abs if f == 14
        return Math.sqrt([a, 0.0].max) if f == 15
        return Math.exp([a, 80.0].min) if f == 16
        return floored(a) if f == 17
        return [a, b].min if f == 18
        return [a, b].max if f == 19
        return [[a, b].max, c].min if f == 20
        return a + (b - a) * c if f == 21
        return step(a, b, c) if f == 22
        return Grid::Noise.value(a, b, c, 0.0, seed.to_i) if f == 23
        return b == 0.0 ? 0.0 : a % b if f == 24

        a == 0.0 ? 1.0 : 0.0
      end

      kernel a: F32, b: F32, returns: F32
      def raised(a, b)
        whole = (b - floored(b)).abs < 0.000001
        odd = (floored(b) % 2.0).abs > 0.5
        sized = a == 0.0 ? 0.0 : Math.exp([b * Math.log(a.abs), 80.0].min)
        sized = b == 0.0 ? 1.0 : sized
        a >= 0.0 ? sized : (whole ? (odd ? -sized : sized) : 0.0)
      end

      kernel a: F32, returns: F32
      def floored(a)
        a.floor.to_f
      end

      # From 0 at a to 1 at b, smoothly.
      kernel a: F32, b: F32, x: F32, returns: F32
      def step(a, b, x)
        span = b - a
        s = span == 0.0 ? (x < a ? 0.0 : 1.0) : ((x - a) / span).clamp(0.0, 1.0)
        s * s * (3.0 - 2.0 * s)
      end
    end
  end
end
