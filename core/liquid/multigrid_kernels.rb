# frozen_string_literal: true

module Vumbral
  module Liquid
    # Loops of {Multigrid}, over a {Matrix}.
    module MultigridKernels
      extend Kernel::Library

      # Marks go so far.
      PLAIN = 2

      # What the neighbours of a cell give to its equation.
      kernel x: F32[3], m: Liquid::Matrix, k: I32, j: I32, i: I32, returns: F32
      def around(x, m, k, j, i)
        sum = 0.0
        sum += m.x[k, j, i - 1] * x[k, j, i - 1] if i > 0
        sum += m.x[k, j, i] * x[k, j, i + 1] if i < x.dim(2) - 1
        sum += m.y[k, j - 1, i] * x[k, j - 1, i] if j > 0
        sum += m.y[k, j, i] * x[k, j + 1, i] if j < x.dim(1) - 1
        sum += m.z[k - 1, j, i] * x[k - 1, j, i] if k > 0
        sum += m.z[k, j, i] * x[k + 1, j, i] if k < x.dim(0) - 1
        sum
      end

      # The same for a plain cell, in the same order.
      kernel x: F32[3], tie: F32, k: I32, j: I32, i: I32, returns: F32
      def plainly(x, tie, k, j, i)
        tie * x[k, j, i - 1] + tie * x[k, j, i + 1] + tie * x[k, j - 1, i] + tie * x[k, j + 1, i] + tie * x[k - 1, j, i] + tie * x[k + 1, j, i]
      end

      # Which cells have an equation (1), and which a plain one: tied to all six neighbours alike (2); and which rows have
      # any, for most have none where a liquid fills little of its chamber.
      kernel m: Liquid::Matrix
      def look(m)
        parallel(m.own.dim(0)) do |k|
          m.own.dim(1).times do |j|
            any = 0
            m.own.dim(2).times do |i|
              kind = m.own[k, j, i] > 0.0 ? 1 : 0
              if kind == 1 && k > 0 && j > 0 && i > 0
                t = m.tie
                off = (m.own[k, j, i] - 6.0 * t).abs + (m.x[k, j, i] - t).abs + (m.y[k, j, i] - t).abs + (m.z[k, j, i] - t).abs + (m.x[k, j, i - 1] - t).abs + (m.y[k, j - 1, i] - t).abs + (m.z[k - 1, j, i] - t).abs
                kind = 2 if off <= 0.0
              end
              m.kinds[k, j, i] = kind
              any |= kind
            end
            m.rows[k, j] = any == 0 ? 0 : 1
          end
        end
      end

      # Solves every second cell's equation for its own value (Gauss and Seidel, as on a chessboard).
      kernel x: F32[3], b: F32[3], m: Liquid::Matrix, odd: I32
      def smooth(x, b, m, odd)
        parallel(x.dim(0), uneven: true) { |k| smooth_plane(x, b, m, odd, k) }
      end

      # Plain cells are worked out side by side, those of the other colour for nothing, and only those of this one are taken:
      # they ask the other colour alone, so it is the same as one after the other.
      kernel x: F32[3], b: F32[3], m: Liquid::Matrix, odd: I32, k: I32
      def smooth_plane(x, b, m, odd, k)
        found = local_f32(64)
        nx = x.dim(2)
        per = 1.0 / (6.0 * m.tie)
        x.dim(1).times do |j|
          if m.rows[k, j] != 0
            start = (k + j + odd) & 1
            if k > 0 && j > 0 && k < x.dim(0) - 1 && j < x.dim(1) - 1
              ((nx + 61) / 64).times do |part|
                low = 1 + 64 * part
                count = [64, nx - 1 - low].min
                count.times { |n| found[n] = (b[k, j, low + n] + plainly(x, m.tie, k, j, low + n)) * per }
                count.times { |n| x[k, j, low + n] = m.kinds[k, j, low + n] == 2 && ((low + n + start) & 1) == 0 ? found[n] : x[k, j, low + n] }
              end
            end
            # Few are others: this has to be asked one by one, not of sixteen at once.
            i = start
            while i < nx && m.kinds[k, j, i] <= PLAIN
              x[k, j, i] = (b[k, j, i] + around(x, m, k, j, i)) / m.own[k, j, i] if m.kinds[k, j, i] == 1
              i += 2
            end
          end
        end
      end

      # The same for both colours so many times, by one core: small grids take less time than it takes to share them out.
      # @param turning: 1 begins every second time with the other colour
      kernel x: F32[3], b: F32[3], m: Liquid::Matrix, odd: I32, count: I32, turning: I32
      def sweep(x, b, m, odd, count, turning)
        count.times do |n|
          first = (odd + (turning == 1 ? n : 0)) & 1
          x.dim(0).times { |k| smooth_plane(x, b, m, first, k) }
          x.dim(0).times { |k| smooth_plane(x, b, m, 1 - first, k) }
        end
      end

      kernel r: F32[3], b: F32[3], x: F32[3], m: Liquid::Matrix
      def rest(r, b, x, m)
        parallel(r.dim(0), uneven: true) do |k|
          r.dim(1).times do |j|
            if m.rows[k, j] == 0
              r.dim(2).times { |i| r[k, j, i] = 0.0 }
            else
              # All as if they were plain, which runs quickly; then the others.
              if k > 0 && j > 0 && k < r.dim(0) - 1 && j < r.dim(1) - 1
                (1...r.dim(2) - 1).each { |i| r[k, j, i] = b[k, j, i] - 6.0 * m.tie * x[k, j, i] + plainly(x, m.tie, k, j, i) }
              end
              i = 0
              while i < r.dim(2) && m.kinds[k, j, i] <= PLAIN
                kind = m.kinds[k, j, i]
                if kind != 2
                  r[k, j, i] = kind == 1 ? b[k, j, i] - m.own[k, j, i] * x[k, j, i] + around(x, m, k, j, i) : 0.0
                end
                i += 1
              end
            end
          end
        end
      end

      # q = A·p; gives p·q.
      kernel q: F32[3], p: F32[3], m: Liquid::Matrix, returns: F64
      def apply(q, p, m)
        total = parallel_sum(p.dim(0)) do |k|
          sum = f64(0.0)
          p.dim(1).times do |j|
            if m.rows[k, j] == 0
              p.dim(2).times { |i| q[k, j, i] = 0.0 }
            else
              if k > 0 && j > 0 && k < p.dim(0) - 1 && j < p.dim(1) - 1
                (1...p.dim(2) - 1).each { |i| q[k, j, i] = 6.0 * m.tie * p[k, j, i] - plainly(p, m.tie, k, j, i) }
              end
              i = 0
              while i < p.dim(2) && m.kinds[k, j, i] <= PLAIN
                kind = m.kinds[k, j, i]
                if kind != 2
                  q[k, j, i] = kind == 1 ? m.own[k, j, i] * p[k, j, i] - around(p, m, k, j, i) : 0.0
                end
                sum += f64(p[k, j, i]) * q[k, j, i]
                i += 1
              end
            end
          end
          sum
        end
        total
      end

      # Equations on cells twice as large: ties over the shared sides added up, and halved, for the way is twice as long.
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
        each_cell(c) do |k, j, i|
          sum = 0.0
          if m.kinds[k, j, i] > 0
            4.times do |dk|
              z = 2 * k + dk - 1
              wz = dk == 0 || dk == 3 ? 0.25 : 0.75
              4.times do |dj|
                y = 2 * j + dj - 1
                wy = wz * (dj == 0 || dj == 3 ? 0.25 : 0.75)
                if z >= 0 && y >= 0 && z < r.dim(0) && y < r.dim(1)
                  if i > 0 && 2 * i + 2 < r.dim(2)
                    sum += wy * (0.25 * (r[z, y, 2 * i - 1] + r[z, y, 2 * i + 2]) + 0.75 * (r[z, y, 2 * i] + r[z, y, 2 * i + 1]))
                  else
                    4.times do |di|
                      x = 2 * i + di - 1
                      sum += wy * (di == 0 || di == 3 ? 0.25 : 0.75) * r[z, y, x] if x >= 0 && x < r.dim(2)
                    end
                  end
                end
              end
            end
          end
          c[k, j, i] = sum
        end
      end

      # Adds what was found on cells twice as large, linearly between their centres.
      kernel x: F32[3], c: F32[3], m: Liquid::Matrix
      def prolong(x, c, m)
        parallel(x.dim(0), uneven: true) do |k|
          z = k / 2
          z2 = k & 1 == 1 ? z + 1 : z - 1
          za = z2 >= 0 && z2 < c.dim(0) ? 0.25 : 0.0
          z2 = z2.clamp(0, c.dim(0) - 1)
          x.dim(1).times do |j|
            if m.rows[k, j] != 0
              y = j / 2
              y2 = j & 1 == 1 ? y + 1 : y - 1
              ya = y2 >= 0 && y2 < c.dim(1) ? 0.25 : 0.0
              y2 = y2.clamp(0, c.dim(1) - 1)
              x.dim(2).times do |i|
                if m.kinds[k, j, i] > 0
                  w = i / 2
                  w2 = i & 1 == 1 ? w + 1 : w - 1
                  wa = w2 >= 0 && w2 < c.dim(2) ? 0.25 : 0.0
                  w2 = w2.clamp(0, c.dim(2) - 1)
                  near = 0.75 * (0.75 * c[z, y, w] + wa * c[z, y, w2]) + ya * (0.75 * c[z, y2, w] + wa * c[z, y2, w2])
                  away = 0.75 * (0.75 * c[z2, y, w] + wa * c[z2, y, w2]) + ya * (0.75 * c[z2, y2, w] + wa * c[z2, y2, w2])
                  x[k, j, i] += 0.75 * near + za * away
                end
              end
            end
          end
        end
      end
    end
  end
end
