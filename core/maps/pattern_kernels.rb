# frozen_string_literal: true

module Vumbral
  module Maps
    # Loops for {Patterns}.
    module PatternKernels
      extend Kernel::Library

      # What the nearest of some points has, at the middle of each cell of a lattice: `box` its lowest corner and how
      # wide a cell is.
      kernel out: F32[3], points: F32[2], values: F32[1], box: F32[1]
      def nearest(out, points, values, box)
        parallel(out.dim(0)) do |k|
          out.dim(1).times do |j|
            out.dim(2).times do |i|
              x = box[0] + (i + 0.5) * box[3]
              y = box[1] + (j + 0.5) * box[3]
              z = box[2] + (k + 0.5) * box[3]
              least = 1e30
              found = 0.0
              points.dim(0).times do |p|
                a = points[p, 0] - x
                b = points[p, 1] - y
                c = points[p, 2] - z
                far = a * a + b * b + c * c
                if far < least
                  least = far
                  found = values[p]
                end
              end
              out[k, j, i] = found
            end
          end
        end
      end
    end
  end
end
