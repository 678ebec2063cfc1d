# frozen_string_literal: true

module Vumbral
  module Geometry
    # A body ready to be asked how far away it is: its mesh at its own size, with a tree over it.
    class Body
      attr_reader :mesh, :closed

      # @param outline [Hash] as {Shapes.outline}; @param scale [Array<Float>]
      # @param meshes [#mesh] gives the mesh of a digest
      def initialize(outline, scale, meshes)
        @mesh = Shapes.build(outline, meshes).transformed(Transform.place(scale: scale))
        @bvh = BVH.new(@mesh)
        @closed = @mesh.closed?
      end

      # @param rigid [Transform] @return [Array(Array<Float>, Array<Float>)] lowest and highest corner
      def bounds(rigid)
        low, high = @mesh.bounds
        corners = 8.times.map { |n| rigid.apply(3.times.map { |a| (n >> a & 1).zero? ? low[a] : high[a] }) }
        [corners.transpose.map(&:min), corners.transpose.map(&:max)]
      end

      # Signed distance on the part of a grid near the body, metres, negative inside: exact within
      # `band`, ±band beyond. The rest of the field stays as it was.
      # @param field [Kernel::Buffer] f32 [z, y, x]; @param first [Array<Float>] centre of its first cell
      # @return [Array<Integer>, nil] the region: first and one past the last cell along z, y, x; nil
      #   where the body is nowhere near
      def distance(field, rigid, first, voxel, band)
        low, high = bounds(rigid)
        counts = field.shape.reverse
        region = 3.times.map do |a|
          [((low[a] - band - first[a]) / voxel).floor.clamp(0, counts[a]), ((high[a] + band - first[a]) / voxel).ceil.clamp(-1, counts[a] - 1) + 1]
        end
        (x0, x1), (y0, y1), (z0, z1) = region
        return if x1 <= x0 || y1 <= y0 || z1 <= z0

        BVHKernels.signed_distance(field, *@bvh.arrays, Kernel::Buffer.of(:f32, rigid.inverse.rows.flatten), *first, voxel, band, @closed, z0, z1, y0, y1, x0, x1)
        [z0, z1, y0, y1, x0, x1]
      end

      # Triangle and place on it nearest to points: see {BVHKernels#closest}.
      def arrays = @bvh.arrays

      def order = @bvh.order
    end
  end
end
