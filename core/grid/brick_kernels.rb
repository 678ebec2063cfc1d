# frozen_string_literal: true

module Vumbral
  module Grid
    # Loops that sort a frame into bricks and back.
    module BrickKernels
      extend Kernel::Library

      # Marks the bricks in which a field is anywhere farther from nothing than `least`, or within `padding`
      # cells (at most 16) of such a place.
      kernel filled: U8[3], field: F32[3], least: F32, padding: I32
      def find(filled, field, least, padding)
        parallel(filled.dim(0)) do |bk|
          ([16 * bk - padding, 0].max...[16 * bk + 16 + padding, field.dim(0)].min).each do |k|
            field.dim(1).times do |j|
              field.dim(2).times do |i|
                if field[k, j, i].abs > least
                  filled[bk, j / 16, i / 16] = 1
                  if padding > 0
                    b0 = [j - padding, 0].max / 16
                    b1 = [j + padding, field.dim(1) - 1].min / 16
                    a0 = [i - padding, 0].max / 16
                    a1 = [i + padding, field.dim(2) - 1].min / 16
                    (b0..b1).each { |b| (a0..a1).each { |a| filled[bk, b, a] = 1 } }
                  end
                end
              end
            end
          end
        end
      end

      # One channel: a field at centres, or on faces, of which each cell keeps the lower one. Held to
      # what a half can say.
      kernel values: F16[3], places: I32[2], channel: I32, field: F32[3]
      def fill(values, places, channel, field)
        parallel(places.dim(0)) do |n|
          first = 16 * places[n, 2]
          wide = [16, field.dim(2) - first].min
          256.times do |row|
            k = 16 * places[n, 0] + row / 16
            j = 16 * places[n, 1] + row % 16
            if k < field.dim(0) && j < field.dim(1)
              wide.times { |i| values[n, channel, 16 * row + i] = field[k, j, first + i].clamp(-65_000.0, 65_000.0) }
            end
          end
        end
      end

      # Which brick is where. @param numbers i32 [bricks along z, y, x]
      kernel numbers: I32[3], places: I32[2]
      def number(numbers, places)
        places.dim(0).times { |n| numbers[places[n, 0], places[n, 1], places[n, 2]] = n }
      end

      # The first channel of bricks, from one that is told in full. @param sums f32 [n, 4096]
      kernel values: F16[3], sums: F32[2]
      def pack(values, sums)
        parallel(values.dim(0)) do |n|
          4096.times { |c| values[n, 0, c] = sums[n, c].clamp(0.0, 65_000.0) }
        end
      end

      # Adds bricks to those that `numbers` names.
      kernel values: F16[3], given: F16[3], numbers: I32[1]
      def add(values, given, numbers)
        parallel(numbers.size) do |n|
          given.dim(1).times do |c|
            given.dim(2).times { |e| values[numbers[n], c, e] = values[numbers[n], c, e] + given[n, c, e] }
          end
        end
      end

      # Smoke times its age over smoke, both with a share of the cells around: edges and thin places are as old as what
      # they are the edge of.
      # @param most no smoke is older, s
      kernel out: F32[3], aged: F32[3], smoke: F32[3], most: F32
      def age(out, aged, smoke, most)
        each_cell(out) do |k, j, i|
          much = 7.0 * smoke[k, j, i]
          sum = 7.0 * aged[k, j, i]
          ([k - 1, 0].max..[k + 1, out.dim(0) - 1].min).each do |c|
            ([j - 1, 0].max..[j + 1, out.dim(1) - 1].min).each do |b|
              ([i - 1, 0].max..[i + 1, out.dim(2) - 1].min).each do |a|
                much += smoke[c, b, a]
                sum += aged[c, b, a]
              end
            end
          end
          out[k, j, i] = much > 1e-6 ? [sum / much, most].min : 0.0
        end
      end

      # Marks the bricks that are there.
      kernel filled: U8[3], places: I32[2]
      def mark(filled, places)
        places.dim(0).times { |n| filled[places[n, 0], places[n, 1], places[n, 2]] = 1 }
      end

      # The upper face of a cell, which is the lower one of the next; where that is not kept, its own.
      kernel faces: F32[3], filled: U8[3], k: I32, j: I32, i: I32, axis: I32, returns: F32
      def upper(faces, filled, k, j, i, axis)
        c = axis == 2 ? k + 1 : k
        b = axis == 1 ? j + 1 : j
        a = axis == 0 ? i + 1 : i
        value = faces[k, j, i]
        if c < faces.dim(0) && b < faces.dim(1) && a < faces.dim(2)
          value = filled[c / 16, b / 16, a / 16] != 0 ? faces[c, b, a] : value
        end
        value
      end

      # Brings lower faces across an axis (0 x, 1 y, 2 z) to centres.
      kernel out: F32[3], faces: F32[3], filled: U8[3], axis: I32
      def centre(out, faces, filled, axis)
        each_cell(out) { |k, j, i| out[k, j, i] = 0.5 * (faces[k, j, i] + upper(faces, filled, k, j, i, axis)) }
      end

      # What flows out of each cell, 1/s; `per` is one over the voxel.
      kernel out: F32[3], x: F32[3], y: F32[3], z: F32[3], filled: U8[3], per: F32
      def divergence(out, x, y, z, filled, per)
        each_cell(out) do |k, j, i|
          out[k, j, i] = per * (upper(x, filled, k, j, i, 0) - x[k, j, i] + upper(y, filled, k, j, i, 1) - y[k, j, i] +
            upper(z, filled, k, j, i, 2) - z[k, j, i])
        end
      end

      kernel out: F32[3], values: F16[3], places: I32[2], channel: I32
      def spread(out, values, places, channel)
        parallel(places.dim(0)) do |n|
          first = 16 * places[n, 2]
          wide = [16, out.dim(2) - first].min
          256.times do |row|
            k = 16 * places[n, 0] + row / 16
            j = 16 * places[n, 1] + row % 16
            if k < out.dim(0) && j < out.dim(1)
              wide.times { |i| out[k, j, first + i] = values[n, channel, 16 * row + i] }
            end
          end
        end
      end
    end
  end
end
