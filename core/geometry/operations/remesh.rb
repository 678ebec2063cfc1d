# frozen_string_literal: true

module Vumbral
  module Geometry
    # One part of {Operations}.
    module Operations
      # Makes a mesh anew from its distance field: closed, with faces of one size (surface nets, Gibson 1998). Holes,
      # faces the wrong way round and faces on top of each other are no trouble.
      module Remesh
        # Cells of the field at most.
        MOST_CELLS = 30_000_000
        # Cells around the shape; and so far from the surface distances are worked out, in cells.
        ROOM, BAND = 3, 2.5
        # A number of faces is met within this share, or not within so many rounds.
        NEAR, ROUNDS = 0.02, 6
        private_constant :NEAR, :ROUNDS

        module_function

        # @return [Mesh]
        def call(mesh, row, _meshes)
          return counted(mesh, row) if row["remesh_by"] == "count"

          surface(row["edge"], mesh.bounds, row) { |grid| grid.distance(mesh) }
        end

        # As many faces as are wanted: their number goes with the other way round of their size squared, so a few rounds
        # come near.
        def counted(mesh, row)
          points = mesh.points.to_a
          area = mesh.triangles.to_a.each_slice(3).sum { |numbers| area(*numbers.map { |n| points[3 * n, 3] }) }
          wanted, edge, best = row["faces"], Math.sqrt(3.0 * area / row["faces"]), nil
          ROUNDS.times do
            made = surface(edge, mesh.bounds, row) { |grid| grid.distance(mesh) }
            best = made if best.nil? || (made.count - wanted).abs < (best.count - wanted).abs
            break if made.count.positive? && (made.count - wanted).abs <= NEAR * wanted

            edge *= made.count.positive? ? Math.sqrt(made.count.fdiv(wanted)).clamp(0.5, 2.0) : 0.5
          end
          best
        end

        def area(a, b, c) = 0.5 * Vectors.length(Vectors.cross(Vectors.minus(b, a), Vectors.minus(c, a)))

        # @param ends [Array(Array<Float>, Array<Float>)] lowest and highest corner of what is made
        # @yieldparam grid [Grid] @yieldreturn [Kernel::Buffer] f32 [z, y, x], signed distances
        # @return [Mesh]
        def surface(edge, ends, row)
          low, high = ends
          size = low.zip(high).map { |a, b| ((b - a) / edge).ceil + 2 * ROOM + 1 }.reverse
          cells = size.reduce(:*)
          if cells > MOST_CELLS
            raise Refused.new(
              "#{row["name"]} would take #{cells} cells, and #{MOST_CELLS} is the most; make its faces larger.",
              code: "mesh_too_large"
            )
          end

          grid = Grid.new(size, low.map { |c| c - ROOM * edge }, edge)
          nets(yield(grid), grid, row)
        end

        # @param field [Kernel::Buffer] f32 [z, y, x], below 0 within; @param grid [Grid]; @param row [Hash] "name"
        # @return [Mesh]
        def nets(field, grid, row)
          numbers = Kernel::Buffer.new(:i32, *field.shape)
          points, quads = OperationKernels.count(numbers, field)
          Operations.check(2 * quads, row, "make its faces larger")
          made = Kernel::Buffer.new(:f32, points, 3)
          triangles = Kernel::Buffer.new(:i32, 2 * quads, 3)
          OperationKernels.nets(made, triangles, numbers, field, Vumbral::Grid::Lattice.new(*grid.first, grid.edge))
          Mesh.new(made, triangles)
        end

        # Where a field lies: cells along z, y, x, the place of the first one, and how far they lie apart.
        Grid = Struct.new(:size, :first, :edge) do
          # @param band [Float] so far it is exact, metres
          # @return [Kernel::Buffer] f32 [z, y, x], signed distance to a mesh near it, beyond that as far as is known
          def distance(mesh, band = BAND * edge)
            bvh = BVH.new(mesh)
            field = Kernel::Buffer.new(:f32, *size)
            BVHKernels.signed_distance(
              field, Kernel::Buffer.new(:i32, *size), bvh.tree,
              Kernel::Buffer.of(:f32, Transform.identity.rows.flatten), band, mesh.closed?,
              Vumbral::Grid::Lattice.new(*first, edge), Vumbral::Grid::Region.new(0, size[0], 0, size[1], 0, size[2])
            )
            field
          end
        end
      end
    end
  end
end
