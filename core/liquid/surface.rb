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

      # @param voxel [Float] metres; @param corner [Array<Float>] the chamber's lowest, metres
      # @param dials [Hash{String => Numeric}] as {Plan#surface}
      def initialize(voxel, corner, dials)
        @voxel, @corner = voxel, corner
        @grain, @round, @smooth, @sheets = dials.values_at("grain", "round", "smooth", "sheets")
      end

      # @param skin [Skin]
      # @return [Array(Geometry::Mesh, Kernel::Buffer, Kernel::Buffer)] in the world; how fast each point goes, f32 [n, 3] m/s, and
      #   its colour, f32 [n, 3] linear, or nothing
      def mesh(skin)
        near = Near.of(skin, @sheets.to_f)
        part = part(near, skin.inner)
        edge = @voxel / @grain
        bordered = Kernel::Buffer.new(:f32, *part.shape.map { |n| n + 2 * AROUND })
        SurfaceKernels.bordered(bordered, part, AROUND, 0.5)
        grid = Geometry::Operations::Remesh::Grid.new(bordered.shape, @corner.map { |c| c + (0.5 - AROUND) * edge }, edge)
        mesh = Geometry::Operations::Remesh.nets(bordered, grid, {"name" => "The surface of the liquid"})
        [mesh, *carried(mesh.points, near)]
      end

      private

      # Speeds and colours of some places. @return [Array<Kernel::Buffer>]
      def carried(points, near)
        all = Kernel::Buffer.new(:f32, points.dim(0), near.carried.dim(1))
        SurfaceKernels.carried(all, points, near.at, near.carried, near.first, Kernel::Buffer.of(:i32, near.size), Kernel::Buffer.of(:f32, [*@corner, @voxel])) if near.count.positive?
        (0...all.dim(1)).step(3).map { |from| Kernel::Buffer.new(:f32, all.dim(0), 3).tap { |part| NearKernels.part(part, all, from) } }
      end

      # @param near [Near]; @param inner [Kernel::Buffer] u8 [z, y, x], 1 where all is liquid
      # @return [Kernel::Buffer] f32 [z, y, x], how much of the liquid is at each point, 0 to 1
      def part(near, inner)
        fine = near.size.map { |n| (n * @grain).round }
        part, other = Array.new(2) { Kernel::Buffer.new(:f32, *fine) }
        return part if near.count.zero?

        (0...fine[0]).step(PLANES) { |from| tell(part, near, inner, from) }
        @smooth.times do
          SurfaceKernels.even(other, part, SMOOTHED)
          SurfaceKernels.even(part, other, GIVEN_BACK)
        end
        part
      end

      # Some planes at a time, for sums take four times as much room.
      def tell(part, near, inner, from)
        sums = Kernel::Buffer.new(:f32, [PLANES, part.dim(0) - from].min, *part.shape.drop(1), 4)
        size = Kernel::Buffer.of(:i32, near.size)
        2.times { |odd| SurfaceKernels.gather(sums, near.at, near.first, size, @grain, from, odd) }
        SurfaceKernels.settle(part, sums, inner, from, @grain, @round)
      end
    end
  end
end
