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
        Blas.product(part(from), part(matrix, turned), part(to), rows: @nz * @ny, columns: @nx, inner: @nx)
      end

      # As one product of all planes. @param from [Kernel::Buffer] overwritten
      def along_y(from, matrix, to, turned)
        PoissonKernels.swap(to, from, false)
        Blas.product(part(matrix, turned), part(to), part(from), rows: @ny, columns: @nz * @nx, inner: @ny)
        PoissonKernels.swap(to, from, true)
      end

      def along_z(from, matrix, to, turned)
        Blas.product(part(matrix, turned), part(from), part(to), rows: @nz, columns: @ny * @nx, inner: @nz)
      end

      private

      def part(buffer, turned = false) = Blas::Part.new(buffer, turned)
    end
  end
end
