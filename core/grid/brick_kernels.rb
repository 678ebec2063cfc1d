# frozen_string_literal: true

module Vumbral
  module Grid
    # Loops that sort a frame into bricks and back.
    module BrickKernels
      extend Kernel::Library

      # Marks the bricks in which a field is anywhere farther from nothing than `least`.
      kernel filled: U8[3], field: F32[3], least: F32
      def find(filled, field, least)
        parallel(filled.dim(0)) do |bk|
          (16 * bk...[16 * bk + 16, field.dim(0)].min).each do |k|
            field.dim(1).times do |j|
              field.dim(2).times do |i|
                if field[k, j, i].abs > least
                  filled[bk, j / 16, i / 16] = 1
                end
              end
            end
          end
        end
      end

      # One channel: a field at centres, or on faces across the axis whose flag is 1 and then
      # brought to centres. Held to what a half can say.
      kernel values: F16[3], places: I32[2], channel: I32, field: F32[3], fz: I32, fy: I32, fx: I32
      def fill(values, places, channel, field, fz, fy, fx)
        parallel(places.dim(0)) do |n|
          4096.times do |c|
            k = 16 * places[n, 0] + c / 256
            j = 16 * places[n, 1] + c / 16 % 16
            i = 16 * places[n, 2] + c % 16
            if k + fz < field.dim(0) && j + fy < field.dim(1) && i + fx < field.dim(2)
              values[n, channel, c] =
                (0.5 * (field[k, j, i] + field[k + fz, j + fy, i + fx])).clamp(-65_000.0, 65_000.0)
            end
          end
        end
      end

      kernel out: F32[3], values: F16[3], places: I32[2], channel: I32
      def spread(out, values, places, channel)
        parallel(places.dim(0)) do |n|
          4096.times do |c|
            k = 16 * places[n, 0] + c / 256
            j = 16 * places[n, 1] + c / 16 % 16
            i = 16 * places[n, 2] + c % 16
            if k < out.dim(0) && j < out.dim(1) && i < out.dim(2)
              out[k, j, i] = values[n, channel, c]
            end
          end
        end
      end
    end
  end
end
