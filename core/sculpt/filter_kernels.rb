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
          16.times { |j| (16 + 2 * reach).times { |c| line[(16 + 2 * reach) * j + c] = FieldKernels.at(cells, z + k, y + j, x + c - reach) } }
        else
          (16 + 2 * reach).times do |j|
            16.times { |c| line[16 * j + c] = axis == 1 ? FieldKernels.at(cells, z + k, y + j - reach, x + c) : FieldKernels.at(cells, z + j - reach, y + k, x + c) }
          end
        end
      end

      # The middle one of all values within so many cells each way (1 or 2). Those of a brick and around it are put in
      # order once, so that each has a rank; the middle rank is then found bit by bit, by counting how many around a cell
      # are less, for a row of cells at a time.
      kernel out: F32[3], places: I32[2], cells: Sculpt::Cells, reach: I32
      def median(out, places, cells, reach)
        parallel(places.dim(0), uneven: true) do |n|
          values = local_f32(8000)
          ranks = local_i32(8000)
          order = local_i32(8000)
          edge = 16 + 2 * reach
          count = edge * edge * edge
          count.times do |c|
            values[c] = FieldKernels.at(cells, 16 * places[n, 0] + c / (edge * edge) - reach, 16 * places[n, 1] + c / edge % edge - reach, 16 * places[n, 2] + c % edge - reach)
          end
          sort(order, ranks, values, count)
          count.times { |c| ranks[order[c]] = c }
          found = local_i32(16)
          16.times do |k|
            16.times do |j|
              middle(found, ranks, (k * edge + j) * edge, edge, reach)
              16.times { |i| out[16 * n + k, j, i] = values[order[found[i]]] }
            end
          end
        end
      end

      # The rank that half of those around each of a row of cells are less than.
      kernel found: I32[1], ranks: I32[1], first: I32, edge: I32, reach: I32
      def middle(found, ranks, first, edge, reach)
        less = local_i32(16)
        tried = local_i32(16)
        wide = 2 * reach + 1
        half = wide * wide * wide / 2
        lanes = edge - 2 * reach
        16.times { |i| found[i] = 0 }
        bit = 4096
        while bit > 0
          16.times { |i| less[i] = 0 }
          16.times { |i| tried[i] = found[i] + bit }
          wide.times do |c|
            wide.times do |b|
              at = first + (c * edge + b) * edge
              # A row of neighbours at once. Not sixteen in so many letters, which compilers would take apart.
              if reach == 1
                lanes.times { |i| less[i] = less[i] + below(ranks[at + i], tried[i]) + below(ranks[at + i + 1], tried[i]) + below(ranks[at + i + 2], tried[i]) }
              else
                lanes.times { |i| less[i] = less[i] + below(ranks[at + i], tried[i]) + below(ranks[at + i + 1], tried[i]) + below(ranks[at + i + 2], tried[i]) + below(ranks[at + i + 3], tried[i]) + below(ranks[at + i + 4], tried[i]) }
              end
            end
          end
          16.times { |i| found[i] = less[i] <= half ? tried[i] : found[i] }
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
          values.dim(1).times { |j| values.dim(2).times { |i| found += (0.5 - (values[k, j, i] - by) / voxel).clamp(0.0, 1.0) } }
          found
        end
        sum
      end
    end
  end
end
