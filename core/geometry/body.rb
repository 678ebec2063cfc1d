# frozen_string_literal: true

module Vumbral
  module Geometry
    # A body ready to be asked how far away it is: its mesh at its own size, with a tree over it.
    class Body
      attr_reader :mesh, :closed

      # @param outline [Hash] as {Shapes.outline}; @param scale [Array<Float>]
      # @param meshes [#mesh] gives the mesh of a digest; @param at [Float, nil] frames that it has moved by itself
      # @param before [Body, nil] the same at another moment, which makes this one sooner ready
      def initialize(outline, scale, meshes, at = nil, before: nil)
        @mesh = Body.sized(outline, scale, meshes, at)
        @bvh = BVH.new(@mesh, order: (before && Clip.alike?(before.mesh, @mesh)) ? before.order : nil)
        @closed = @mesh.closed?
      end

      # @api private
      def order = @bvh.order

      # @return [Tree] for kernels that ask about places of its own
      def tree = @bvh.tree

      # @return [Mesh] at its own size
      def self.sized(outline, scale, meshes, at = nil)
        mesh = Shapes.build(outline, meshes, at)
        (scale == [1.0, 1.0, 1.0]) ? mesh : mesh.transformed(Transform.place(scale: scale))
      end

      # @return [Boolean] whether there is an inside: a sheet has none, a body with holes has
      def inside? = (@inside ||= [mesh.volume.abs > 1e-4 * [mesh.area, 1e-12].max**1.5])[0]

      # @param rigid [Transform] @return [Array(Array<Float>, Array<Float>)] lowest and highest corner
      def bounds(rigid) = Body.box(@mesh, rigid)

      # @param mesh [Mesh]; @param rigid [Transform] @return [Array(Array<Float>, Array<Float>)] of a mesh that stands
      #   so
      def self.box(mesh, rigid)
        low, high = mesh.bounds
        corners = 8.times.map { |n| rigid.apply(3.times.map { |a| (n >> a & 1).zero? ? low[a] : high[a] }) }
        [corners.transpose.map(&:min), corners.transpose.map(&:max)]
      end

      # Signed distance on the part of a grid near the body, metres, negative inside: exact within
      # `band`, ±band beyond. The rest of the field stays as it was.
      # @param field [Kernel::Buffer] f32 [z, y, x]; @param first [Array<Float>] centre of its first cell
      # @param nearest [Kernel::Buffer] i32 [z, y, x], takes which triangle is nearest, for {#speeds}
      # @return [Grid::Region, nil] nil where the body is nowhere near
      def distance(field, rigid, first, voxel, band, nearest = Kernel::Buffer.new(:i32, *field.shape))
        low, high = bounds(rigid)
        counts = field.shape.reverse
        region = 3.times.map do |a|
          [((low[a] - band - first[a]) / voxel).floor.clamp(0, counts[a]),
            ((high[a] + band - first[a]) / voxel).ceil.clamp(-1, counts[a] - 1) + 1]
        end
        (x0, x1), (y0, y1), (z0, z1) = region
        return if x1 <= x0 || y1 <= y0 || z1 <= z0

        near = Grid::Region.new(z0, z1, y0, y1, x0, x1)
        BVHKernels.signed_distance(
          field, nearest, @bvh.tree, Kernel::Buffer.of(:f32, rigid.inverse.rows.flatten), band, @closed,
          Grid::Lattice.new(*first, voxel), near
        )
        near
      end

      # How fast each place near the surface moves by itself, m/s.
      # @param field [Grid::VectorField] written
      # @param nearest [Kernel::Buffer] as {#distance} left it; where it names no triangle, nothing moves
      # @param ends [Array(Mesh, Mesh)] before and after, with the body's own triangles
      # @param seconds [Float] between them
      def speeds(field, nearest, ends, seconds, rigid, lattice, region)
        # With a last row for what lies deep inside, which goes along with the whole.
        speeds = Kernel::Buffer.new(:f32, @mesh.count + 1, 9)
        3.times do |axis|
          speeds[@mesh.count, axis] = ends
            .map { |mesh| MeshKernels.mean(mesh.points, axis) }
            .then { |before, after| (after - before) / seconds }
        end
        MapKernels.speeds(speeds, ends[0].points, ends[1].points, @mesh.triangles, @bvh.order, 1.0 / seconds)
        MapKernels.flow(
          field, nearest, @bvh.corners, speeds, Kernel::Buffer.of(:f32, rigid.inverse.rows.flatten), lattice, region
        )
      end

      # Thins a cover by a picture at the mesh's texture places, or by its paint without one.
      # @param region [Grid::Region] from {#distance}
      # @raise [Refused] for a mesh that has none
      def thin(cover, picture, rigid, first, voxel, most, region)
        values = picture ? texture : paint
        map = SurfaceMap.new(values, picture || Kernel::Buffer.new(:f32, 1, 1), picture.nil?)
        MapKernels.thin(cover, @bvh.tree, map, Kernel::Buffer.of(:f32, rigid.inverse.rows.flatten), most,
          Grid::Lattice.new(*first, voxel), region)
      end

      # Thins a cover by a number at each corner of its triangles.
      # @param values [Kernel::Buffer] f32 [m, 3], 0 to 1
      def thin_by(cover, values, rigid, lattice, most, region)
        map = SurfaceMap.new(sorted(values), Kernel::Buffer.new(:f32, 1, 1), true)
        MapKernels.thin(
          cover, @bvh.tree, map, Kernel::Buffer.of(:f32, rigid.inverse.rows.flatten), most, lattice, region
        )
      end

      private

      def texture
        @texture ||=
          sorted(
            @mesh.places ||
              raise(
                Refused.new(
                  "A source takes its strength from a picture, but its mesh has no texture places; export it with " \
                    "them, or choose another map.",
                  code: "no_texture_places"
                )
              )
          )
      end

      def paint
        @paint ||= begin
          paint =
            @mesh.paint ||
            raise(
              Refused.new(
                "A source takes its strength from point colours, but its mesh has none; export it with colours, " \
                  "or choose another map.",
                code: "no_paint"
              )
            )
          numbers = paint.to_a
          sorted(Kernel::Buffer.of(:f32, @mesh.triangles.to_a.map { |n| numbers[n] }, @mesh.count, 3))
        end
      end

      def sorted(values)
        out = Kernel::Buffer.new(:f32, *values.shape)
        MapKernels.sort(out, values, @bvh.order)
        out
      end
    end
  end
end
