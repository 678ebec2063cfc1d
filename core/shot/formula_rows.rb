# frozen_string_literal: true

module Vumbral
  module Shot
    # Carries {Formula} programs out over bricks of 16³ cells, a row of sixteen at a time: the numbers of
    # {FormulaKernels.evaluate}, but each word of the program is looked up once for all of the row.
    module FormulaRows
      extend Kernel::Library

      # @param values f32 [16 n, 16, 16], also what `value` reads; @param places i32 [n, 3] of the bricks
      # @param others f32 [16 n m, 16, 16], what {Formula::CHANNELS} stand for, one behind the other, where they are
      #   asked for
      kernel values: F32[3], places: I32[2], program: F32[2], setting: F32[1], others: F32[3]
      def evaluate(values, places, program, setting, others)
        parallel(places.dim(0), uneven: true) do |n|
          stack = local_f32(1024)
          triple = local_f32(48)
          row = local_f32(16)
          never = local_i32(4)
          4.times { |c| never[c] = 0 }
          voxel = setting[FormulaKernels::VOXEL]
          16.times do |k|
            z = setting[FormulaKernels::FIRST + 2] + (16 * places[n, 0] + k) * voxel
            16.times do |j|
              y = setting[FormulaKernels::FIRST + 1] + (16 * places[n, 1] + j) * voxel
              top = 0
              program.dim(0).times do |m|
                kind = program[m, 0].to_i
                if kind == 0
                  16.times { |i| stack[top + i] = program[m, 1] }
                elsif kind == 1 && program[m, 1] > 9.5
                  at = (program[m, 1].to_i - 10) * values.dim(0) + 16 * n + k
                  16.times { |i| stack[top + i] = others[at, j, i] }
                elsif kind == 1
                  which = program[m, 1].to_i
                  16.times do |i|
                    stack[top + i] = FormulaKernels.pick(
                      which, setting, setting[FormulaKernels::FIRST] + (16 * places[n, 2] + i) * voxel, y, z,
                      values[16 * n + k, j, i]
                    )
                  end
                else
                  top -= 16 * FormulaKernels.count(kind - 2)
                  work(stack, top, kind - 2, triple, row, setting[FormulaKernels::SEED], never)
                end
                top += 16
              end
              16.times { |i| values[16 * n + k, j, i] = stack[i] }
            end
          end
        end
      end

      # One word, done to what lies on the stack from `top` on.
      kernel stack: F32[1], top: I32, f: I32, triple: F32[1], row: F32[1], seed: F32, never: I32[1]
      def work(stack, top, f, triple, row, seed, never)
        if f == 0
          16.times { |i| stack[top + i] = stack[top + i] + stack[top + 16 + i] }
        elsif f == 1
          16.times { |i| stack[top + i] = stack[top + i] - stack[top + 16 + i] }
        elsif f == 2
          16.times { |i| stack[top + i] = stack[top + i] * stack[top + 16 + i] }
        elsif f == 23
          48.times { |i| triple[i] = stack[top + i] }
          Grid::Noise.row(row, triple, 1.0, 0.0, seed.to_i, never, 0)
          16.times { |i| stack[top + i] = row[i] }
        else
          takes = FormulaKernels.count(f)
          16.times do |i|
            b = (takes > 1) ? stack[top + 16 + i] : 0.0
            c = (takes > 2) ? stack[top + 32 + i] : 0.0
            stack[top + i] = FormulaKernels.work(f, stack[top + i], b, c, seed)
          end
        end
      end
    end
  end
end
