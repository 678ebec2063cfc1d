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

      # Colours behind the speeds, from their roots.
      kernel wide: F32[2], dye: U8[2]
      def dye(wide, dye)
        parallel(wide.dim(0)) do |p|
          3.times do |a|
            root = dye[p, a] / 255.0
            wide[p, 3 + a] = root * root
          end
        end
      end

      kernel at: F32[2], carried: F32[2], places: F32[2], given: F32[2], order: I32[1]
      def take(at, carried, places, given, order)
        parallel(at.dim(0)) do |n|
          p = order[n]
          3.times { |a| at[n, a] = places[p, a] }
          carried.dim(1).times { |a| carried[n, a] = given[p, a] }
        end
      end

      # Some numbers of each row, from one on.
      kernel out: F32[2], rows: F32[2], from: I32
      def part(out, rows, from)
        parallel(out.dim(0)) { |p| out.dim(1).times { |a| out[p, a] = rows[p, from + a] } }
      end
    end
  end
end
