# frozen_string_literal: true

module Vumbral
  module Flow
    # Loops that give small rolls back what carrying took from them.
    module BoostKernels
      extend Kernel::Library

      # Kinetic energy of a unit of mass at centres, m²/s².
      kernel energy: F32[3], u: F32[3], v: F32[3], w: F32[3]
      def measure(energy, u, v, w)
        each_cell(energy) do |k, j, i|
          a = u[k, j, i] + u[k, j, i + 1]
          b = v[k, j, i] + v[k, j + 1, i]
          c = w[k, j, i] + w[k + 1, j, i]
          energy[k, j, i] = 0.125 * (a * a + b * b + c * c)
        end
      end

      # How much less energy a place has than what has come there brought along, m²/s². `padded` is the energy from
      # before as {CubicKernels.pad} leaves it, `ways` as in {WayKernels}. Read by a line instead of a cubic, the sum
      # would be off by more than what is lost. @return the sum, places that have more counted against it
      kernel lost: F32[3], padded: F32[1], ways: F32[4], u: F32[3], v: F32[3], w: F32[3], returns: F64
      def lose(lost, padded, ways, u, v, w)
        row = lost.dim(2) + 2
        layer = (lost.dim(1) + 2) * row
        sum = parallel_sum(lost.dim(0)) do |k|
          weights = local_f32(CubicKernels::WEIGHTS)
          first = local_i32(CubicKernels::PIECE)
          here = f64(0.0)
          lost.dim(1).times do |j|
            start = 0
            while start < lost.dim(2)
              count = [CubicKernels::PIECE, lost.dim(2) - start].min
              count.times do |m|
                i = start + m
                first[m] = CubicKernels.place(
                  weights, m, i - ways[0, k + 1, j + 1, i + 1], j - ways[1, k + 1, j + 1, i + 1],
                  k - ways[2, k + 1, j + 1, i + 1], lost
                )
              end
              count.times do |m|
                i = start + m
                brought, _low, _high = CubicKernels.read(padded, first[m], weights, m, row, layer)
                a = u[k, j, i] + u[k, j, i + 1]
                b = v[k, j, i] + v[k, j + 1, i]
                c = w[k, j, i] + w[k + 1, j, i]
                less = brought - 0.125 * (a * a + b * b + c * c)
                lost[k, j, i] = less > 0.0 ? less : 0.0
                here += less
              end
              start += CubicKernels::PIECE
            end
          end
          here
        end
        sum
      end

      # The curl at centres times the cell's size (m/s), `[x, y, z, length]`; zero on the outermost cells.
      kernel curl: F32[4], u: F32[3], v: F32[3], w: F32[3]
      def curl(curl, u, v, w)
        nz = curl.dim(1)
        ny = curl.dim(2)
        nx = curl.dim(3)
        parallel(nz) do |k|
          ny.times do |j|
            inner = k > 0 && k < nz - 1 && j > 0 && j < ny - 1
            nx.times { |i| 4.times { |a| curl[a, k, j, i] = 0.0 } }
            if inner
              (1...(nx - 1)).each do |i|
                a = 0.25 * ((w[k, j + 1, i] + w[k + 1, j + 1, i]) - (w[k, j - 1, i] + w[k + 1, j - 1, i]) -
                  (v[k + 1, j, i] + v[k + 1, j + 1, i]) + (v[k - 1, j, i] + v[k - 1, j + 1, i]))
                b = 0.25 * ((u[k + 1, j, i] + u[k + 1, j, i + 1]) - (u[k - 1, j, i] + u[k - 1, j, i + 1]) -
                  (w[k, j, i + 1] + w[k + 1, j, i + 1]) + (w[k, j, i - 1] + w[k + 1, j, i - 1]))
                c = 0.25 * ((v[k, j, i + 1] + v[k, j + 1, i + 1]) - (v[k, j, i - 1] + v[k, j + 1, i - 1]) -
                  (u[k, j + 1, i] + u[k, j + 1, i + 1]) + (u[k, j - 1, i] + u[k, j - 1, i + 1]))
                curl[0, k, j, i] = a
                curl[1, k, j, i] = b
                curl[2, k, j, i] = c
                curl[3, k, j, i] = Math.sqrt(a * a + b * b + c * c)
              end
            end
          end
        end
      end

      # Which way vorticity confinement pushes (Fedkiw, Stam & Jensen 2001), and how far each place
      # may go: the change of speed (m/s) that gives back `gain` times what was lost there.
      kernel px: F32[3], py: F32[3], pz: F32[3], curl: F32[4], lost: F32[3], share: F32[3], gain: F32
      def give(px, py, pz, curl, lost, share, gain)
        parallel(curl.dim(1) - 2) do |n|
          k = n + 1
          (1...(curl.dim(2) - 1)).each do |j|
            (1...(curl.dim(3) - 1)).each do |i|
              gx = curl[3, k, j, i + 1] - curl[3, k, j, i - 1]
              gy = curl[3, k, j + 1, i] - curl[3, k, j - 1, i]
              gz = curl[3, k + 1, j, i] - curl[3, k - 1, j, i]
              roll = curl[3, k, j, i]
              change = Math.sqrt(roll * roll + 2.0 * gain * share[k, j, i] * lost[k, j, i]) - roll
              scale = change / (Math.sqrt(gx * gx + gy * gy + gz * gz) * roll + 1e-12)
              px[k, j, i] = scale * (gy * curl[2, k, j, i] - gz * curl[1, k, j, i])
              py[k, j, i] = scale * (gz * curl[0, k, j, i] - gx * curl[2, k, j, i])
              pz[k, j, i] = scale * (gx * curl[1, k, j, i] - gy * curl[0, k, j, i])
            end
          end
        end
      end

      # What a change of speed at centres, done s times, adds to the energy of all cells: s times the
      # first number and half s squared times the second, m²/s².
      kernel px: F32[3], py: F32[3], pz: F32[3], u: F32[3], v: F32[3], w: F32[3], returns: [F64, F64]
      def work(px, py, pz, u, v, w)
        first = parallel_sum(px.dim(0)) do |k|
          row = f64(0.0)
          px.dim(1).times do |j|
            px.dim(2).times do |i|
              row += 0.5 * (px[k, j, i] * (u[k, j, i] + u[k, j, i + 1]) + py[k, j, i] * (v[k, j, i] + v[k, j + 1, i]) +
                pz[k, j, i] * (w[k, j, i] + w[k + 1, j, i]))
            end
          end
          row
        end
        second = parallel_sum(px.dim(0)) do |k|
          row = f64(0.0)
          px.dim(1).times do |j|
            px.dim(2).times do |i|
              row += px[k, j, i] * px[k, j, i] + py[k, j, i] * py[k, j, i] + pz[k, j, i] * pz[k, j, i]
            end
          end
          row
        end
        return first, second
      end
    end
  end
end
