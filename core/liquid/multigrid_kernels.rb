# frozen_string_literal: true

module Vumbral
  module Liquid
    # Loops of {Multigrid}, over a {Matrix}.
    module MultigridKernels
      extend Kernel::Library

      # Planes of a block.
      BLOCK = 8

      # Solves every second cell's equation for its own value (Gauss and Seidel, as on a chessboard), twice over both
      # colours. Planes are gone through in blocks, all four turns while a block is in the cache: first each block as
      # far as it asks for nothing that its neighbours change, a plane less at each end with every turn, then what lies
      # between. It is the same to the last bit as turn after turn over everything.
      kernel x: F32[3], b: F32[3], m: Liquid::Matrix, odd: I32
      def smooth(x, b, m, odd)
        blocks = (x.dim(0) + BLOCK - 1) / BLOCK
        parallel(blocks, uneven: true) do |n|
          low = n * BLOCK
          high = [low + BLOCK, x.dim(0)].min
          (high - low + 3).times do |step|
            4.times do |turn|
              k = low + step - turn
              smooth_plane(x, b, m, (odd + turn) & 1, k) if k >= (n == 0 ? low : low + turn) && k < (n == blocks - 1 ? high : high - turn)
            end
          end
        end
        parallel(blocks - 1, uneven: true) do |n|
          middle = (n + 1) * BLOCK
          (1...4).each do |turn|
            (middle - turn...[middle + turn, x.dim(0)].min).each { |k| smooth_plane(x, b, m, (odd + turn) & 1, k) }
          end
        end
      end

      # Plain cells are worked out side by side, those of the other colour for nothing, and only those of this one are
      # taken: they ask the other colour alone, so it is the same as one after the other.
      kernel x: F32[3], b: F32[3], m: Liquid::Matrix, odd: I32, k: I32
      def smooth_plane(x, b, m, odd, k)
        found = local_f32(64)
        nx = x.dim(2)
        per = 1.0 / (6.0 * m.tie)
        (1...x.dim(1) - 1).each do |j|
          if m.rows[k, j] != 0 && k > 0 && k < x.dim(0) - 1
            start = (k + j + odd) & 1
            ((nx + 61) / 64).times do |part|
              low = 1 + 64 * part
              count = [64, nx - 1 - low].min
              count.times { |n| found[n] = (b[k, j, low + n] + MatrixKernels.plainly(x, m.tie, k, j, low + n)) * per }
              count.times { |n| x[k, j, low + n] = m.kinds[k, j, low + n] == 2 && ((low + n + start) & 1) == 0 ? found[n] : x[k, j, low + n] }
            end
          end
        end
        last = odd == 0 ? m.starts[k, 1] : m.starts[k + 1, 0]
        (m.starts[k, odd]...last).each do |n|
          x[k, m.places[n, 0], m.places[n, 1]] = (
            b[k, m.places[n, 0], m.places[n, 1]] + MatrixKernels.around(x, m, k, n)
          ) / m.ties[n, 0]
        end
      end

      # The same for both colours so many times, by one core: small grids take less time than it takes to share them
      # out.
      # @param turning: 1 begins every second time with the other colour
      kernel x: F32[3], b: F32[3], m: Liquid::Matrix, odd: I32, count: I32, turning: I32
      def sweep(x, b, m, odd, count, turning)
        count.times do |n|
          first = (odd + (turning == 1 ? n : 0)) & 1
          x.dim(0).times { |k| smooth_plane(x, b, m, first, k) }
          x.dim(0).times { |k| smooth_plane(x, b, m, 1 - first, k) }
        end
      end

      # Equations on cells twice as large: ties over the shared sides added up, and halved, for the way is twice as
      # long.
      kernel c: Liquid::Matrix, m: Liquid::Matrix
      def coarsen(c, m)
        nz = m.own.dim(0)
        ny = m.own.dim(1)
        nx = m.own.dim(2)
        each_cell(c.own) do |k, j, i|
          own = 0.0
          tx = 0.0
          ty = 0.0
          tz = 0.0
          inner = 0.0
          2.times do |dk|
            2.times do |dj|
              2.times do |di|
                z = 2 * k + dk
                y = 2 * j + dj
                x = 2 * i + di
                if z < nz && y < ny && x < nx
                  own += m.own[z, y, x]
                  if di == 1
                    tx += m.x[z, y, x]
                  else
                    inner += m.x[z, y, x]
                  end
                  if dj == 1
                    ty += m.y[z, y, x]
                  else
                    inner += m.y[z, y, x]
                  end
                  if dk == 1
                    tz += m.z[z, y, x]
                  else
                    inner += m.z[z, y, x]
                  end
                end
              end
            end
          end
          c.own[k, j, i] = 0.5 * (own - 2.0 * inner)
          c.x[k, j, i] = 0.5 * tx
          c.y[k, j, i] = 0.5 * ty
          c.z[k, j, i] = 0.5 * tz
        end
      end

      # What is left over, added up in cells twice as large, as {#prolong} spreads.
      kernel c: F32[3], r: F32[3], m: Liquid::Matrix
      def restrict(c, r, m)
        parallel(c.dim(0), uneven: true) do |k|
          c.dim(1).times do |j|
            if m.rows[k, j] == 0
              c.dim(2).times { |i| c[k, j, i] = 0.0 }
            else
              restrict_row(c, r, m, k, j)
            end
          end
        end
      end

      # First along z and y, for 64 cells side by side, then along x.
      kernel c: F32[3], r: F32[3], m: Liquid::Matrix, k: I32, j: I32
      def restrict_row(c, r, m, k, j)
        sums = local_f32(130)
        ((c.dim(2) + 63) / 64).times do |part|
          low = 64 * part
          count = [64, c.dim(2) - low].min
          before = 2 * low - 1
          first = before < 0 ? 1 : 0
          last = [2 * count + 2, r.dim(2) - before].min
          (2 * count + 2).times { |n| sums[n] = 0.0 }
          4.times do |dk|
            z = 2 * k + dk - 1
            4.times do |dj|
              y = 2 * j + dj - 1
              if z >= 0 && y >= 0 && z < r.dim(0) && y < r.dim(1)
                w = (dk == 0 || dk == 3 ? 0.25 : 0.75) * (dj == 0 || dj == 3 ? 0.25 : 0.75)
                (first...last).each { |n| sums[n] += w * r[z, y, before + n] }
              end
            end
          end
          count.times do |n|
            sum = 0.25 * (sums[2 * n] + sums[2 * n + 3]) + 0.75 * (sums[2 * n + 1] + sums[2 * n + 2])
            c[k, j, low + n] = m.kinds[k, j, low + n] > 0 ? sum : 0.0
          end
        end
      end

      # Adds what was found on cells twice as large, linearly between their centres.
      kernel x: F32[3], c: F32[3], m: Liquid::Matrix
      def prolong(x, c, m)
        parallel(x.dim(0), uneven: true) do |k|
          x.dim(1).times { |j| prolong_row(x, c, m, k, j) if m.rows[k, j] != 0 }
        end
      end

      # First along z and y, for 64 large cells side by side and one more at each end, then along x.
      kernel x: F32[3], c: F32[3], m: Liquid::Matrix, k: I32, j: I32
      def prolong_row(x, c, m, k, j)
        mixed = local_f32(66)
        z = k / 2
        z2 = k & 1 == 1 ? z + 1 : z - 1
        za = z2 >= 0 && z2 < c.dim(0) ? 0.25 : 0.0
        z2 = z2.clamp(0, c.dim(0) - 1)
        y = j / 2
        y2 = j & 1 == 1 ? y + 1 : y - 1
        ya = y2 >= 0 && y2 < c.dim(1) ? 0.25 : 0.0
        y2 = y2.clamp(0, c.dim(1) - 1)
        ((c.dim(2) + 63) / 64).times do |part|
          low = 64 * part
          count = [64, c.dim(2) - low].min
          mixed[0] = 0.0
          mixed[count + 1] = 0.0
          ((low > 0 ? 0 : 1)...[count + 2, c.dim(2) - low + 1].min).each do |n|
            w = low + n - 1
            mixed[n] = 0.75 * (0.75 * c[z, y, w] + ya * c[z, y2, w]) + za * (0.75 * c[z2, y, w] + ya * c[z2, y2, w])
          end
          pairs = [count, x.dim(2) / 2 - low].min
          pairs.times do |n|
            i = 2 * (low + n)
            x[k, j, i] += m.kinds[k, j, i] > 0 ? 0.75 * mixed[n + 1] + 0.25 * mixed[n] : 0.0
            x[k, j, i + 1] += m.kinds[k, j, i + 1] > 0 ? 0.75 * mixed[n + 1] + 0.25 * mixed[n + 2] : 0.0
          end
          if pairs < count
            i = x.dim(2) - 1
            x[k, j, i] += 0.75 * mixed[pairs + 1] + 0.25 * mixed[pairs] if m.kinds[k, j, i] > 0
          end
        end
      end
    end
  end
end
