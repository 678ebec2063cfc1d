# frozen_string_literal: true

module Vumbral
  module Grid
    # Products of a box of numbers with a matrix along each of its axes.
    class BoxProducts
      # @param size [Array(Integer, Integer, Integer)] along z, y, x
      def initialize(size)
        @nz, @ny, @nx = size
      end

      # @param turned [Boolean] with the matrix transposed
      def along_x(from, matrix, to, turned)
        Blas.product(from, matrix, to, rows: @nz * @ny, columns: @nx, inner: @nx, turn_b: turned)
      end

      def along_y(from, matrix, to, turned)
        plane = @ny * @nx
        @nz.times do |k|
          Blas.product(
            matrix, from, to, rows: @ny, columns: @nx, inner: @ny, turn_a: turned, at_b: k * plane, at_c: k * plane
          )
        end
      end

      def along_z(from, matrix, to, turned)
        Blas.product(matrix, from, to, rows: @nz, columns: @ny * @nx, inner: @nz, turn_a: turned)
      end
    end
  end
end
