# frozen_string_literal: true

module Vumbral
  module Grid
    # Pictures made smaller.
    module ShrinkKernels
      extend Kernel::Library

      # Each place is the mean of what it covers, without what is below nothing. `out` f32 [h, w, n] takes the first n
      # of the values that `from` has.
      kernel out: F32[3], from: F32[3]
      def mean(out, from)
        parallel(out.dim(0)) do |j|
          top = j * from.dim(0) / out.dim(0)
          bottom = [(j + 1) * from.dim(0) / out.dim(0), top + 1].max
          out.dim(1).times do |i|
            left = i * from.dim(1) / out.dim(1)
            right = [(i + 1) * from.dim(1) / out.dim(1), left + 1].max
            out.dim(2).times do |c|
              sum = 0.0
              (top...bottom).each { |y| (left...right).each { |x| sum += [from[y, x, c], 0.0].max } }
              out[j, i, c] = sum / ((bottom - top) * (right - left))
            end
          end
        end
      end
    end
  end
end
