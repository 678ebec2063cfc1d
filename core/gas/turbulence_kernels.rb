# frozen_string_literal: true

module Vumbral
  module Gas
    # Turbulence as the curl of a noise potential, where there is something to stir.
    module TurbulenceKernels
      extend Kernel::Library

      # How far a cell takes part, 0 to 1.
      kernel smoke: F32[3], heat: F32[3], k: I32, j: I32, i: I32, returns: F32
      def share(smoke, heat, k, j, i)
        (4.0 * smoke[k, j, i] + 0.05 * heat[k, j, i].abs).clamp(0.0, 1.0)
      end

      # Is there anything in a cell or beside it?
      kernel smoke: F32[3], heat: F32[3], k: I32, j: I32, i: I32, returns: BOOL
      def wanted(smoke, heat, k, j, i)
        a = [k - 1, 0].max
        b = [k + 1, smoke.dim(0) - 1].min
        c = [j - 1, 0].max
        d = [j + 1, smoke.dim(1) - 1].min
        e = [i - 1, 0].max
        f = [i + 1, smoke.dim(2) - 1].min
        sum = share(smoke, heat, k, j, i) + share(smoke, heat, a, j, i) + share(smoke, heat, b, j, i) + share(smoke, heat, k, c, i) +
          share(smoke, heat, k, d, i) + share(smoke, heat, k, j, e) + share(smoke, heat, k, j, f)
        sum > 0.0
      end

      # Three noises at cell centres, two octaves; `size` is cells a swirl, `time` counts changes.
      kernel px: F32[3], py: F32[3], pz: F32[3], smoke: F32[3], heat: F32[3], size: F32, time: F32, seed: I32
      def potential(px, py, pz, smoke, heat, size, time, seed)
        parallel(px.dim(0), uneven: true) do |k|
          per = 1.0 / size
          px.dim(1).times do |j|
            px.dim(2).times do |i|
              if wanted(smoke, heat, k, j, i)
                x = i * per
                y = j * per
                z = k * per
                px[k, j, i] = octaves(x, y, z, time, seed * 3 + 101)
                py[k, j, i] = octaves(x, y, z, time, seed * 3 + 102)
                pz[k, j, i] = octaves(x, y, z, time, seed * 3 + 103)
              end
            end
          end
        end
      end

      kernel x: F32, y: F32, z: F32, time: F32, seed: I32, returns: F32
      def octaves(x, y, z, time, seed)
        Grid::Noise.value(x, y, z, time, seed) + 0.25 * Grid::Noise.value(2.0 * x + 0.37, 2.0 * y + 0.71, 2.0 * z + 0.13, 2.0 * time, seed + 7)
      end

      # Adds the potential's curl, times `gain`, to an acceleration; the outermost cells are left.
      kernel ax: F32[3], ay: F32[3], az: F32[3], px: F32[3], py: F32[3], pz: F32[3], smoke: F32[3], heat: F32[3], gain: F32
      def stir(ax, ay, az, px, py, pz, smoke, heat, gain)
        parallel(ax.dim(0) - 2) do |n|
          k = n + 1
          (1...(ax.dim(1) - 1)).each do |j|
            (1...(ax.dim(2) - 1)).each do |i|
              amount = share(smoke, heat, k, j, i)
              if amount > 0.0
                g = 0.5 * gain * amount
                ax[k, j, i] += g * (pz[k, j + 1, i] - pz[k, j - 1, i] - py[k + 1, j, i] + py[k - 1, j, i])
                ay[k, j, i] += g * (px[k + 1, j, i] - px[k - 1, j, i] - pz[k, j, i + 1] + pz[k, j, i - 1])
                az[k, j, i] += g * (py[k, j, i + 1] - py[k, j, i - 1] - px[k, j + 1, i] + px[k, j - 1, i])
              end
            end
          end
        end
      end
    end
  end
end
