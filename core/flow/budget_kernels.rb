# frozen_string_literal: true

module Vumbral
  module Flow
    # Loops that tell how much of what is carried belongs where, on nodes eight cells apart: each value
    # counts for the 27 nodes around it by how near they are, and its shares add up to it.
    # `nodes` i32 [3] is how many there are along z, y, x; `parts` f64 [slab, node, 2] holds amounts and
    # room, layer group by layer group, so that sums come in the same order on any number of cores.
    module BudgetKernels
      extend Kernel::Library

      EDGE = 8
      PER = 0.125
      # Less than this is nothing, and has no place.
      LEAST = 1e-30

      # How much a place counts for the three nodes nearest to it (quadratic B-splines, which are smooth enough
      # that a turned grid adds up to the same): the first of the nodes, and three weights.
      kernel x: F32, count: I32, returns: [I32, F32, F32, F32]
      def near(x, count)
        p = (x * PER).clamp(0.0, (count - 3).to_f)
        i = (p + 0.5).to_i
        d = p - i
        return i, 0.5 * (0.5 - d) * (0.5 - d), 0.75 - d * d, 0.5 * (0.5 + d) * (0.5 + d)
      end

      # Counts a value (column 0) or room (column 1) at a place (cells).
      kernel parts: F64[3], slab: I32, nodes: I32[1], x: F32, y: F32, z: F32, value: F64, column: I32
      def drop(parts, slab, nodes, x, y, z, value, column)
        i, xa, xb, xc = near(x, nodes[2])
        j, ya, yb, yc = near(y, nodes[1])
        k, za, zb, zc = near(z, nodes[0])
        3.times do |c|
          deep = c == 0 ? za : (c == 1 ? zb : zc)
          3.times do |b|
            share = value * (deep * (b == 0 ? ya : (b == 1 ? yb : yc)))
            at = ((k + c) * nodes[1] + j + b) * nodes[2] + i
            parts[slab, at, column] += share * xa
            parts[slab, at + 1, column] += share * xb
            parts[slab, at + 2, column] += share * xc
          end
        end
      end

      # A field on the nodes, read with the same weights.
      kernel share: F32[3], x: F32, y: F32, z: F32, returns: F32
      def read(share, x, y, z)
        i, xa, xb, xc = near(x, share.dim(2))
        j, ya, yb, yc = near(y, share.dim(1))
        k, za, zb, zc = near(z, share.dim(0))
        za * (ya * (xa * share[k, j, i] + xb * share[k, j, i + 1] + xc * share[k, j, i + 2]) +
          yb * (xa * share[k, j + 1, i] + xb * share[k, j + 1, i + 1] + xc * share[k, j + 1, i + 2]) +
          yc * (xa * share[k, j + 2, i] + xb * share[k, j + 2, i + 1] + xc * share[k, j + 2, i + 2])) +
          zb * (ya * (xa * share[k + 1, j, i] + xb * share[k + 1, j, i + 1] + xc * share[k + 1, j, i + 2]) +
          yb * (xa * share[k + 1, j + 1, i] + xb * share[k + 1, j + 1, i + 1] + xc * share[k + 1, j + 1, i + 2]) +
          yc * (xa * share[k + 1, j + 2, i] + xb * share[k + 1, j + 2, i + 1] + xc * share[k + 1, j + 2, i + 2])) +
          zc * (ya * (xa * share[k + 2, j, i] + xb * share[k + 2, j, i + 1] + xc * share[k + 2, j, i + 2]) +
          yb * (xa * share[k + 2, j + 1, i] + xb * share[k + 2, j + 1, i + 1] + xc * share[k + 2, j + 1, i + 2]) +
          yc * (xa * share[k + 2, j + 2, i] + xb * share[k + 2, j + 2, i + 1] + xc * share[k + 2, j + 2, i + 2]))
      end

      # The second of two cells in a row, and how much it counts: there may be none.
      kernel n: I32, count: I32, returns: [I32, F32]
      def second(n, count)
        last = [2 * n + 1, count - 1].min
        return last, (last - 2 * n).to_f
      end

      # Eight cells that go together; none counts that lies beyond the box.
      kernel field: F32[3], k: I32, j: I32, i: I32, returns: [F32, F32, F32, F32, F32, F32, F32, F32]
      def eight(field, k, j, i)
        k2, z = second(k, field.dim(0))
        j2, y = second(j, field.dim(1))
        i2, x = second(i, field.dim(2))
        return field[2 * k, 2 * j, 2 * i], x * field[2 * k, 2 * j, i2],
          y * field[2 * k, j2, 2 * i], x * y * field[2 * k, j2, i2],
          z * field[k2, 2 * j, 2 * i], x * z * field[k2, 2 * j, i2],
          y * z * field[k2, j2, 2 * i], x * y * z * field[k2, j2, i2]
      end

      # The sum of eight values, and of each times where it lies along x, y, z.
      kernel of: Flow::Eight, k: I32, j: I32, i: I32, returns: [F32, F32, F32, F32]
      def weigh(of, k, j, i)
        sum = of.a + of.b + of.c + of.d + of.e + of.f + of.g + of.h
        return sum, 2 * i * sum + (of.b + of.d + of.f + of.h), 2 * j * sum + (of.c + of.d + of.g + of.h),
          2 * k * sum + (of.e + of.f + of.g + of.h)
      end

      # The sum of eight values, each times its way along an axis.
      kernel of: Flow::Eight, ways: F32[4], axis: I32, k: I32, j: I32, i: I32, returns: F32
      def way(of, ways, axis, k, j, i)
        of.a * ways[axis, 2 * k + 1, 2 * j + 1, 2 * i + 1] + of.b * ways[axis, 2 * k + 1, 2 * j + 1, 2 * i + 2] +
          of.c * ways[axis, 2 * k + 1, 2 * j + 2, 2 * i + 1] + of.d * ways[axis, 2 * k + 1, 2 * j + 2, 2 * i + 2] +
          of.e * ways[axis, 2 * k + 2, 2 * j + 1, 2 * i + 1] + of.f * ways[axis, 2 * k + 2, 2 * j + 1, 2 * i + 2] +
          of.g * ways[axis, 2 * k + 2, 2 * j + 2, 2 * i + 1] + of.h * ways[axis, 2 * k + 2, 2 * j + 2, 2 * i + 2]
      end

      # The sum of eight values, and where their middle lies (cells).
      kernel field: F32[3], k: I32, j: I32, i: I32, returns: [F32, F32, F32, F32]
      def middle(field, k, j, i)
        a, b, c, d, e, f, g, h = eight(field, k, j, i)
        sum, x, y, z = weigh(Flow::Eight.new(a, b, c, d, e, f, g, h), k, j, i)
        one = sum.abs > LEAST ? 1.0 / sum : 0.0
        return sum, x * one, y * one, z * one
      end

      # The sum of eight values, and of each times where it has come from along x, y, z.
      kernel of: Flow::Eight, ways: F32[4], k: I32, j: I32, i: I32, returns: [F32, F32, F32, F32]
      def trace_back(of, ways, k, j, i)
        sum, x, y, z = weigh(of, k, j, i)
        return sum, x - way(of, ways, 0, k, j, i), y - way(of, ways, 1, k, j, i), z - way(of, ways, 2, k, j, i)
      end

      # The sum of eight values, and where their middle has come from (cells).
      kernel field: F32[3], ways: F32[4], k: I32, j: I32, i: I32, returns: [F32, F32, F32, F32]
      def source(field, ways, k, j, i)
        a, b, c, d, e, f, g, h = eight(field, k, j, i)
        sum, x, y, z = trace_back(Flow::Eight.new(a, b, c, d, e, f, g, h), ways, k, j, i)
        one = sum.abs > LEAST ? 1.0 / sum : 0.0
        return sum, x * one, y * one, z * one
      end

      # What a field holds as it stands. Eight cells go together, as if they lay in their middle of mass:
      # the weights hardly bend over two cells, and what was carried is counted in the same way.
      kernel parts: F64[3], field: F32[3], nodes: I32[1]
      def stand(parts, field, nodes)
        parallel(parts.dim(0)) do |slab|
          parts.dim(1).times { |n| 2.times { |c| parts[slab, n, c] = 0.0 } }
          (EDGE / 2 * slab...[EDGE / 2 * (slab + 1), (field.dim(0) + 1) / 2].min).each do |k|
            ((field.dim(1) + 1) / 2).times do |j|
              ((field.dim(2) + 1) / 2).times do |i|
                sum, x, y, z = middle(field, k, j, i)
                drop(parts, slab, nodes, x, y, z, f64(sum), 0) if sum.abs > LEAST
              end
            end
          end
        end
      end

      # What came of it after carrying, counted where each place has come from.
      kernel parts: F64[3], field: F32[3], room: F32[3], ways: F32[4], nodes: I32[1]
      def come(parts, field, room, ways, nodes)
        parallel(parts.dim(0)) do |slab|
          parts.dim(1).times { |n| 2.times { |c| parts[slab, n, c] = 0.0 } }
          (EDGE / 2 * slab...[EDGE / 2 * (slab + 1), (field.dim(0) + 1) / 2].min).each do |k|
            ((field.dim(1) + 1) / 2).times do |j|
              ((field.dim(2) + 1) / 2).times do |i|
                sum, x, y, z = source(field, ways, k, j, i)
                drop(parts, slab, nodes, x, y, z, f64(sum), 0) if sum.abs > LEAST
                sum, x, y, z = source(room, ways, k, j, i)
                drop(parts, slab, nodes, x, y, z, f64(sum), 1) if sum > LEAST
              end
            end
          end
        end
      end

      # Adds up the layer groups: `sums` f64 [node, 2].
      kernel sums: F64[2], parts: F64[3]
      def add_up(sums, parts)
        parallel(sums.dim(0)) do |n|
          2.times do |c|
            sum = f64(0.0)
            parts.dim(0).times { |slab| sum += parts[slab, n, c] }
            sums[n, c] = sum
          end
        end
      end

      # By which share of their room values must change around each node, -1 to 1.
      kernel share: F32[3], wanted: F64[2], found: F64[2]
      def compare(share, wanted, found)
        each_cell(share) do |k, j, i|
          n = (k * share.dim(1) + j) * share.dim(2) + i
          part = f64(0.0)
          part = (wanted[n, 0] - found[n, 0]) / found[n, 1] if found[n, 1] > 1e-12
          share[k, j, i] = part.clamp(-1.0, 1.0)
        end
      end

      # Changes values by the share of where they come from, eight together; `room` keeps what is left of it.
      # `sums` gets for each two layers the sum of values and of room.
      kernel field: F32[3], room: F32[3], ways: F32[4], share: F32[3], sums: F64[2]
      def settle(field, room, ways, share, sums)
        parallel((field.dim(0) + 1) / 2) do |bk|
          whole = f64(0.0)
          rooms = f64(0.0)
          ((field.dim(1) + 1) / 2).times do |bj|
            ((field.dim(2) + 1) / 2).times do |bi|
              free, x, y, z = source(room, ways, bk, bj, bi)
              part = 0.0
              part = read(share, x, y, z) if free > LEAST
              left = 1.0 - part.abs
              rooms += left * free
              (2 * bk...[2 * bk + 2, field.dim(0)].min).each do |k|
                (2 * bj...[2 * bj + 2, field.dim(1)].min).each do |j|
                  (2 * bi...[2 * bi + 2, field.dim(2)].min).each do |i|
                    open = room[k, j, i]
                    field[k, j, i] += part * open
                    room[k, j, i] = left * open
                    whole += field[k, j, i]
                  end
                end
              end
            end
          end
          sums[bk, 0] = whole
          sums[bk, 1] = rooms
        end
      end

      # Counts what lands beyond the open sides across x and y as if it had come, up to `reach` cells out,
      # where the flow goes on as at the edge. @return that amount, values times cells
      kernel parts: F64[3], src: F32[3], ways: F32[4], open: F32[1], reach: I32, nodes: I32[1], returns: F64
      def leave_sides(parts, src, ways, open, reach, nodes)
        sum = parallel_sum(parts.dim(0)) do |slab|
          part = f64(0.0)
          (EDGE * slab...[EDGE * slab + EDGE, src.dim(0)].min).each do |k|
            2.times do |side|
              edge = side * (src.dim(2) - 1)
              if open[side] > 0.0
                src.dim(1).times do |j|
                  part += gone(parts, slab, src, ways, nodes, Border.new(0, side, edge, j, k, reach))
                end
              end
              top = side * (src.dim(1) - 1)
              if open[2 + side] > 0.0
                src.dim(2).times do |i|
                  part += gone(parts, slab, src, ways, nodes, Border.new(1, side, i, top, k, reach))
                end
              end
            end
          end
          part
        end
        sum
      end

      # The same across z; here a layer group is one of rows.
      kernel parts: F64[3], src: F32[3], ways: F32[4], open: F32[1], reach: I32, nodes: I32[1], returns: F64
      def leave_ends(parts, src, ways, open, reach, nodes)
        sum = parallel_sum(parts.dim(0)) do |slab|
          part = f64(0.0)
          (EDGE * slab...[EDGE * slab + EDGE, src.dim(1)].min).each do |j|
            2.times do |side|
              edge = side * (src.dim(0) - 1)
              if open[4 + side] > 0.0
                src.dim(2).times do |i|
                  part += gone(parts, slab, src, ways, nodes, Border.new(2, side, i, j, edge, reach))
                end
              end
            end
          end
          part
        end
        sum
      end

      # What leaves through the open side at one cell.
      kernel parts: F64[3], slab: I32, src: F32[3], ways: F32[4], nodes: I32[1], at: Flow::Border, returns: F64
      def gone(parts, slab, src, ways, nodes, at)
        part = f64(0.0)
        out = 2 * at.side - 1
        far = ways[at.axis, at.k + 1, at.j + 1, at.i + 1] * out
        n = 1
        while n <= at.reach && n < far + 1.0
          share = (far + 1.0 - n).clamp(0.0, 1.0)
          x = at.i - ways[0, at.k + 1, at.j + 1, at.i + 1] + (at.axis == 0 ? n * out : 0)
          y = at.j - ways[1, at.k + 1, at.j + 1, at.i + 1] + (at.axis == 1 ? n * out : 0)
          z = at.k - ways[2, at.k + 1, at.j + 1, at.i + 1] + (at.axis == 2 ? n * out : 0)
          value = share * Grid::Sampling.linear(src, x, y, z)
          drop(parts, slab, nodes, x, y, z, f64(value), 0) if value != 0.0
          part += value
          n += 1
        end
        part
      end
    end
  end
end
