# frozen_string_literal: true

module Vumbral
  module Particles
    # The flight of particles.
    module SwarmKernels
      extend Kernel::Library

      # Where each particle is at a moment and was a little before: `now` f32 [n, 8] takes place,
      # place before, age as a part of its life (0 to 1; -1 for not there), size of its random
      # number. `born` f32 [n, 12] holds place, velocity, time of birth, life, drag, fall (m/s²),
      # turbulence (m/s²) and its size (m). Steps of `dt` seconds, drag exact within each.
      kernel now: F32[2], born: F32[2], time: F32, before: F32, dt: F32, seed: I32
      def fly(now, born, time, before, dt, seed)
        parallel(born.dim(0), uneven: true) do |n|
          birth = born[n, 6]
          life = born[n, 7]
          now[n, 6] = -1.0
          now[n, 7] = Grid::Noise.lattice(n, 17, 3, 5, seed)
          if time >= birth && time < birth + life
            x = born[n, 0]
            y = born[n, 1]
            z = born[n, 2]
            u = born[n, 3]
            v = born[n, 4]
            w = born[n, 5]
            px = x
            py = y
            pz = z
            t = birth
            while t < time
              step = [dt, time - t].min
              kept = Math.exp(-born[n, 8] * step)
              s = 1.0 / born[n, 11]
              stir = born[n, 10]
              a = 0.0
              b = 0.0
              c = 0.0
              if stir > 0.0
                a = stir * Grid::Noise.value(x * s, y * s, z * s, t, seed + 1)
                b = stir * Grid::Noise.value(x * s, y * s, z * s, t, seed + 2)
                c = stir * Grid::Noise.value(x * s, y * s, z * s, t, seed + 3)
              end
              u = u * kept + a * step
              v = v * kept + (b - born[n, 9]) * step
              w = w * kept + c * step
              if t <= before
                early = [before - t, step].min
                px = x + u * early
                py = y + v * early
                pz = z + w * early
              end
              x += u * step
              y += v * step
              z += w * step
              t += step
            end
            now[n, 0] = x
            now[n, 1] = y
            now[n, 2] = z
            now[n, 3] = px
            now[n, 4] = py
            now[n, 5] = pz
            now[n, 6] = (time - birth) / life
          end
        end
      end
    end
  end
end
