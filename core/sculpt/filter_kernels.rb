# frozen_string_literal: true

module Vumbral
  module Sculpt
    # Loops of the steps that look at values around each, brick by brick.
    module FilterKernels
      extend Kernel::Library

      # Cells that a bell reaches at most.
      REACH = 96

      # A bell along x (0), y (1) or z (2), `sigma` in cells, cut at three of them; values beyond the edge are as at it.
      kernel out: F32[3], places: I32[2], cells: Sculpt::Cells, axis: I32, sigma: F32
      def blur(out, places, cells, axis, sigma)
        parallel(places.dim(0)) do |n|
          reach = [(3.0 * sigma).ceil, 96].min
          bell = local_f32(97)
          line = local_f32(3328)
          sums = local_f32(16)
          whole = 1.0
          bell[0] = 1.0
          reach.times do |m|
            bell[m + 1] = Math.exp(-0.5 * (m + 1.0) * (m + 1.0) / (sigma * sigma))
            whole += 2.0 * bell[m + 1]
          end
          # Along x rows lie one behind the other; across it sixteen lines beside each other.
          apart = axis == 0 ? 1 : 16
          stride = axis == 0 ? 16 + 2 * reach : 16
          16.times do |k|
            block(line, places, cells, n, axis, k, reach)
            16.times do |j|
              at = stride * j + apart * reach
              16.times { |c| sums[c] = line[at + c] }
              reach.times do |m|
                w = bell[m + 1]
                lower = at - apart * (m + 1)
                upper = at + apart * (m + 1)
                16.times { |c| sums[c] = sums[c] + w * (line[lower + c] + line[upper + c]) }
              end
              if axis == 2
                16.times { |c| out[16 * n + j, k, c] = sums[c] / whole }
              else
                16.times { |c| out[16 * n + k, j, c] = sums[c] / whole }
              end
            end
          end
        end
      end

      # What a bell along an axis reads of one layer of a brick: for x its sixteen rows, longer by `reach` at both ends;
      # for y and z rows of sixteen one behind the other.
      kernel line: F32[1], places: I32[2], cells: Sculpt::Cells, n: I32, axis: I32, k: I32, reach: I32
      def block(line, places, cells, n, axis, k, reach)
        z = 16 * places[n, 0]
        y = 16 * places[n, 1]
        x = 16 * places[n, 2]
        if axis == 0
          16.times { |j| longer(line, (16 + 2 * reach) * j, cells, z + k, y + j, x, reach) }
        else
          (16 + 2 * reach).times do |j|
            FieldKernels.row(
              line, 16 * j, cells, axis == 1 ? z + k : z + j - reach, axis == 1 ? y + j - reach : y + k, x / 16
            )
          end
        end
      end

      # A row of a brick, longer by `reach` at both ends.
      kernel out: F32[1], to: I32, cells: Sculpt::Cells, k: I32, j: I32, x: I32, reach: I32
      def longer(out, to, cells, k, j, x, reach)
        reach.times { |c| out[to + c] = FieldKernels.at(cells, k, j, x + c - reach) }
        FieldKernels.row(out, to + reach, cells, k, j, x / 16)
        reach.times { |c| out[to + reach + 16 + c] = FieldKernels.at(cells, k, j, x + 16 + c) }
      end

      # The middle one of all values within so many cells each way (1 or 2).
      kernel out: F32[3], places: I32[2], cells: Sculpt::Cells, reach: I32
      def median(out, places, cells, reach)
        parallel(places.dim(0), uneven: true) do |n|
          values = local_f32(8000)
          edge = 16 + 2 * reach
          edge.times do |k|
            edge.times do |j|
              longer(
                values, (k * edge + j) * edge, cells, 16 * places[n, 0] + k - reach, 16 * places[n, 1] + j - reach,
                16 * places[n, 2], reach
              )
            end
          end
          if reach == 1
            few(out, values, n)
          else
            many(out, values, n, edge)
          end
        end
      end

      # Of 27 values, for a row of cells at a time: of the first fifteen neither the least nor the most can be the
      # middle one of all, so both go and another comes, until three are left.
      kernel out: F32[3], values: F32[1], n: I32
      def few(out, values, n)
        line = local_f32(432)
        16.times do |k|
          16.times do |j|
            27.times do |m|
              at = ((k + m / 9) * 18 + j + m / 3 % 3) * 18 + m % 3
              16.times { |i| line[16 * m + i] = values[at + i] }
            end
            left = 15
            while left > 3
              ends(line, left)
              come = 16 * (30 - left)
              16.times { |i| line[i] = line[come + i] }
              left -= 1
            end
            ends(line, 3)
            16.times { |i| out[16 * n + k, j, i] = line[16 + i] }
          end
        end
      end

      # The least of so many comes first, the most last.
      kernel line: F32[1], count: I32
      def ends(line, count)
        (count / 2).times { |m| swap(line, m, count - 1 - m) }
        (1..(count - 1) / 2).each { |m| swap(line, 0, m) }
        (count / 2...count - 1).each { |m| swap(line, m, count - 1) }
      end

      kernel line: F32[1], a: I32, b: I32
      def swap(line, a, b)
        # Apart first: compilers do sixteen at once only where nothing that is read may have been written.
        least = local_f32(16)
        most = local_f32(16)
        16.times { |i| least[i] = [line[16 * a + i], line[16 * b + i]].min }
        16.times { |i| most[i] = [line[16 * a + i], line[16 * b + i]].max }
        16.times { |i| line[16 * a + i] = least[i] }
        16.times { |i| line[16 * b + i] = most[i] }
      end

      # Of more: those of a brick and around it are put in order once, so that each has a rank; the middle rank is then
      # found bit by bit, by counting how many around a cell are less, for a row of cells at a time.
      kernel out: F32[3], values: F32[1], n: I32, edge: I32
      def many(out, values, n, edge)
        ranks = local_i32(8000)
        order = local_i32(8000)
        found = local_i32(16)
        count = edge * edge * edge
        sort(order, ranks, values, count)
        count.times { |c| ranks[order[c]] = c }
        16.times do |k|
          16.times do |j|
            middle(found, ranks, (k * edge + j) * edge, edge)
            16.times { |i| out[16 * n + k, j, i] = values[order[found[i]]] }
          end
        end
      end

      # The rank that half of those around each of a row of cells are less than.
      kernel found: I32[1], ranks: I32[1], first: I32, edge: I32
      def middle(found, ranks, first, edge)
        less = local_i32(16)
        tried = local_i32(16)
        lanes = edge - 4
        16.times { |i| found[i] = 0 }
        bit = 4096
        while bit > 0
          16.times { |i| less[i] = 0 }
          16.times { |i| tried[i] = found[i] + bit }
          5.times do |c|
            5.times do |b|
              at = first + (c * edge + b) * edge
              # A row of neighbours at once. Not sixteen in so many letters, which compilers would take apart.
              lanes.times do |i|
                less[i] = less[i] + below(ranks[at + i], tried[i]) + below(ranks[at + i + 1], tried[i]) +
                  below(ranks[at + i + 2], tried[i]) + below(ranks[at + i + 3], tried[i]) +
                  below(ranks[at + i + 4], tried[i])
              end
            end
          end
          16.times { |i| found[i] = less[i] <= 62 ? tried[i] : found[i] }
          bit /= 2
        end
      end

      kernel rank: I32, tried: I32, returns: I32
      def below(rank, tried)
        rank < tried ? 1 : 0
      end

      # Numbers in order: roughly by how large they are among all, then by merging runs (`order` takes which is where;
      # `other` is room to work in).
      kernel order: I32[1], other: I32[1], values: F32[1], count: I32
      def sort(order, other, values, count)
        heaps = local_i32(2049)
        low = values[0]
        high = values[0]
        count.times do |c|
          low = [low, values[c]].min
          high = [high, values[c]].max
        end
        per = high > low ? 2047.0 / (high - low) : 0.0
        2049.times { |c| heaps[c] = 0 }
        count.times do |c|
          heap = ((values[c] - low) * per).to_i + 1
          heaps[heap] = heaps[heap] + 1
        end
        2048.times { |c| heaps[c + 1] = heaps[c + 1] + heaps[c] }
        count.times do |c|
          heap = ((values[c] - low) * per).to_i
          order[heaps[heap]] = c
          heaps[heap] = heaps[heap] + 1
        end
        run = 1
        while run < count
          start = 0
          while start < count
            middle = [start + run, count].min
            last = [start + 2 * run, count].min
            if middle < last && values[order[middle - 1]] > values[order[middle]]
              a = start
              b = middle
              (start...last).each do |c|
                first = b >= last || (a < middle && values[order[a]] <= values[order[b]])
                other[c] = first ? order[a] : order[b]
                a += first ? 1 : 0
                b += first ? 0 : 1
              end
              (start...last).each { |c| order[c] = other[c] }
            end
            start += 2 * run
          end
          run *= 2
        end
      end

      # What a blur took away is added so many times over.
      kernel out: F32[3], before: F32[3], blurred: F32[3], amount: F32
      def sharpen(out, before, blurred, amount)
        each_cell(out) { |k, j, i| out[k, j, i] = before[k, j, i] + amount * (before[k, j, i] - blurred[k, j, i]) }
      end

      # How many cells lie within a surface that is moved out by `by`, softened by a cell.
      kernel values: F32[3], by: F32, voxel: F32, returns: F64
      def within(values, by, voxel)
        sum = parallel_sum(values.dim(0)) do |k|
          found = f64(0.0)
          values
            .dim(1)
            .times { |j| values.dim(2).times { |i| found += (0.5 - (values[k, j, i] - by) / voxel).clamp(0.0, 1.0) } }
          found
        end
        sum
      end
    end
  end
end
