# frozen_string_literal: true

module Vumbral
  module Liquid
    # Loops over a {Matrix} as conjugate gradients need them. Rows of cells without an equation are left out; they hold
    # 0.
    module MatrixKernels
      extend Kernel::Library

      # What the neighbours of a plain cell give to its equation.
      kernel x: F32[3], tie: F32, k: I32, j: I32, i: I32, returns: F32
      def plainly(x, tie, k, j, i)
        tie * x[k, j, i - 1] + tie * x[k, j, i + 1] + tie * x[k, j - 1, i] + tie * x[k, j + 1, i] +
          tie * x[k - 1, j, i] + tie * x[k + 1, j, i]
      end

      # The same for one of the others, in the same order.
      # @param n which of them
      kernel x: F32[3], m: Liquid::Matrix, k: I32, n: I32, returns: F32
      def around(x, m, k, n)
        j = m.places[n, 0]
        i = m.places[n, 1]
        sum = m.ties[n, 1] * x[k, j, [i - 1, 0].max] + m.ties[n, 2] * x[k, j, [i + 1, x.dim(2) - 1].min]
        sum += m.ties[n, 3] * x[k, [j - 1, 0].max, i]
        sum += m.ties[n, 4] * x[k, [j + 1, x.dim(1) - 1].min, i]
        sum += m.ties[n, 5] * x[[k - 1, 0].max, j, i]
        sum += m.ties[n, 6] * x[[k + 1, x.dim(0) - 1].min, j, i]
        sum
      end

      # Which cells have an equation (1), and which a plain one: tied to all six neighbours alike (2); which rows have
      # any, for most have none where a liquid fills little of its chamber; and how many others there are in each plane,
      # of both colours of a chessboard.
      kernel m: Liquid::Matrix
      def look(m)
        parallel(m.own.dim(0)) do |k|
          even = 0
          odd = 0
          m.own.dim(1).times do |j|
            any = 0
            m.own.dim(2).times do |i|
              kind = m.own[k, j, i] > 0.0 ? 1 : 0
              if kind == 1 && k > 0 && j > 0 && i > 0
                t = m.tie
                off =
                  (m.own[k, j, i] - 6.0 * t).abs + (m.x[k, j, i] - t).abs + (m.y[k, j, i] - t).abs +
                  (m.z[k, j, i] - t).abs + (m.x[k, j, i - 1] - t).abs + (m.y[k, j - 1, i] - t).abs +
                  (m.z[k - 1, j, i] - t).abs
                kind = 2 if off <= 0.0
              end
              m.kinds[k, j, i] = kind
              any |= kind
              even += kind & 1 & (k + j + i + 1)
              odd += kind & 1 & (k + j + i)
            end
            m.rows[k, j] = any == 0 ? 0 : 1
          end
          m.starts[k, 0] = even
          m.starts[k, 1] = odd
        end
      end

      # Turns how many others there are into where those of each plane and colour begin. Gives how many there are in
      # all.
      kernel m: Liquid::Matrix, returns: I32
      def share(m)
        sum = 0
        m.starts.dim(0).times do |k|
          2.times do |colour|
            count = k < m.own.dim(0) ? m.starts[k, colour] : 0
            m.starts[k, colour] = sum
            sum += count
          end
        end
        sum
      end

      # Puts what the equations of the others need side by side.
      kernel m: Liquid::Matrix
      def gather(m)
        parallel(m.own.dim(0)) do |k|
          even = m.starts[k, 0]
          odd = m.starts[k, 1]
          m.own.dim(1).times do |j|
            if m.rows[k, j] != 0
              m.own.dim(2).times do |i|
                if m.kinds[k, j, i] == 1
                  if ((k + j + i) & 1) == 0
                    keep(m, k, j, i, even)
                    even += 1
                  else
                    keep(m, k, j, i, odd)
                    odd += 1
                  end
                end
              end
            end
          end
        end
      end

      kernel m: Liquid::Matrix, k: I32, j: I32, i: I32, n: I32
      def keep(m, k, j, i, n)
        m.places[n, 0] = j
        m.places[n, 1] = i
        m.ties[n, 0] = m.own[k, j, i]
        m.ties[n, 1] = i > 0 ? m.x[k, j, i - 1] : 0.0
        m.ties[n, 2] = i < m.own.dim(2) - 1 ? m.x[k, j, i] : 0.0
        m.ties[n, 3] = j > 0 ? m.y[k, j - 1, i] : 0.0
        m.ties[n, 4] = j < m.own.dim(1) - 1 ? m.y[k, j, i] : 0.0
        m.ties[n, 5] = k > 0 ? m.z[k - 1, j, i] : 0.0
        m.ties[n, 6] = k < m.own.dim(0) - 1 ? m.z[k, j, i] : 0.0
      end

      # r = b - A·x
      kernel r: F32[3], b: F32[3], x: F32[3], m: Liquid::Matrix
      def rest(r, b, x, m)
        parallel(r.dim(0), uneven: true) do |k|
          r.dim(1).times do |j|
            if m.rows[k, j] == 0 || k == 0 || j == 0 || k == r.dim(0) - 1 || j == r.dim(1) - 1
              r.dim(2).times { |i| r[k, j, i] = 0.0 }
            else
              r[k, j, 0] = 0.0
              r[k, j, r.dim(2) - 1] = 0.0
              (1...r.dim(2) - 1).each do |i|
                rest = b[k, j, i] - 6.0 * m.tie * x[k, j, i] + plainly(x, m.tie, k, j, i)
                r[k, j, i] = m.kinds[k, j, i] == 2 ? rest : 0.0
              end
            end
          end
          (m.starts[k, 0]...m.starts[k + 1, 0]).each do |n|
            r[k, m.places[n, 0], m.places[n, 1]] = b[k, m.places[n, 0], m.places[n, 1]] -
              m.ties[n, 0] * x[k, m.places[n, 0], m.places[n, 1]] + around(x, m, k, n)
          end
        end
      end

      # q = A·p; gives p·q.
      kernel q: F32[3], p: F32[3], m: Liquid::Matrix, returns: F64
      def apply(q, p, m)
        total = parallel_sum(p.dim(0)) do |k|
          p.dim(1).times do |j|
            if m.rows[k, j] == 0 || k == 0 || j == 0 || k == p.dim(0) - 1 || j == p.dim(1) - 1
              p.dim(2).times { |i| q[k, j, i] = 0.0 }
            else
              q[k, j, 0] = 0.0
              q[k, j, p.dim(2) - 1] = 0.0
              (1...p.dim(2) - 1).each do |i|
                value = 6.0 * m.tie * p[k, j, i] - plainly(p, m.tie, k, j, i)
                q[k, j, i] = m.kinds[k, j, i] == 2 ? value : 0.0
              end
            end
          end
          (m.starts[k, 0]...m.starts[k + 1, 0]).each do |n|
            q[k, m.places[n, 0], m.places[n, 1]] = m.ties[n, 0] * p[k, m.places[n, 0], m.places[n, 1]] -
              around(p, m, k, n)
          end
          sum = f64(0.0)
          p.dim(1).times { |j| sum += row(p, q, k, j) if m.rows[k, j] != 0 }
          sum
        end
        total
      end

      # a·b
      kernel a: F32[3], b: F32[3], m: Liquid::Matrix, returns: F64
      def dot(a, b, m)
        total = parallel_sum(a.dim(0)) do |k|
          sum = f64(0.0)
          a.dim(1).times { |j| sum += row(a, b, k, j) if m.rows[k, j] != 0 }
          sum
        end
        total
      end

      # a·b along a row, by four sums that need not wait for each other.
      kernel a: F32[3], b: F32[3], k: I32, j: I32, returns: F64
      def row(a, b, k, j)
        one = f64(0.0)
        two = f64(0.0)
        three = f64(0.0)
        four = f64(0.0)
        fours = a.dim(2) / 4
        fours.times do |n|
          one += f64(a[k, j, 4 * n]) * b[k, j, 4 * n]
          two += f64(a[k, j, 4 * n + 1]) * b[k, j, 4 * n + 1]
          three += f64(a[k, j, 4 * n + 2]) * b[k, j, 4 * n + 2]
          four += f64(a[k, j, 4 * n + 3]) * b[k, j, 4 * n + 3]
        end
        (4 * fours...a.dim(2)).each { |i| one += f64(a[k, j, i]) * b[k, j, i] }
        (one + two) + (three + four)
      end

      # p = z + b·p
      kernel p: F32[3], z: F32[3], b: F32, m: Liquid::Matrix
      def turn(p, z, b, m)
        parallel(p.dim(0)) do |k|
          p.dim(1).times do |j|
            p.dim(2).times { |i| p[k, j, i] = z[k, j, i] + b * p[k, j, i] } if m.rows[k, j] != 0
          end
        end
      end

      # x += a·p and r -= a·q; gives the largest |r|.
      kernel x: F32[3], r: F32[3], p: F32[3], q: F32[3], a: F32, m: Liquid::Matrix, returns: F64
      def advance(x, r, p, q, a, m)
        largest = parallel_max(x.dim(0)) do |k|
          peak = 0.0
          x.dim(1).times do |j|
            if m.rows[k, j] != 0
              x.dim(2).times do |i|
                x[k, j, i] += a * p[k, j, i]
                rest = r[k, j, i] - a * q[k, j, i]
                r[k, j, i] = rest
                peak = rest.abs > peak || rest != rest ? rest.abs : peak
              end
            end
          end
          peak
        end
        largest
      end
    end
  end
end
