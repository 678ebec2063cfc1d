# frozen_string_literal: true

module Vumbral
  module Geometry
    # Loops that put a mesh's triangles in the order of a {BVH}.
    module SplittingKernels
      extend Kernel::Library

      # The middle of each triangle, three times over.
      kernel middles: F32[2], points: F32[2], triangles: I32[2]
      def middles(middles, points, triangles)
        parallel(triangles.dim(0)) do |n|
          3.times do |c|
            middles[n, c] = points[triangles[n, 0], c] + points[triangles[n, 1], c] + points[triangles[n, 2], c]
          end
        end
      end

      # Halves every run of `slots` triangles across the axis on which their middles lie widest: what lies lower
      # comes into its first half (quickselect, Hoare 1961).
      kernel order: I32[1], middles: F32[2], slots: I32
      def halve(order, middles, slots)
        parallel((order.size + slots - 1) / slots, uneven: true) do |n|
          from = n * slots
          to = [from + slots, order.size].min - 1
          middle = from + slots / 2
          axis = widest(order, middles, from, to)
          while from < to && middle <= to
            pivot = middles[order[(from + to) / 2], axis]
            i = from
            j = to
            while i <= j
              while middles[order[i], axis] < pivot
                i += 1
              end
              while middles[order[j], axis] > pivot
                j -= 1
              end
              if i <= j
                held = order[i]
                order[i] = order[j]
                order[j] = held
                i += 1
                j -= 1
              end
            end
            if middle <= j
              to = j
            elsif middle >= i
              from = i
            else
              to = from
            end
          end
        end
      end

      # The axis on which a run's middles lie widest.
      kernel order: I32[1], middles: F32[2], from: I32, to: I32, returns: I32
      def widest(order, middles, from, to)
        best = 0
        most = -1.0
        3.times do |axis|
          low = middles[order[from], axis]
          high = low
          (from..to).each do |n|
            low = [low, middles[order[n], axis]].min
            high = [high, middles[order[n], axis]].max
          end
          if high - low > most
            most = high - low
            best = axis
          end
        end
        best
      end
    end
  end
end
