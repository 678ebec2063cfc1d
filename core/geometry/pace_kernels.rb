# frozen_string_literal: true

module Vumbral
  module Geometry
    # How fast a front gets on from place to place: by noise, and by a pattern.
    module PaceKernels
      extend Kernel::Library

      # How many seconds a metre takes at each point: one, more or less by noise between the points' places.
      kernel slowness: F32[1], points: F32[2], uneven: F32, per: F32, octaves: I32, seed: I32
      def slow(slowness, points, uneven, per, octaves, seed)
        parallel(points.dim(0)) do |n|
          sum = 0.0
          whole = 0.0
          weight = 1.0
          times = per
          octaves.times do |o|
            sum +=
              weight *
              Grid::Noise.value(points[n, 0] * times, points[n, 1] * times, points[n, 2] * times, 0.0, seed + 17 * o)
            whole += weight
            weight *= 0.5
            times *= 2.0
          end
          # As much slower here as it is faster there: the noise is of the logarithm.
          slowness[n] *= Math.exp(-2.5 * uneven * sum / whole)
        end
      end

      # Slower where a pattern is below one, faster where it is above.
      kernel slowness: F32[1], points: F32[2], pattern: F32[2], much: F32
      def pace(slowness, points, pattern, much)
        parallel(points.dim(0)) do |n|
          value = TextureKernels.value(pattern, 0, points[n, 0], points[n, 1], points[n, 2], 0.0)
          # Where nothing lets it through it still takes an end.
          slowness[n] /= [1.0 + much * (value - 1.0), 0.001].max
        end
      end
    end
  end
end
