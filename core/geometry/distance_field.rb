# frozen_string_literal: true

module Vumbral
  module Geometry
    # A body's signed distance on a lattice of bricks of 16³ cells, told only in those bricks that it comes near to
    # ({DistanceKernels}).
    class DistanceField
      # Where so few cells lie along each axis, each is looked up; and so many voxels beyond what is asked coarser ones
      # tell.
      FEW, SPARE = 32, 5.0

      # u8 and f32 [z, y, x]: which bricks it comes near to, and what all others are.
      attr_reader :marks, :tiles

      # @param body [Body]; @param rigid [Transform] where it stands; @param lattice [Grid::Lattice]
      # @param counts [Array<Integer>] bricks along z, y, x
      # @param band [Float] distances are told so far, metres; beyond, ±band
      def initialize(body, rigid, lattice, counts, band)
        @body, @lattice, @band = body, lattice, band
        @to_mesh = Kernel::Buffer.of(:f32, rigid.inverse.rows.flatten)
        @coarse = level(sooner(lattice), counts.map { |n| 8 * n + 3 }, band + SPARE * lattice.voxel, rigid)
        @marks, @tiles = Kernel::Buffer.new(:u8, *counts), Kernel::Buffer.new(:f32, *counts)
        DistanceKernels.nearing(@marks, @tiles, @coarse, band, lattice.voxel)
      end

      # @param values [Kernel::Buffer] f32 [16 n, 16, 16], written; @param places [Kernel::Buffer] i32 [n, 3]
      def fill(values, places) =
        DistanceKernels.bricks(values, places, @coarse, @body.tree, @to_mesh, @lattice, @band, @body.closed)

      private

      # The lattice of cells twice as large that begins one of them before.
      def sooner(lattice) =
        Grid::Lattice.new(*[lattice.x, lattice.y, lattice.z].map { |c| c - 2.0 * lattice.voxel }, 2.0 * lattice.voxel)

      # All cells of a lattice, from one of cells twice as large, until there are few.
      def level(lattice, shape, band, rigid)
        if shape.max <= FEW
          return (
            Kernel::Buffer
              .new(:f32, *shape)
              .fill(band)
              .tap { |field| @body.distance(field, rigid, [lattice.x, lattice.y, lattice.z], lattice.voxel, band) }
          )
        end

        counts = shape.map { |n| (n + 15) / 16 }
        coarse = level(sooner(lattice), counts.map { |n| 8 * n + 3 }, band + SPARE * lattice.voxel, rigid)
        spots =
          counts[0].times.flat_map { |k| counts[1].times.flat_map { |j| counts[2].times.flat_map { |i| [k, j, i] } } }
        places = Kernel::Buffer.of(:i32, spots, spots.size / 3, 3)
        values = Kernel::Buffer.new(:f32, 16 * places.dim(0), 16, 16)
        DistanceKernels.bricks(values, places, coarse, @body.tree, @to_mesh, lattice, band, @body.closed)
        Kernel::Buffer.new(:f32, *shape).tap { |out| DistanceKernels.lay(out, values, places) }
      end
    end
  end
end
