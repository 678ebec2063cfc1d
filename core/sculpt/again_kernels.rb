# frozen_string_literal: true

module Vumbral
  module Sculpt
    # Loops of {Again}.
    module AgainKernels
      extend Kernel::Library

      # Where two on the same lattice differ in a brick: `boxes` i32 [bricks, 6] the first and the last cell of it along
      # z, y and x; a first after the last where they do not.
      kernel boxes: I32[2], one: Sculpt::Cells, other: Sculpt::Cells
      def unlike(boxes, one, other)
        parallel(boxes.dim(0), uneven: true) do |n|
          x = n % one.index.dim(2)
          y = n / one.index.dim(2) % one.index.dim(1)
          z = n / one.index.dim(2) / one.index.dim(1)
          a = one.index[z, y, x]
          b = other.index[z, y, x]
          3.times do |axis|
            boxes[n, 2 * axis] = 16
            boxes[n, 2 * axis + 1] = -1
          end
          if a < 0 || b < 0
            unless a < 0 && b < 0 && one.tiles[z, y, x] == other.tiles[z, y, x]
              3.times do |axis|
                boxes[n, 2 * axis] = 0
                boxes[n, 2 * axis + 1] = 15
              end
            end
          else
            4096.times do |c|
              if one.values[16 * a + c / 256, c / 16 & 15, c & 15] != other.values[16 * b + c / 256, c / 16 & 15, c & 15]
                boxes[n, 0] = [boxes[n, 0], c / 256].min
                boxes[n, 1] = [boxes[n, 1], c / 256].max
                boxes[n, 2] = [boxes[n, 2], c / 16 & 15].min
                boxes[n, 3] = [boxes[n, 3], c / 16 & 15].max
                boxes[n, 4] = [boxes[n, 4], c & 15].min
                boxes[n, 5] = [boxes[n, 5], c & 15].max
              end
            end
          end
        end
      end

      # Marks bricks that lie within so many cells of where something differs; what is marked stays so.
      kernel out: U8[3], boxes: I32[2], cells: I32
      def reached(out, boxes, cells)
        by = (cells + 15) / 16
        each_cell(out) do |k, j, i|
          found = out[k, j, i]
          ([k - by, 0].max..[k + by, out.dim(0) - 1].min).each do |c|
            ([j - by, 0].max..[j + by, out.dim(1) - 1].min).each do |b|
              ([i - by, 0].max..[i + by, out.dim(2) - 1].min).each do |a|
                n = (c * out.dim(1) + b) * out.dim(2) + a
                z = 16 * (c - k)
                y = 16 * (b - j)
                x = 16 * (a - i)
                here = boxes[n, 1] >= 0 && z + boxes[n, 0] - cells <= 15 && z + boxes[n, 1] + cells >= 0
                here = here && y + boxes[n, 2] - cells <= 15 && y + boxes[n, 3] + cells >= 0
                here = here && x + boxes[n, 4] - cells <= 15 && x + boxes[n, 5] + cells >= 0
                found = 1 if here
              end
            end
          end
          out[k, j, i] = found
        end
      end

      # Marks, and so many places around each.
      kernel out: U8[3], marks: U8[3], by: I32
      def wider(out, marks, by)
        each_cell(out) do |k, j, i|
          found = 0
          ([k - by, 0].max..[k + by, out.dim(0) - 1].min).each do |c|
            ([j - by, 0].max..[j + by, out.dim(1) - 1].min).each do |b|
              ([i - by, 0].max..[i + by, out.dim(2) - 1].min).each { |a| found = 1 if marks[c, b, a] == 1 }
            end
          end
          out[k, j, i] = found
        end
      end

      # Bricks from one where there are marks, from another elsewhere.
      kernel values: F32[3], index: I32[3], places: I32[2], one: Sculpt::Cells, other: Sculpt::Cells, marks: U8[3]
      def join(values, index, places, one, other, marks)
        parallel(places.dim(0)) do |n|
          z = places[n, 0]
          y = places[n, 1]
          x = places[n, 2]
          index[z, y, x] = n
          from = marks[z, y, x] == 1 ? one.index[z, y, x] : other.index[z, y, x]
          16.times do |k|
            if marks[z, y, x] == 1
              16.times { |j| 16.times { |i| values[16 * n + k, j, i] = one.values[16 * from + k, j, i] } }
            else
              16.times { |j| 16.times { |i| values[16 * n + k, j, i] = other.values[16 * from + k, j, i] } }
            end
          end
        end
      end
    end
  end
end
