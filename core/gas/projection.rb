# frozen_string_literal: true

module Vumbral
  module Gas
    # Makes the velocity free of divergence: exactly by {Grid::BoxPoisson} in an empty box, and
    # by conjugate gradients preconditioned with that solve where colliders stand.
    class Projection
      MOST_ITERATIONS = 200

      # @param size [Array<Integer>] cells along z, y, x
      # @param open [Hash{Symbol => Boolean}] which sides are open: x0 x1 y0 y1 z0 z1
      # @param solid [Kernel::Buffer] u8, 1 in solid cells
      def initialize(size, open, solid)
        @solid = solid
        @box = Grid::BoxPoisson.new(size, open)
        # Pressure is zero on an open side's face, half a cell from the centre.
        @open = Kernel::Buffer.of(:f32, %i[x0 x1 y0 y1 z0 z1].map { |side| open[side] ? 2.0 : 0.0 })
        @b = Kernel::Buffer.new(:f32, *size)
        @blocked = solid.bytes.include?("\1")
        prepare_colliders(size, open) if @blocked
      end

      # Changes `u v w` in place; `pressure` is where conjugate gradients start, and is written.
      # @param accuracy [Float] the inflow left in a cell, relative to the top speed
      # @return [Integer] iterations taken
      def call(state, accuracy)
        FlowKernels.close_walls(state.u, state.v, state.w, @open)
        FlowKernels.stop_at_solids(state.u, state.v, state.w, @solid) if @blocked
        FlowKernels.inflow(@b, state.u, state.v, state.w)
        if @blocked
          iterations = descend(state, accuracy)
          FlowKernels.press_around(state.u, state.v, state.w, state.pressure, @solid, @open)
        else
          @box.solve(state.pressure, @b)
          FlowKernels.press(state.u, state.v, state.w, state.pressure, @open)
          iterations = 0
        end
        iterations
      end

      # The inflow left in the worst cell (m/s): compare it with the speed.
      def leftover(state) = FlowKernels.leftover(state.u, state.v, state.w, @solid)

      private

      def prepare_colliders(size, open)
        @r, @z, @p, @q = Array.new(4) { Kernel::Buffer.new(:f32, *size) }
        labels = Kernel::Buffer.new(:i32, *size)
        count = Grid::PoissonKernels.pockets(labels, @solid, Kernel::Buffer.new(:i32, labels.size))
        @labels = labels
        @pockets = closed_pockets(labels, count, open)
      end

      # Pockets without a way out: their inflow must add up to nothing to be solvable.
      def closed_pockets(labels, count, open)
        return {} if count > 4096

        nz, ny, nx = labels.shape
        reached = Array.new(count + 1, false)
        numbers = labels.to_a
        sides = {x0: [0, 2], x1: [nx - 1, 2], y0: [0, 1], y1: [ny - 1, 1], z0: [0, 0], z1: [nz - 1, 0]}
        sides.each do |side, (at, axis)|
          next unless open[side]

          ranges = [nz, ny, nx].each_with_index.map { |n, i| (i == axis) ? [at] : (0...n) }
          ranges[0].each { |k| ranges[1].each { |j| ranges[2].each { |i| reached[numbers[(k * ny + j) * nx + i]] = true } } }
        end
        (1..count).reject { |label| reached[label] }.to_h { |label| [label, Grid::PoissonKernels.pocket_size(labels, label)] }
      end

      def balance(field)
        @pockets.each do |label, size|
          Grid::PoissonKernels.pocket_shift(field, @labels, label, Grid::PoissonKernels.pocket_sum(field, @labels, label) / size)
        end
      end

      # Preconditioned conjugate gradients (Hestenes & Stiefel 1952).
      def descend(state, accuracy)
        k = Grid::PoissonKernels
        x = state.pressure
        k.blank(@b, @solid)
        balance(@b)
        k.blank(x, @solid)
        k.apply(@q, x, @solid, @open)
        k.copy(@r, @b)
        k.copy(@p, x)
        largest = k.advance(@p, @r, x, @q, 1.0)
        wanted = accuracy * state.speed
        wanted = 1e-7 unless wanted > 1e-7
        last = nil
        MOST_ITERATIONS.times do |iteration|
          return iteration if largest <= wanted || !largest.finite?

          precondition
          now = k.dot(@r, @z)
          return iteration if now <= 0.0

          last ? k.turn(@p, @z, now / last) : k.copy(@p, @z)
          last = now
          along = k.apply(@q, @p, @solid, @open)
          return iteration if along <= 0.0

          largest = k.advance(x, @r, @p, @q, now / along)
        end
        MOST_ITERATIONS
      end

      def precondition
        k = Grid::PoissonKernels
        k.copy(@b, @r)
        @box.solve(@z, @b)
        k.blank(@z, @solid)
        balance(@z)
      end
    end
  end
end
