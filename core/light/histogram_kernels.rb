# frozen_string_literal: true

module Vumbral
  module Light
    # Loops of {Histogram}.
    module HistogramKernels
      extend Kernel::Library

      # Counts each layer's values above `least` by where they stand between nothing and `high`: `layers` i32
      # [z, bin].
      kernel layers: I32[2], field: F32[3], least: F32, high: F32
      def count(layers, field, least, high)
        parallel(field.dim(0)) do |k|
          per = layers.dim(1) / high
          field.dim(1).times do |j|
            field.dim(2).times do |i|
              value = field[k, j, i]
              layers[k, (value * per).to_i.clamp(0, layers.dim(1) - 1)] += 1 if value > least
            end
          end
        end
      end
    end
  end
end
