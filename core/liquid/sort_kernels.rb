# frozen_string_literal: true

module Vumbral
  module Liquid
    # Sorting particles by their cells, so that neighbours stand beside each other in memory and sums always run in the
    # same order.
    module SortKernels
      extend Kernel::Library

      # The number of the cell that each particle is in, from one on; those outside get the number after the last.
      kernel cells: I32[1], at: F32[2], size: I32[1], from: I32
      def cells(cells, at, size, from)
        parallel(at.dim(0)) do |p|
          x = at[p, 0]
          y = at[p, 1]
          z = at[p, 2]
          inside = x >= 0.0 && y >= 0.0 && z >= 0.0 && x < size[2].to_f && y < size[1].to_f && z < size[0].to_f
          cells[from + p] = inside ? (z.to_i * size[1] + y.to_i) * size[2] + x.to_i : size[0] * size[1] * size[2]
        end
      end

      # How many particles each cell has, told by where those of each begin; see {#order}.
      kernel first: I32[1], second: I32[1], cells: I32[1]
      def count(first, second, cells)
        tally(first, second, cells)
        sum = 0
        first.size.times do |n|
          here = first[n] + second[n]
          first[n] = sum
          sum += here
        end
      end

      # Where each cell's particles begin, and the order that brings them there (each stays behind those that were
      # before it). `first` i32 [cells + 2], the last for those outside; `second` is as long, to work with. Gives how
      # many are inside.
      kernel order: I32[1], first: I32[1], second: I32[1], cells: I32[1], returns: I32
      def order(order, first, second, cells)
        tally(first, second, cells)
        sum = 0
        first.size.times do |n|
          here = first[n]
          also = second[n]
          first[n] = sum
          second[n] = sum + here
          sum += here + also
        end
        parallel(2) do |half|
          if half == 0
            (cells.size / 2).times do |p|
              order[first[cells[p]]] = p
              first[cells[p]] = first[cells[p]] + 1
            end
          else
            (cells.size / 2...cells.size).each do |p|
              order[second[cells[p]]] = p
              second[cells[p]] = second[cells[p]] + 1
            end
          end
        end
        # The second now says where the next one begins.
        parallel((first.size + 65_535) / 65_536) do |block|
          (65_536 * block...[65_536 * block + 65_536, first.size].min).each do |n|
            first[n] = n == 0 ? 0 : second[n - 1]
          end
        end
        before = first.size - 2
        first[before]
      end

      # How many of the first half of particles are in each cell, and how many of the second.
      kernel first: I32[1], second: I32[1], cells: I32[1]
      def tally(first, second, cells)
        parallel(2) do |half|
          if half == 0
            first.size.times { |n| first[n] = 0 }
            (cells.size / 2).times { |p| first[cells[p]] = first[cells[p]] + 1 }
          else
            second.size.times { |n| second[n] = 0 }
            (cells.size / 2...cells.size).each { |p| second[cells[p]] = second[cells[p]] + 1 }
          end
        end
      end

      # @param came those that are counted after them
      kernel sorted: Liquid::Drops, drops: Liquid::Drops, came: Liquid::Drops, order: I32[1]
      def take(sorted, drops, came, order)
        parallel(sorted.at.dim(0)) do |n|
          if order[n] < drops.at.dim(0)
            put(sorted, n, drops, order[n])
          else
            put(sorted, n, came, order[n] - drops.at.dim(0))
          end
        end
      end

      kernel sorted: Liquid::Drops, n: I32, drops: Liquid::Drops, p: I32
      def put(sorted, n, drops, p)
        3.times do |a|
          sorted.at[n, a] = drops.at[p, a]
          sorted.speed[n, a] = drops.speed[p, a]
          sorted.dye[n, a] = drops.dye[p, a]
        end
        9.times { |a| sorted.turn[n, a] = drops.turn[p, a] }
        sorted.born[n] = drops.born[p]
        sorted.id[n] = drops.id[p]
      end
    end
  end
end
