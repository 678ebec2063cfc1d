# frozen_string_literal: true

module Vumbral
  module Geometry
    # Arithmetic on places and directions as arrays of three numbers.
    module Vectors
      module_function

      # @return [Array<Float>] of length one; up where there is no direction
      def unit(vector)
        length = Math.sqrt(vector.sum { |c| c * c })
        (length < 1e-9) ? [0.0, 1.0, 0.0] : vector.map { |c| c / length }
      end

      def dot(a, b) = a[0] * b[0] + a[1] * b[1] + a[2] * b[2]

      # @return [Array<Float>] the way from `b` to `a`
      def minus(a, b) = [a[0] - b[0], a[1] - b[1], a[2] - b[2]]

      def length(a) = Math.sqrt(dot(a, a))

      def cross(a, b) = [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]]
    end
  end
end
