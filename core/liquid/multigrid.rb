# frozen_string_literal: true

module Vumbral
  module Liquid
    # Conjugate gradients (Hestenes & Stiefel 1952) made quick by solving roughly on coarser and coarser grids (McAdams,
    # Sifakis & Teran 2010).
    class Multigrid
      COARSEST = 4
      # Sweeps on the coarsest grid.
      SWEEPS = 16
      MOST_ITERATIONS = 60
      # Cells of a grid that one core sweeps.
      SMALL = 32_768

      # One grid: its equations and working memory.
      Level = Struct.new(:matrix, :x, :b, :r)
      private_constant :Level

      # @param size [Array<Integer>] of the finest grid, along z, y, x
      def initialize(size)
        @levels = []
        until size.nil?
          @levels << Level.new(Matrix.none(size, 2.0**@levels.size), *Array.new(3) { Kernel::Buffer.new(:f32, *size) })
          size = (size.max > COARSEST && size.max > 1) ? size.map { |n| (n + 1) / 2 } : nil
        end
        @p, @q = Array.new(2) { Kernel::Buffer.new(:f32, *@levels[0].x.shape) }
      end

      # @return [Matrix] of the finest grid, to be filled before {#solve}
      def matrix = @levels[0].matrix

      # @param x [Kernel::Buffer] f32 [z, y, x], where it begins and what is found; @param b [Kernel::Buffer] right
      #   side, taken over
      # @param wanted [Float] the largest that may be left over in an equation
      # @return [Array(Integer, Float)] iterations taken, and what is left over
      def solve(x, b, wanted)
        @levels.each_cons(2) { |fine, coarse| MultigridKernels.coarsen(coarse.matrix, fine.matrix) }
        @levels.each { |level| level.matrix.sorted }
        k = MatrixKernels
        k.rest(@q, b, x, matrix)
        Grid::PoissonKernels.copy(b, @q)
        left = Flow::FlowKernels.peak(b)
        last = nil
        MOST_ITERATIONS.times do |iteration|
          return [iteration, left] if left <= wanted || !left.finite?

          z = roughly(b)
          now = k.dot(b, z, matrix)
          return [iteration, left] if now <= 0.0

          last ? k.turn(@p, z, now / last, matrix) : Grid::PoissonKernels.copy(@p, z)
          last = now
          along = k.apply(@q, @p, matrix)
          return [iteration, left] if along <= 0.0

          left = k.advance(x, b, @p, @q, now / along, matrix)
        end
        [MOST_ITERATIONS, left]
      end

      # One way down and up again, from nothing. @param rest [Kernel::Buffer] right side
      # @return [Kernel::Buffer] holds until this is asked again
      def roughly(rest)
        descend(0, rest)
        @levels[0].x
      end

      private

      def descend(n, b)
        level = @levels[n]
        x, m = level.x.fill(0.0), level.matrix
        return MultigridKernels.sweep(x, b, m, 0, 2 * SWEEPS, 1) if n == @levels.size - 1

        sweep(x, b, m, 0)
        MatrixKernels.rest(level.r, b, x, m)
        below = @levels[n + 1]
        MultigridKernels.restrict(below.b, level.r, below.matrix)
        descend(n + 1, below.b)
        MultigridKernels.prolong(x, below.x, m)
        sweep(x, b, m, 1)
      end

      # Twice over both colours.
      def sweep(x, b, m, first)
        return MultigridKernels.sweep(x, b, m, first, 2, 0) if x.size <= SMALL

        MultigridKernels.smooth(x, b, m, first)
      end
    end
  end
end
