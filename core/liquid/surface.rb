# frozen_string_literal: true

module Vumbral
  module Liquid
    # The surface of a liquid as a closed mesh, finer than its voxels, with how fast each point goes.
    class Surface
      # Points around all that are outside, so that it closes.
      AROUND = 2
      # Cells around all particles in which something of them can be.
      MARGIN = 3
      # Of the finer grid, worked on at once.
      PLANES = 32
      # A bump is evened out by the first share and what it loses on the whole given back by the second (Taubin 1995).
      SMOOTHED, GIVEN_BACK = 0.5, -0.52

      # @param voxel [Float] metres; @param corner [Array<Float>] the chamber's lowest, metres
      # @param dials [Hash{String => Numeric}] as {Plan#surface}
      def initialize(voxel, corner, dials)
        @voxel, @corner = voxel, corner
        @grain, @round, @smooth, @sheets = dials.values_at("grain", "round", "smooth", "sheets")
        @reach = [SurfaceKernels::REACH, 2.0 * @round].max
      end

      # @param skin [Skin]
      # @return [Array(Geometry::Mesh, Kernel::Buffer, Kernel::Buffer)] in the world; how fast each point goes, f32 [n,
      #   3] m/s, and its colour, f32 [n, 3] linear, or nothing
      def mesh(skin)
        near = Near.of(skin, @sheets.to_f)
        start, size = box(skin)
        part = part(near, skin.inner, start, size)
        edge = @voxel / @grain
        bordered = Kernel::Buffer.new(:f32, *size.map { |n| n + 2 * AROUND })
        SurfaceKernels.bordered(bordered, part, AROUND, 0.5)
        if skin.walls
          from = Kernel::Buffer.of(:i32, start.map { |n| n - AROUND })
          SurfaceKernels.walled(bordered, skin.walls, from, @grain, none)
        end
        corner = @corner.zip(start.reverse).map { |c, n| c + (n + 0.5 - AROUND) * edge }
        mesh =
          Geometry::Operations::Remesh.nets(
            bordered, Geometry::Operations::Remesh::Grid.new(bordered.shape, corner, edge),
            {"name" => "The surface of the liquid"}
          )
        [mesh, *carried(mesh.points, near)]
      end

      private

      # How far outside it is told of a place that no particle reaches.
      def none = [(@reach - @round) / (2.0 * SurfaceKernels::BAND), 0.05].max

      # Where there is liquid, and what it reaches.
      # @return [Array(Array<Integer>, Array<Integer>)] points of the finer grid along z, y, x: the first, and how many
      def box(skin)
        ends = Kernel::Buffer.new(:i32, 6)
        SkinKernels.box(ends, skin.counts)
        skin.size.each_with_index.map { |cells, axis|
          margin = MARGIN + @reach.ceil - 1
          low, high =
            [ends[axis] - margin, ends[axis + 3] + margin].map { |cell| (cell.clamp(0, cells) * @grain).round }
          [low, [high - low, 1].max]
        }.transpose
      end

      # Speeds and colours of some places. @return [Array<Kernel::Buffer>]
      def carried(points, near)
        all = Kernel::Buffer.new(:f32, points.dim(0), near.carried.dim(1))
        if near.count.positive?
          SurfaceKernels.carried(
            all, points, near.at, near.carried, near.first, Kernel::Buffer.of(:i32, near.size),
            Kernel::Buffer.of(:f32, [*@corner, @voxel])
          )
        end
        (0...all.dim(1))
          .step(3)
          .map { |from| Kernel::Buffer.new(:f32, all.dim(0), 3).tap { |part| NearKernels.part(part, all, from) } }
      end

      # @param near [Near]; @param inner [Kernel::Buffer] u8 [z, y, x], 1 where all is liquid
      # @return [Kernel::Buffer] f32 [z, y, x], how much of the liquid is at each point, 0 to 1
      def part(near, inner, start, size)
        part, other = Array.new(2) { Kernel::Buffer.new(:f32, *size) }
        return part if near.count.zero?

        (0...size[0]).step(PLANES) { |plane| tell(part, near, inner, start, plane) }
        @smooth.times do
          SurfaceKernels.even(other, part, SMOOTHED)
          SurfaceKernels.even(part, other, GIVEN_BACK)
        end
        part
      end

      # Some planes at a time, for sums take four times as much room.
      def tell(part, near, inner, start, plane)
        sums = Kernel::Buffer.new(:f32, [PLANES, part.dim(0) - plane].min, *part.shape.drop(1), 4)
        cells, from = [near.size, [start[0] + plane, *start.drop(1), plane]].map { |all| Kernel::Buffer.of(:i32, all) }
        2.times { |odd| SurfaceKernels.gather(sums, near.at, near.first, cells, @grain, from, odd, @reach) }
        SurfaceKernels.settle(part, sums, inner, from, @grain, @round, @reach)
      end
    end
  end
end
