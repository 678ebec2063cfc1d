# frozen_string_literal: true

module Vumbral
  module Liquid
    # The surface of a liquid as a closed mesh, finer than its voxels, with how fast each point goes.
    class Surface
      # Points around all that are outside, so that it closes.
      AROUND = 2
      # Of the finer grid, worked on at once.
      PLANES = 32
      # A bump is evened out by the first share and what it loses on the whole given back by the second (Taubin 1995).
      SMOOTHED, GIVEN_BACK = 0.5, -0.52

      # @param plan [Plan]
      def initialize(plan)
        @plan = plan
        settings = plan.ground["surface"]
        @round, @smooth = settings.values_at("round", "smooth")
        @grain = settings["grain"]
        @fine = plan.size.map { |n| (n * @grain).round }
        @size = Kernel::Buffer.of(:i32, plan.size)
      end

      # @param state [State] its particles sorted; @param first [Kernel::Buffer] where each cell's begin
      # @return [Kernel::Buffer] f32 [z, y, x], how much of the liquid is at each point, 0 to 1
      def part(state, first)
        part = Kernel::Buffer.new(:f32, *@fine)
        return part if state.drops.count.zero?

        (0...@fine[0]).step(PLANES) { |from| tell(part, state.drops, first, from) }
        other = Kernel::Buffer.new(:f32, *@fine)
        @smooth.times do
          SurfaceKernels.even(other, part, SMOOTHED)
          SurfaceKernels.even(part, other, GIVEN_BACK)
        end
        part
      end

      # Some planes at a time, for sums take four times as much room.
      def tell(part, drops, first, from)
        sums = Kernel::Buffer.new(:f32, [PLANES, @fine[0] - from].min, *@fine.drop(1), 4)
        2.times { |odd| SurfaceKernels.gather(sums, drops, first, @size, @grain, from, odd) }
        SurfaceKernels.settle(part, sums, from, @round)
      end
      private :tell

      # @return [Array(Geometry::Mesh, Kernel::Buffer)] in the world, and f32 [n, 3] m/s
      def mesh(state, first)
        part = part(state, first)
        edge = @plan.voxel / @grain
        bordered = Kernel::Buffer.new(:f32, *@fine.map { |n| n + 2 * AROUND })
        SurfaceKernels.bordered(bordered, part, AROUND, 0.5)
        grid = Geometry::Operations::Remesh::Grid.new(bordered.shape, @plan.corner.map { |c| c + (0.5 - AROUND) * edge }, edge)
        mesh = Geometry::Operations::Remesh.nets(bordered, grid, {"name" => "The surface of the liquid"})
        speeds = Kernel::Buffer.new(:f32, mesh.points.dim(0), 3)
        SurfaceKernels.speeds(speeds, mesh.points, state.faces, Kernel::Buffer.of(:f32, @plan.corner), 1.0 / @plan.voxel)
        [mesh, speeds]
      end
    end
  end
end
