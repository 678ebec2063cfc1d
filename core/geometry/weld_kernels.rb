# frozen_string_literal: true

module Vumbral
  module Geometry
    # Loops that find points in the same place, and edges without a partner.
    module WeldKernels
      extend Kernel::Library

      # A number's bits; both noughts are one.
      kernel bits: I32, value: F32, returns: I64
      def plain(bits, value)
        value == 0.0 ? i64(0) : i64(bits)
      end

      # Where a place is looked for first. Products stay below 2^62.
      kernel points: F32[2], bits: I32[2], n: I32, mask: I32, returns: I32
      def slot(points, bits, n, mask)
        mixed = plain(bits[n, 0], points[n, 0]) * 73_856_093
        mixed = (mixed ^ (mixed >> 23)) ^ (plain(bits[n, 1], points[n, 1]) * 19_349_663)
        mixed = (mixed ^ (mixed >> 19)) ^ (plain(bits[n, 2], points[n, 2]) * 83_492_791)
        mixed = ((mixed ^ (mixed >> 29)) & 0x7fffffff) * 1_540_483_477
        ((mixed >> 22) & mask).to_i
      end

      # Gives each point the number of its place, and each place its first point. `table` has a power of two of
      # rows, at least twice as many as points, all -1; open addressing.
      kernel numbers: I32[1], firsts: I32[1], table: I32[1], points: F32[2], bits: I32[2], returns: I32
      def number(numbers, firsts, table, points, bits)
        mask = table.size - 1
        made = 0
        points.dim(0).times do |n|
          at = slot(points, bits, n, mask)
          while table[at] >= 0 && !same?(points, firsts[table[at]], n)
            at = (at + 1) & mask
          end
          if table[at] < 0
            table[at] = made
            firsts[made] = n
            made += 1
          end
          numbers[n] = table[at]
        end
        made
      end

      kernel points: F32[2], a: I32, b: I32, returns: BOOL
      def same?(points, a, b)
        points[a, 0] == points[b, 0] && points[a, 1] == points[b, 1] && points[a, 2] == points[b, 2]
      end

      kernel out: F32[2], points: F32[2], firsts: I32[1]
      def take(out, points, firsts)
        parallel(out.dim(0)) { |n| 3.times { |c| out[n, c] = points[firsts[n], c] } }
      end

      # The edges of all triangles at their lower end: `ends[starts[p] ... starts[p + 1]]` hold the other
      # end plus one, negative where the triangle runs downwards. Edges without length are left out (0).
      kernel starts: I32[1], ends: I32[1], numbers: I32[1], triangles: I32[2]
      def gather(starts, ends, numbers, triangles)
        triangles.dim(0).times do |n|
          3.times do |c|
            a = numbers[triangles[n, c]]
            b = numbers[triangles[n, (c + 1) % 3]]
            starts[[a, b].min] += 1
          end
        end
        sum = 0
        (starts.size - 1).times do |p|
          sum += starts[p]
          starts[p] = sum
        end
        starts[starts.size - 1] = sum
        triangles.dim(0).times do |n|
          flat = folded?(numbers, triangles, n)
          3.times do |c|
            a = numbers[triangles[n, c]]
            b = numbers[triangles[n, (c + 1) % 3]]
            low = [a, b].min
            starts[low] -= 1
            high = [a, b].max + 1
            ends[starts[low]] = flat ? 0 : (a < b ? high : -high)
          end
        end
      end

      # Whether two corners of a triangle are in one place.
      kernel numbers: I32[1], triangles: I32[2], n: I32, returns: BOOL
      def folded?(numbers, triangles, n)
        a = numbers[triangles[n, 0]]
        b = numbers[triangles[n, 1]]
        c = numbers[triangles[n, 2]]
        a == b || b == c || c == a
      end

      # Edges whose two directions do not balance. Sorts each point's edges by their other end (Shell 1959).
      kernel starts: I32[1], ends: I32[1], returns: F64
      def unbalanced(starts, ends)
        open = parallel_sum(starts.size - 1) do |p|
          sort(ends, starts[p], starts[p + 1])
          tally(ends, starts[p], starts[p + 1])
        end
        open
      end

      kernel ends: I32[1], from: I32, to: I32
      def sort(ends, from, to)
        gap = (to - from) / 2
        while gap > 0
          (from + gap).upto(to - 1) do |n|
            value = ends[n]
            at = n
            while at - gap >= from && ends[at - gap].abs > value.abs
              ends[at] = ends[at - gap]
              at -= gap
            end
            ends[at] = value
          end
          gap /= 2
        end
      end

      kernel ends: I32[1], from: I32, to: I32, returns: F64
      def tally(ends, from, to)
        open = f64(0.0)
        at = from
        while at < to
          other = ends[at].abs
          balance = 0
          while at < to && ends[at].abs == other
            balance += ends[at] > 0 ? 1 : (ends[at] < 0 ? -1 : 0)
            at += 1
          end
          open += 1.0 if balance != 0
        end
        open
      end
    end
  end
end
