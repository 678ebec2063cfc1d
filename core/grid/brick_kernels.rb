# frozen_string_literal: true

module Vumbral
  module Grid
    # Loops that sort a frame into bricks and back.
    module BrickKernels
      extend Kernel::Library

      SMOKE_SEEN = 0.0002
      HEAT_SEEN = 0.5

      kernel filled: U8[3], smoke: F32[3], heat: F32[3]
      def find(filled, smoke, heat)
        parallel(filled.dim(0)) do |bk|
          (16 * bk...[16 * bk + 16, smoke.dim(0)].min).each do |k|
            smoke.dim(1).times do |j|
              smoke.dim(2).times do |i|
                if smoke[k, j, i] > SMOKE_SEEN || heat[k, j, i].abs > HEAT_SEEN
                  filled[bk, j / 16, i / 16] = 1
                end
              end
            end
          end
        end
      end

      kernel values: F16[3], places: I32[2], smoke: F32[3], heat: F32[3], u: F32[3], v: F32[3], w: F32[3]
      def fill(values, places, smoke, heat, u, v, w)
        parallel(places.dim(0)) do |n|
          4096.times do |c|
            k = 16 * places[n, 0] + c / 256
            j = 16 * places[n, 1] + c / 16 % 16
            i = 16 * places[n, 2] + c % 16
            if k < smoke.dim(0) && j < smoke.dim(1) && i < smoke.dim(2)
              values[n, 0, c] = smoke[k, j, i]
              values[n, 1, c] = heat[k, j, i]
              values[n, 2, c] = 0.5 * (u[k, j, i] + u[k, j, i + 1])
              values[n, 3, c] = 0.5 * (v[k, j, i] + v[k, j + 1, i])
              values[n, 4, c] = 0.5 * (w[k, j, i] + w[k + 1, j, i])
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
