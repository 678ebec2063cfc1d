# frozen_string_literal: true

module Vumbral
  module Finish
    # How uneven small squares of a picture are.
    module GrainKernels
      extend Kernel::Library

      # Of each square of `edge` pixels of a picture f32 [h, w, 4], once an even slope is taken out of it: the
      # brightness; the variances of red, green and blue; what neighbours across and below of green have in common; and
      # what red has in common with green and green with blue. `out` f32 [rows, columns, 7].
      kernel out: F32[3], image: F32[3], edge: I32
      def squares(out, image, edge)
        middle = 0.5 * (edge - 1.0)
        count = edge * edge
        spread = count * (edge * edge - 1.0) / 12.0
        parallel(out.dim(0)) do |row|
          mean = local_f32(3)
          sx = local_f32(3)
          sy = local_f32(3)
          off = local_f32(3)
          out.dim(1).times do |column|
            7.times { |n| out[row, column, n] = 0.0 }
            3.times do |c|
              mean[c] = 0.0
              sx[c] = 0.0
              sy[c] = 0.0
            end
            edge.times do |m|
              edge.times do |n|
                3.times do |c|
                  v = image[row * edge + m, column * edge + n, c]
                  mean[c] += v / count
                  sx[c] += (n - middle) * v / spread
                  sy[c] += (m - middle) * v / spread
                end
              end
            end
            out[row, column, 0] = 0.2126 * mean[0] + 0.7152 * mean[1] + 0.0722 * mean[2]
            edge.times do |m|
              edge.times do |n|
                y = row * edge + m
                x = column * edge + n
                3.times do |c|
                  off[c] = image[y, x, c] - mean[c] - sx[c] * (n - middle) - sy[c] * (m - middle)
                  out[row, column, 1 + c] += off[c] * off[c] / count
                end
                out[row, column, 5] += off[0] * off[1] / count
                out[row, column, 6] += off[1] * off[2] / count
                if m + 1 < edge && n + 1 < edge
                  beside = image[y, x + 1, 1] - mean[1] - sx[1] * (n + 1 - middle) - sy[1] * (m - middle)
                  below = image[y + 1, x, 1] - mean[1] - sx[1] * (n - middle) - sy[1] * (m + 1 - middle)
                  out[row, column, 4] += 0.5 * off[1] * (beside + below) / ((edge - 1) * (edge - 1))
                end
              end
            end
          end
        end
      end
    end
  end
end
