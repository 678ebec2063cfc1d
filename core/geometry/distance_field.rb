# frozen_string_literal: true

module Vumbral
  module Geometry
    # A body's signed distance on a lattice of bricks of 16³ cells, told only in those bricks that it comes near to
    # ({DistanceKernels}).
    class DistanceField
      # u8 and f32 [z, y, x]: which bricks it comes near to, and what all others are.
      attr_reader :marks, :tiles

      # @param body [Body]; @param rigid [Transform] where it stands; @param lattice [Grid::Lattice]
      # @param counts [Array<Integer>] bricks along z, y, x
      # @param band [Float] distances are told so far, metres; beyond, ±band
      def initialize(body, rigid, lattice, counts, band)
        @body, @lattice, @band = body, lattice, band
        @to_mesh = Kernel::Buffer.of(:f32, rigid.inverse.rows.flatten)
        middle = sooner(lattice)
        @coarse = Kernel::Buffer.new(:f32, *counts.map { |n| 8 * n + 3 })
        DistanceKernels.refine(@coarse, coarsest(sooner(middle), rigid), body.tree, @to_mesh, middle, band + 5.0 * lattice.voxel, body.closed)
        @marks, @tiles = Kernel::Buffer.new(:u8, *counts), Kernel::Buffer.new(:f32, *counts)
        DistanceKernels.nearing(@marks, @tiles, @coarse, band, lattice.voxel)
      end

      # @param values [Kernel::Buffer] f32 [16 n, 16, 16], written; @param places [Kernel::Buffer] i32 [n, 3]
      def fill(values, places) = DistanceKernels.bricks(values, places, @coarse, @body.tree, @to_mesh, @lattice, @band, @body.closed)

      private

      # The lattice of cells twice as large that begins one of them before.
      def sooner(lattice) = Grid::Lattice.new(*[lattice.x, lattice.y, lattice.z].map { |c| c - 2.0 * lattice.voxel }, 2.0 * lattice.voxel)

      def coarsest(lattice, rigid)
        band = @band + 12.0 * @lattice.voxel
        Kernel::Buffer.new(:f32, *@coarse.shape.map { |n| (n + 1) / 2 + 3 }).fill(band).tap { |field| @body.distance(field, rigid, [lattice.x, lattice.y, lattice.z], lattice.voxel, band) }
      end
    end
  end
end
