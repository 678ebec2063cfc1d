# frozen_string_literal: true

module Vumbral
  module Geometry
    # Loops that move the points of a mesh.
    module DeformKernels
      extend Kernel::Library

      # Adds what other shapes of the same points differ by: `deltas` f32 [shapes, n * 3].
      kernel out: F32[2], points: F32[2], deltas: F32[2], weights: F32[1]
      def morph(out, points, deltas, weights)
        parallel(points.dim(0)) do |n|
          3.times do |c|
            sum = points[n, c]
            weights.size.times { |shape| sum += weights[shape] * deltas[shape, 3 * n + c] }
            out[n, c] = sum
          end
        end
      end

      # Carries points along with the joints that hold them: `matrices` f32 [joints, 12]; `joints` and `weights` have
      # as many columns as joints hold a point.
      kernel out: F32[2], points: F32[2], joints: I32[2], weights: F32[2], matrices: F32[2]
      def skin(out, points, joints, weights, matrices)
        parallel(points.dim(0)) do |n|
          3.times do |c|
            sum = 0.0
            joints.dim(1).times do |k|
              j = joints[n, k]
              sum += weights[n, k] * (matrices[j, 4 * c] * points[n, 0] + matrices[j, 4 * c + 1] * points[n, 1] +
                matrices[j, 4 * c + 2] * points[n, 2] + matrices[j, 4 * c + 3])
            end
            out[n, c] = sum
          end
        end
      end

      # Part of the way from points to others.
      kernel out: F32[2], from: F32[2], to: F32[2], part: F32
      def between(out, from, to, part)
        parallel(from.dim(0)) { |n| 3.times { |c| out[n, c] = from[n, c] + part * (to[n, c] - from[n, c]) } }
      end
    end
  end
end
