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

      # Where each cell's particles begin, and the order that brings them there (each stays behind those that were before
      # it). `first` i32 [cells + 2], the last for those outside. Gives how many are inside.
      kernel order: I32[1], first: I32[1], cells: I32[1], returns: I32
      def order(order, first, cells)
        first.size.times { |n| first[n] = 0 }
        cells.size.times { |p| first[cells[p]] = first[cells[p]] + 1 }
        sum = 0
        first.size.times do |n|
          here = first[n]
          first[n] = sum
          sum += here
        end
        cells.size.times do |p|
          order[first[cells[p]]] = p
          first[cells[p]] = first[cells[p]] + 1
        end
        # Each now says where the next one begins.
        (first.size - 1).times { |n| first[first.size - 1 - n] = first[first.size - 2 - n] }
        first[0] = 0
        outside = first.size - 2
        first[outside]
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
