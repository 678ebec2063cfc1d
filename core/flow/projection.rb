# frozen_string_literal: true

module Vumbral
  module Flow
    # Makes the velocity as free of divergence as is wanted: exactly by {Grid::BoxPoisson} in an
    # empty box, and by conjugate gradients preconditioned with that solve where colliders stand.
    class Projection
      # The speed after projection is less than before, and sums in single precision stray a little.
      SAFETY = 0.3
      MOST_ITERATIONS = 200
      MOST_POCKETS = 4096

      # @param size [Array<Integer>] cells along z, y, x
      # @param open [Hash{Symbol => Boolean}] which sides are open: x0 x1 y0 y1 z0 z1
      # @param solid [Kernel::Buffer, nil] as for {#block}
      def initialize(size, open, solid = nil)
        @size = size
        @none = Kernel::Buffer.new(:u8, *size)
        @box = Grid::BoxPoisson.new(size, open)
        # Pressure is zero on an open side's face, half a cell from the centre.
        @open = Kernel::Buffer.of(:f32, %i[x0 x1 y0 y1 z0 z1].map { |side| open[side] ? 2.0 : 0.0 })
        @b = Kernel::Buffer.new(:f32, *size)
        block(solid)
      end

      # Colliders from here on. @param solid [Kernel::Buffer, nil] u8, 0 in gas
      # @param moving [Array<Kernel::Buffer>, nil] the velocity of their faces, m/s
      def block(solid, moving = nil)
        @blocked = solid&.bytes&.match?(/[^\0]/n)
        @solid = @blocked ? solid : @none
        @moving = moving
        prepare_colliders if @blocked
      end

      # Changes `u v w` in place; `pressure` is where conjugate gradients start, and is written.
      # @param accuracy [Float] the inflow left in a cell, relative to the top speed
      # @param swell [Kernel::Buffer, nil] f32, wanted expansion (1/s); @param voxel [Float] metres
      # @return [Integer] iterations taken
      def project(state, accuracy, swell = nil, voxel = 1.0)
        FlowKernels.close_walls(state.u, state.v, state.w, @open)
        hold_solids(state)
        inflow(@b, state, swell, voxel)
        unless @blocked
          @box.solve(state.pressure, @b)
          FlowKernels.press(state.u, state.v, state.w, state.pressure, @open)
          return 0
        end
        iterations = descend(state, accuracy)
        FlowKernels.press(state.u, state.v, state.w, state.pressure, @open)
        hold_solids(state)
        iterations
      end

      # The inflow left in the worst cell (m/s): compare it with the speed.
      def leftover(state, swell = nil, voxel = 1.0)
        inflow(@b, state, swell, voxel)
        Grid::PoissonKernels.blank(@b, @solid)
        balance(@b) if @blocked
        FlowKernels.peak(@b)
      end

      private

      def hold_solids(state)
        return unless @blocked
        return FlowKernels.stop_at_solids(state.u, state.v, state.w, @solid) unless @moving

        FlowKernels.move_at_solids(state.u, state.v, state.w, @solid, *@moving)
      end

      def inflow(b, state, swell, voxel)
        FlowKernels.inflow(b, state.u, state.v, state.w)
        MatterKernels.add_held(b, swell, voxel, Float::MAX) if swell
      end

      def prepare_colliders
        @scratch ||= Array.new(4) { Kernel::Buffer.new(:f32, *@size) }
        @r, @z, @p, @q = @scratch
        @labels ||= Kernel::Buffer.new(:i32, *@size)
        @stack ||= Kernel::Buffer.new(:i32, @labels.size)
        count = Grid::PoissonKernels.pockets(@labels.fill(0), @solid, @stack)
        @pockets = closed_pockets(count)
      end

      # Pockets without a way out: their inflow must add up to nothing to be solvable.
      def closed_pockets(count)
        return {} if count > MOST_POCKETS

        reached = Kernel::Buffer.new(:i32, count + 1)
        Grid::PoissonKernels.reach(reached, @labels, @open)
        ways = reached.to_a
        (1..count)
          .select { |label| ways[label].zero? }
          .to_h { |label| [label, Grid::PoissonKernels.pocket_size(@labels, label)] }
      end

      def balance(field)
        @pockets.each do |label, size|
          Grid::PoissonKernels.pocket_shift(field, @labels, label,
            Grid::PoissonKernels.pocket_sum(field, @labels, label) / size)
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
        wanted = SAFETY * accuracy * state.speed
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
