# frozen_string_literal: true

module Vumbral
  module Grid
    # Solves the Poisson equation of a box exactly, by fast diagonalisation (Lynch, Rice &
    # Thomas 1964): along each axis the second difference has known waves for its two walls.
    # A closed wall lets no gradient through; an open one holds the value zero on the face.
    class BoxPoisson
      # @param size [Array(Integer, Integer, Integer)] cells along z, y, x
      # @param open [Hash{Symbol => Boolean}] :x0 :x1 :y0 :y1 :z0 :z1
      def initialize(size, open)
        @products = BoxProducts.new(size)
        @waves = size.zip(%i[z0 y0 x0], %i[z1 y1 x1]).map { |n, low, high| self.class.waves(n, open[low], open[high]) }
        @scratch = Kernel::Buffer.new(:f32, *size)
        # With no way out, pressure is known but for a constant, which stays zero.
        @floating = open.values.none?
      end

      # Finds p with A·p = b, where A is the negative sum of differences to the six neighbours
      # (unit cells). Overwrites b.
      # @param p [Kernel::Buffer] f32 [z, y, x], written
      # @param b [Kernel::Buffer] f32 [z, y, x]
      def solve(p, b)
        (qz, lz), (qy, ly), (qx, lx) = @waves
        t = @scratch
        @products.along_x(b, qx, t, false)
        @products.along_y(t, qy, b, true)
        @products.along_z(b, qz, t, true)
        PoissonKernels.divide(t, lz, ly, lx)
        @products.along_z(t, qz, b, false)
        @products.along_y(b, qy, t, false)
        @products.along_x(t, qx, p, true)
      end

      # @return [Boolean] whether only differences of pressure are known
      def floating? = @floating

      # The eigenvectors (as columns) and eigenvalues of the one-dimensional operator: the
      # cosine and sine waves that suit the two walls.
      def self.waves(count, low_open, high_open)
        shift = (low_open == high_open) ? (low_open ? 1.0 : 0.0) : 0.5
        vectors = Array.new(count) { Array.new(count) }
        values = Array.new(count) do |m|
          angle = Math::PI * (m + shift) / count
          column = Array.new(count) { |i| low_open ? Math.sin(angle * (i + 0.5)) : Math.cos(angle * (i + 0.5)) }
          length = Math.sqrt(column.sum { |x| x * x })
          column.each_with_index { |x, i| vectors[i][m] = x / length }
          2.0 - 2.0 * Math.cos(angle)
        end
        [Kernel::Buffer.of(:f32, vectors.flatten, count, count), Kernel::Buffer.of(:f32, values)]
      end
    end
  end
end
