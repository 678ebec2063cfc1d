# frozen_string_literal: true

module Vumbral
  module Sculpt
    # Surfaces of volumes: where values come to a level, as a closed mesh (surface nets, Gibson 1998).
    module Skin
      # Cells around all that are outside, so that it closes.
      AROUND = 2

      # Gives the one mesh that there is, whatever it is asked for.
      Only = Struct.new(:one) do
        def mesh(*) = one
      end
      # How a body says that it stands where its mesh does.
      STANDS = {"position" => [0.0] * 3, "turn" => [0.0] * 3, "scale" => [1.0] * 3}.freeze

      module_function

      # @param field [Field]; @param level [Float] of a density, inside is more; of distances, less
      # @return [Geometry::Mesh] in the world; without faces where nothing comes to it
      def of(field, level)
        low, high = held(field)
        cells = high.zip(low).map { |b, a| 16 * (b - a + 1) + 2 * AROUND }
        values = Kernel::Buffer.new(:f32, *cells)
        FieldKernels.beneath(
          values, field.cells, Kernel::Buffer.of(:i32, low.map { |n| 16 * n - AROUND }), level, field.as == :distance
        )
        first =
          [field.lattice.x, field.lattice.y, field.lattice.z].zip(low.reverse)
            .map { |c, n| c + (16 * n - AROUND) * field.voxel }
        Geometry::Operations::Remesh.nets(
          values, Geometry::Operations::Remesh::Grid.new(cells, first, field.voxel),
          {"name" => "The surface of a sculpt"}
        )
      end

      # @param outline [Hash] of a prop: "recipe", "threshold" and "least_part"
      # @return [Geometry::Mesh]
      def surface(outline, meshes) =
        without_crumbs(of(Carving.new(outline["recipe"], meshes).call, outline["threshold"]), outline["least_part"])

      # @param least [Float] parts of less than this share of the largest one's area are left out
      # @return [Geometry::Mesh]
      def without_crumbs(mesh, least)
        return mesh unless least.positive? && mesh.count.positive?

        roots, areas =
          Kernel::Buffer.of(:i32, (0...mesh.points.dim(0)).to_a),
          Kernel::Buffer.new(:f32, mesh.points.dim(0))
        SkinKernels.parts(roots, areas, mesh.points, mesh.triangles)
        whole, parts = areas.to_a, roots.to_a
        bound = least * whole.max
        kept = mesh.triangles.to_a.each_slice(3).with_index.filter_map { |(a, *), n| n if whole[parts[a]] >= bound }
        (kept.size == mesh.count) ? mesh : mesh.only(kept)
      end

      # @return [Hash] a body whose mesh stands in the world already
      def body(mesh) = {"outline" => {"shape" => "mesh", "mesh" => mesh.digest}, "from" => STANDS, "to" => STANDS}

      # The bricks around all that is not the same as at the corner.
      def held(field)
        tiles, index = field.tiles.to_a, field.index.to_a
        _, ny, nx = field.counts
        outer = (field.as == :distance) ? tiles.max.to_f : 0.0
        spots =
          (0...tiles.size)
            .select { |n| index[n] >= 0 || tiles[n] != outer }
            .map { |n| [n / (nx * ny), n / nx % ny, n % nx] }
        spots = [[0, 0, 0]] if spots.empty?
        spots.transpose.map(&:minmax).transpose
      end
      private_class_method :held
    end
  end
end
