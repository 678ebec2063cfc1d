# frozen_string_literal: true

module Vumbral
  module Shot
    # Carries out {Formula} programs over fields, cell by cell, on a small stack.
    module FormulaKernels
      extend Kernel::Library

      STACK = 64

      # What a formula is carried out at, as {Formula.setting} lays it down: the frame, seconds, the seed, the
      # centre of the first cell, the voxel, the box's lowest corner and its size.
      FRAME, TIME, SEED, FIRST, VOXEL, BOX, SIZE = 0, 1, 2, 3, 6, 7, 10

      # `out` takes the formula's value at each cell of a region; it is also what `value` reads.
      # `program` f32 [steps, 2]. A division by nothing gives nothing.
      kernel out: F32[3], program: F32[2], setting: F32[1]
      def evaluate(out, program, setting)
        parallel(out.dim(0), uneven: true) do |k|
          z = setting[FIRST + 2] + k * setting[VOXEL]
          out.dim(1).times do |j|
            y = setting[FIRST + 1] + j * setting[VOXEL]
            out.dim(2).times do |i|
              result, _nothing = value(program, setting, setting[FIRST] + i * setting[VOXEL], y, z, out[k, j, i])
              out[k, j, i] = result
            end
          end
        end
      end

      # In how many cells of a region a formula divides by nothing. `size` i32 [3], cells along z, y, x.
      kernel program: F32[2], setting: F32[1], size: I32[1], returns: F64
      def divisions_by_nothing(program, setting, size)
        cells = parallel_sum(size[0]) do |k|
          found = f64(0.0)
          z = setting[FIRST + 2] + k * setting[VOXEL]
          size[1].times do |j|
            y = setting[FIRST + 1] + j * setting[VOXEL]
            size[2].times do |i|
              _result, nothing = value(program, setting, setting[FIRST] + i * setting[VOXEL], y, z, 1.0)
              found += 1.0 if nothing > 0.0
            end
          end
          found
        end
        cells
      end

      # The formula at one place, and how often it divides by nothing there.
      kernel program: F32[2], setting: F32[1], x: F32, y: F32, z: F32, before: F32, returns: [F32, F32]
      def value(program, setting, x, y, z, before)
        stack = local_f32(64)
        top = 0
        nothing = 0.0
        program.dim(0).times do |n|
          kind = program[n, 0].to_i
          if kind == 0
            stack[top] = program[n, 1]
            top += 1
          elsif kind == 1
            stack[top] = pick(program[n, 1].to_i, setting, x, y, z, before)
            top += 1
          else
            takes = count(kind - 2)
            top -= takes
            a = stack[top]
            b = takes > 1 ? stack[top + 1] : 0.0
            c = takes > 2 ? stack[top + 2] : 0.0
            nothing += 1.0 if nothing?(kind - 2, a, b)
            stack[top] = work(kind - 2, a, b, c, setting[SEED])
            top += 1
          end
        end
        return stack[0], nothing
      end

      # Division, remainder, or nothing to a negative power.
      kernel f: I32, a: F32, b: F32, returns: BOOL
      def nothing?(f, a, b)
        ((f == 3 || f == 24) && b == 0.0) || (f == 4 && a == 0.0 && b < 0.0)
      end

      kernel which: I32, setting: F32[1], x: F32, y: F32, z: F32, value: F32, returns: F32
      def pick(which, setting, x, y, z, value)
        return setting[FRAME] if which == 0
        return setting[TIME] if which == 1
        return x if which == 2
        return y if which == 3
        return z if which == 4
        return (x - setting[BOX]) / setting[SIZE] if which == 5
        return (y - setting[BOX + 1]) / setting[SIZE + 1] if which == 6
        return (z - setting[BOX + 2]) / setting[SIZE + 2] if which == 7
        return value if which == 8

        setting[SEED]
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
