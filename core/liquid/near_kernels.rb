# frozen_string_literal: true

module Vumbral
  module Liquid
    # Bringing the particles of a surface into order.
    module NearKernels
      extend Kernel::Library

      # From halves to whole numbers of four bytes.
      kernel wide: F32[2], speed: F16[2]
      def widen(wide, speed)
        parallel(wide.dim(0)) { |p| 3.times { |a| wide[p, a] = speed[p, a] } }
      end

      kernel at: F32[2], speed: F32[2], places: F32[2], speeds: F32[2], order: I32[1]
      def take(at, speed, places, speeds, order)
        parallel(at.dim(0)) do |n|
          p = order[n]
          3.times do |a|
            at[n, a] = places[p, a]
            speed[n, a] = speeds[p, a]
          end
        end
      end
    end
  end
end
