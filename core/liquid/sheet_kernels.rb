# frozen_string_literal: true

module Vumbral
  module Liquid
    # Loops that find sheets and threads among particles, and the gaps in them.
    module SheetKernels
      extend Kernel::Library

      # Particles within a cell and its neighbours below which it is looked at: a layer of one cell has 72, the edge of
      # a pool 144.
      THIN = 90
      # As far neighbours tell how a particle lies, cells; where there are too few, so many times as far as gaps are
      # filled, and so many there must be.
      ABOUT, FARTHER = 2.0, 1.5
      ENOUGH, FEWEST = 7, 3
      # How much flatter than wide a sheet is, and thinner than long a thread: of the variances.
      FLAT, SLIM = 0.16, 0.1
      # Which part of the way to the middle of their sheet particles are laid.
      LAID = 0.75
      # Gaps from here on are filled, one for so much of them, cells.
      LEAST = 0.9
      SPACING = 0.6

      # What each particle lies in: 1 a sheet (`way` is across it), 2 a thread (`way` is along it), 0 neither; and where
      # it lies when laid flat.
      kernel kind: U8[1], way: F32[2], flat: F32[2], at: F32[2], first: I32[1], size: I32[1], apart: F32
      def look(kind, way, flat, at, first, size, apart)
        parallel(size[0], uneven: true) do |k|
          size[1].times do |j|
            size[2].times do |i|
              n = (k * size[1] + j) * size[2] + i
              if first[n + 1] > first[n] && around(first, size, k, j, i) < THIN
                (first[n]...first[n + 1]).each { |p| lie(kind, way, flat, at, first, size, apart, p) }
              end
            end
          end
        end
      end

      # Particles of a cell and its neighbours.
      kernel first: I32[1], size: I32[1], k: I32, j: I32, i: I32, returns: I32
      def around(first, size, k, j, i)
        total = 0
        ([k - 1, 0].max..[k + 1, size[0] - 1].min).each do |c|
          ([j - 1, 0].max..[j + 1, size[1] - 1].min).each do |b|
            row = (c * size[1] + b) * size[2]
            total += first[row + [i + 1, size[2] - 1].min + 1] - first[row + [i - 1, 0].max]
          end
        end
        total
      end

      # One particle: by the spread of those about it.
      kernel kind: U8[1], way: F32[2], flat: F32[2], at: F32[2], first: I32[1], size: I32[1], apart: F32, p: I32
      def lie(kind, way, flat, at, first, size, apart, p)
        # Weight, sums of ways, and of their products xx yy zz xy xz yz.
        s = local_f32(10)
        count = about(s, at, first, size, p, ABOUT)
        count = about(s, at, first, size, p, [ABOUT, FARTHER * apart].max) if count <= ENOUGH
        # It counts itself as well.
        tell(kind, way, flat, s, p) if count > FEWEST
      end

      # Adds up how those lie that are no farther than `reach`. Gives how many they are.
      kernel s: F32[1], at: F32[2], first: I32[1], size: I32[1], p: I32, reach: F32, returns: I32
      def about(s, at, first, size, p, reach)
        10.times { |n| s[n] = 0.0 }
        count = 0
        (SurfaceKernels.bound(at[p, 2] - reach, size[0])..SurfaceKernels.bound(at[p, 2] + reach, size[0])).each do |k|
          (SurfaceKernels.bound(at[p, 1] - reach, size[1])..SurfaceKernels.bound(at[p, 1] + reach, size[1])).each do |j|
            row = (k * size[1] + j) * size[2]
            (first[row + SurfaceKernels.bound(at[p, 0] - reach, size[2])]...first[row + SurfaceKernels.bound(at[p, 0] + reach, size[2]) + 1]).each do |q|
              x = at[q, 0] - at[p, 0]
              y = at[q, 1] - at[p, 1]
              z = at[q, 2] - at[p, 2]
              w = 1.0 - (x * x + y * y + z * z) / (reach * reach)
              if w > 0.0
                count += 1
                s[0] += w
                s[1] += w * x
                s[2] += w * y
                s[3] += w * z
                s[4] += w * x * x
                s[5] += w * y * y
                s[6] += w * z * z
                s[7] += w * x * y
                s[8] += w * x * z
                s[9] += w * y * z
              end
            end
          end
        end
        count
      end

      # By the axes of the spread: the eigenvalues of a symmetric matrix in closed form (Smith 1961), and the vector of
      # the one that stands alone from what is across its rows.
      kernel kind: U8[1], way: F32[2], flat: F32[2], s: F32[1], p: I32
      def tell(kind, way, flat, s, p)
        mx = s[1] / s[0]
        my = s[2] / s[0]
        mz = s[3] / s[0]
        m = local_f32(6)
        m[0] = s[4] / s[0] - mx * mx
        m[1] = s[5] / s[0] - my * my
        m[2] = s[6] / s[0] - mz * mz
        m[3] = s[7] / s[0] - mx * my
        m[4] = s[8] / s[0] - mx * mz
        m[5] = s[9] / s[0] - my * mz
        mean = (m[0] + m[1] + m[2]) / 3.0
        a = m[0] - mean
        b = m[1] - mean
        c = m[2] - mean
        size = Math.sqrt((a * a + b * b + c * c + 2.0 * (m[3] * m[3] + m[4] * m[4] + m[5] * m[5])) / 6.0) + 1e-9
        turn =
          0.5 * (a * (b * c - m[5] * m[5]) - m[3] * (m[3] * c - m[5] * m[4]) + m[4] * (m[3] * m[5] - b * m[4])) /
          (size * size * size)
        angle = Math.acos(turn.clamp(-1.0, 1.0)) / 3.0
        high = mean + 2.0 * size * Math.cos(angle)
        low = mean + 2.0 * size * Math.cos(angle + 2.0943951)
        middle = 3.0 * mean - high - low
        thread = middle < SLIM * high
        if thread || low < FLAT * middle
          alone(way, m, thread ? high : low, p)
          along = mx * way[p, 0] + my * way[p, 1] + mz * way[p, 2]
          kind[p] = thread ? 2 : 1
          flat[p, 0] = flat[p, 0] + LAID * (thread ? mx - along * way[p, 0] : along * way[p, 0])
          flat[p, 1] = flat[p, 1] + LAID * (thread ? my - along * way[p, 1] : along * way[p, 1])
          flat[p, 2] = flat[p, 2] + LAID * (thread ? mz - along * way[p, 2] : along * way[p, 2])
        end
      end

      # The vector of one value of a symmetric matrix xx yy zz xy xz yz, of length one.
      kernel way: F32[2], m: F32[1], value: F32, p: I32
      def alone(way, m, value, p)
        a = m[0] - value
        b = m[1] - value
        c = m[2] - value
        # Across each two rows; the longest is the surest.
        x0 = m[3] * m[5] - m[4] * b
        y0 = m[4] * m[3] - a * m[5]
        z0 = a * b - m[3] * m[3]
        x1 = m[3] * c - m[4] * m[5]
        y1 = m[4] * m[4] - a * c
        z1 = a * m[5] - m[3] * m[4]
        x2 = b * c - m[5] * m[5]
        y2 = m[5] * m[4] - m[3] * c
        z2 = m[3] * m[5] - b * m[4]
        l0 = x0 * x0 + y0 * y0 + z0 * z0
        l1 = x1 * x1 + y1 * y1 + z1 * z1
        l2 = x2 * x2 + y2 * y2 + z2 * z2
        most = [l0, l1, l2].max
        x = most == l0 ? x0 : most == l1 ? x1 : x2
        y = most == l0 ? y0 : most == l1 ? y1 : y2
        z = most == l0 ? z0 : most == l1 ? z1 : z2
        length = 1.0 / Math.sqrt([most, 1e-30].max)
        way[p, 0] = x * length
        way[p, 1] = y * length
        way[p, 2] = z * length
      end

      # Neighbours of each towards which there is a gap: no farther than `apart`, in the same sheet or thread or at its
      # end, with nobody within the ball between them (Gabriel & Sokal 1969). Of two that lie in one, the first has the
      # other.
      kernel partners: I32[2], counts: I32[1], kind: U8[1], way: F32[2], at: F32[2], first: I32[1], size: I32[1],
        apart: F32
      def pair(partners, counts, kind, way, at, first, size, apart)
        parallel(counts.size, uneven: true) do |p|
          found = 0
          if kind[p] != 0
            (SurfaceKernels.bound(at[p, 2] - apart, size[0])..SurfaceKernels.bound(at[p, 2] + apart, size[0])).each do |k|
              (SurfaceKernels.bound(at[p, 1] - apart, size[1])..SurfaceKernels.bound(at[p, 1] + apart, size[1])).each do |j|
                row = (k * size[1] + j) * size[2]
                (first[row + SurfaceKernels.bound(at[p, 0] - apart, size[2])]...first[row + SurfaceKernels.bound(at[p, 0] + apart, size[2]) + 1]).each do |q|
                  if found < partners.dim(1) && (q > p || kind[q] == 0) && gap(kind, way, at, p, q, apart) && clear(at, first, size, p, q)
                    partners[p, found] = q
                    found += 1
                  end
                end
              end
            end
          end
          counts[p] = found
        end
      end

      # Whether two lie beside each other in the same sheet or thread, with a gap between them.
      kernel kind: U8[1], way: F32[2], at: F32[2], p: I32, q: I32, apart: F32, returns: BOOL
      def gap(kind, way, at, p, q, apart)
        x = at[q, 0] - at[p, 0]
        y = at[q, 1] - at[p, 1]
        z = at[q, 2] - at[p, 2]
        far = Math.sqrt(x * x + y * y + z * z)
        one = (x * way[p, 0] + y * way[p, 1] + z * way[p, 2]).abs
        other = (x * way[q, 0] + y * way[q, 1] + z * way[q, 2]).abs
        beside = kind[q] == 1 ? other < 0.4 * far : kind[q] == 2 ? other > 0.8 * far : kind[p] == 2
        far > LEAST && far <= apart && (kind[p] == 1 ? one < 0.4 * far : one > 0.8 * far) && beside
      end

      # Whether nobody lies within the ball between two.
      kernel at: F32[2], first: I32[1], size: I32[1], p: I32, q: I32, returns: BOOL
      def clear(at, first, size, p, q)
        x = 0.5 * (at[p, 0] + at[q, 0])
        y = 0.5 * (at[p, 1] + at[q, 1])
        z = 0.5 * (at[p, 2] + at[q, 2])
        dx = at[p, 0] - x
        dy = at[p, 1] - y
        dz = at[p, 2] - z
        square = dx * dx + dy * dy + dz * dz
        reach = Math.sqrt(square)
        free = true
        (SurfaceKernels.bound(z - reach, size[0])..SurfaceKernels.bound(z + reach, size[0])).each do |k|
          (SurfaceKernels.bound(y - reach, size[1])..SurfaceKernels.bound(y + reach, size[1])).each do |j|
            if free
              row = (k * size[1] + j) * size[2]
              (first[row + SurfaceKernels.bound(x - reach, size[2])]...first[row + SurfaceKernels.bound(x + reach, size[2]) + 1]).each do |r|
                ex = at[r, 0] - x
                ey = at[r, 1] - y
                ez = at[r, 2] - z
                free = false if r != p && r != q && ex * ex + ey * ey + ez * ez < 0.98 * square
              end
            end
          end
        end
        free
      end

      # How many fill the gap between two.
      kernel at: F32[2], p: I32, q: I32, returns: I32
      def between(at, p, q)
        x = at[q, 0] - at[p, 0]
        y = at[q, 1] - at[p, 1]
        z = at[q, 2] - at[p, 2]
        [(Math.sqrt(x * x + y * y + z * z) / SPACING).ceil.to_i - 1, 1].max
      end

      # From how many partners each has to where those that fill its gaps begin, from a number on. Gives how many there
      # are in all.
      kernel begins: I32[1], counts: I32[1], partners: I32[2], flat: F32[2], from: I32, returns: I32
      def begin_at(begins, counts, partners, flat, from)
        sum = from
        counts.size.times do |p|
          begins[p] = sum
          counts[p].times { |n| sum += between(flat, p, partners[p, n]) }
        end
        sum
      end

      # All of them, and those that fill the gaps.
      # @param begins where the ones of each begin
      kernel at: F32[2], carried: F32[2], flat: F32[2], given: F32[2], partners: I32[2], counts: I32[1], begins: I32[1]
      def fill(at, carried, flat, given, partners, counts, begins)
        parallel(counts.size) do |p|
          3.times { |a| at[p, a] = flat[p, a] }
          carried.dim(1).times { |a| carried[p, a] = given[p, a] }
          here = begins[p]
          counts[p].times do |n|
            q = partners[p, n]
            all = between(flat, p, q)
            all.times do |m|
              part = (m + 1.0) / (all + 1.0)
              3.times { |a| at[here, a] = flat[p, a] + part * (flat[q, a] - flat[p, a]) }
              carried.dim(1).times { |a| carried[here, a] = given[p, a] + part * (given[q, a] - given[p, a]) }
              here += 1
            end
          end
        end
      end
    end
  end
end
