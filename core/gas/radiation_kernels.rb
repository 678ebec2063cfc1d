# frozen_string_literal: true

module Vumbral
  module Gas
    # Loops that let hot gas radiate through its own smoke, on cells twice as large.
    module RadiationKernels
      extend Kernel::Library

      # What each coarse cell gives off (K/s, by the fourth power of its heat), and how thick its smoke
      # is along an axis. `thickness` is of one voxel for a density of 1.
      kernel glow: F32[3], thick: F32[3], smoke: F32[3], heat: F32[3], rate: F32, thickness: F32
      def gather(glow, thick, smoke, heat, rate, thickness)
        each_cell(glow) do |k, j, i|
          sum = 0.0
          held = 0.0
          8.times do |n|
            c = [2 * k + n / 4, heat.dim(0) - 1].min
            b = [2 * j + n / 2 % 2, heat.dim(1) - 1].min
            a = [2 * i + n % 2, heat.dim(2) - 1].min
            t = [heat[c, b, a], 0.0].max
            sum += t * t * t * t
            held += smoke[c, b, a]
          end
          glow[k, j, i] = 0.125 * rate * sum
          thick[k, j, i] = 0.25 * thickness * [held, 0.0].max
        end
      end

      # One sweep there and back along an axis (0 x, 1 y, 2 z): a sixth of what each cell gives off goes
      # each way, and is taken up as far as the smoke on its way is thick. `taken` is added to.
      kernel taken: F32[3], glow: F32[3], thick: F32[3], axis: I32
      def sweep(taken, glow, thick, axis)
        length = axis == 0 ? glow.dim(2) : (axis == 1 ? glow.dim(1) : glow.dim(0))
        across = axis == 0 ? glow.dim(1) : glow.dim(2)
        parallel(axis == 2 ? glow.dim(1) : glow.dim(0)) do |row|
          across.times do |n|
            2.times do |way|
              flux = 0.0
              length.times do |step|
                m = way == 0 ? step : length - 1 - step
                k = axis == 2 ? m : row
                j = axis == 0 ? n : (axis == 1 ? m : row)
                i = axis == 0 ? m : n
                through = Math.exp(-thick[k, j, i])
                leaves = thick[k, j, i] > 1e-4 ? (1.0 - through) / thick[k, j, i] : 1.0
                given = glow[k, j, i] / 6.0
                taken[k, j, i] += flux * (1.0 - through) + given * (1.0 - leaves)
                flux = flux * through + given * leaves
              end
            end
          end
        end
      end

      # Cools and warms: what a place gives off less what it takes up. `thrice` is 3·rate·dt of gas
      # without smoke, which the fourth power makes exact for any step.
      kernel heat: F32[3], glow: F32[3], taken: F32[3], thrice: F32, dt: F32
      def radiate(heat, glow, taken, thrice, dt)
        parallel(heat.dim(0)) do |k|
          z = 0.5 * k - 0.25
          heat.dim(1).times do |j|
            y = 0.5 * j - 0.25
            heat.dim(2).times do |i|
              x = 0.5 * i - 0.25
              t = heat[k, j, i]
              up = Grid::Sampling.linear(taken, x, y, z)
              if t > 60.0 || up > 0.0
                down = Grid::Sampling.linear(glow, x, y, z)
                share = down > up ? 1.0 - up / down : 0.0
                if t > 60.0
                  t /= (1.0 + thrice * share * t * t * t)**0.33333334
                end
                heat[k, j, i] = t + dt * [up - down, 0.0].max
              end
            end
          end
        end
      end
    end
  end
end
