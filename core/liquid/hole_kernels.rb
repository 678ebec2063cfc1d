# frozen_string_literal: true

module Vumbral
  module Liquid
    # Holes of a few cells within the liquid, where particles happen to be few, as they are beside walls: counted as
    # air, the weight of all that lies above would shoot into them.
    module HoleKernels
      extend Kernel::Library

      # A hole has at most so many cells; what is larger is a bubble, or the open air.
      MOST = 10

      # Marks the cells of holes: only beside liquid, for most air is far from any. `busy` u8 [z + 1, y + 1], rows that
      # have any.
      kernel marks: U8[3], full: F32[3], open: Flow::Faces, busy: U8[2]
      def find(marks, full, open, busy)
        parallel(full.dim(0), uneven: true) do |k|
          full.dim(1).times do |j|
            full.dim(2).times do |i|
              hole = false
              if busy[k, j] != 0 && full[k, j, i] < 0.5
                wet = false
                6.times { |n| wet = true if beside(full, open, k, j, i, n) == 1 }
                hole = closed(full, open, k, j, i) if wet
              end
              marks[k, j, i] = hole ? 1 : 0
            end
          end
        end
      end

      # Counts them as full.
      kernel full: F32[3], marks: U8[3]
      def fill(full, marks)
        each_cell(full) { |k, j, i| full[k, j, i] = marks[k, j, i] == 1 ? 1.0 : full[k, j, i] }
      end

      # Whether air beside air from a cell on comes to an end after a few.
      kernel full: F32[3], open: Flow::Faces, k: I32, j: I32, i: I32, returns: BOOL
      def closed(full, open, k, j, i)
        ny = full.dim(1)
        nx = full.dim(2)
        cells = local_i32(10)
        cells[0] = (k * ny + j) * nx + i
        count = 1
        at = 0
        while at < count
          c = cells[at] / (ny * nx)
          b = cells[at] / nx % ny
          a = cells[at] % nx
          6.times do |n|
            found = count > MOST ? 0 : beside(full, open, c, b, a, n)
            if found == 2
              count = MOST + 1
            elsif found == 3
              other = cells[at] + (n / 2 == 0 ? 1 : (n / 2 == 1 ? nx : ny * nx)) * (2 * (n % 2) - 1)
              known = 0
              count.times { |m| known = 1 if cells[m] == other }
              if known == 0
                cells[count] = other if count < MOST
                count += 1
              end
            end
          end
          at = count > MOST ? count : at + 1
        end
        count <= MOST
      end

      # What lies beside a cell: 0 a wall, 1 liquid, 2 what is outside, 3 air. `n` counts the sides: low and high along
      # x, y, z.
      kernel full: F32[3], open: Flow::Faces, k: I32, j: I32, i: I32, n: I32, returns: I32
      def beside(full, open, k, j, i, n)
        high = n % 2
        way = 2 * high - 1
        gap = 0.0
        c = k
        b = j
        a = i
        if n / 2 == 0
          gap = open.u[k, j, i + high]
          a = i + way
        elsif n / 2 == 1
          gap = open.v[k, j + high, i]
          b = j + way
        else
          gap = open.w[k + high, j, i]
          c = k + way
        end
        out = 0
        if gap > 0.0
          if c < 0 || b < 0 || a < 0 || c >= full.dim(0) || b >= full.dim(1) || a >= full.dim(2)
            out = 2
          else
            out = full[c, b, a] < 0.5 ? 3 : 1
          end
        end
        out
      end
    end
  end
end
