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
        Blas.product(from, Blas::Part.new(matrix, turned), to, rows: @nz * @ny, columns: @nx, inner: @nx)
      end

      def along_y(from, matrix, to, turned)
        matrix = Blas::Part.new(matrix, turned)
        @nz.times do |k|
          before, after = [from, to].map { |box| Blas::Part.new(box, false, k * @ny * @nx) }
          Blas.product(matrix, before, after, rows: @ny, columns: @nx, inner: @ny)
        end
      end

      def along_z(from, matrix, to, turned)
        Blas.product(Blas::Part.new(matrix, turned), from, to, rows: @nz, columns: @ny * @nx, inner: @nz)
      end
    end
  end
end
