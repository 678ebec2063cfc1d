# frozen_string_literal: true

require "digest"

module Vumbral
  module Geometry
    # Triangles in space. `points` is f32 [n, 3] in metres, `triangles` i32 [m, 3], wound
    # anticlockwise seen from outside; `parts` names runs of triangles (as files name objects).
    class Mesh
      Part = Struct.new(:name, :first, :count) do
        # Counts what belongs to each part that begins somewhere; what comes before the first is one of its own.
        # @param parts [Array<Part>] in order, with their first triangle
        # @return [Array<Part>] none of them empty
        def self.runs(parts, total)
          parts.unshift(new("all", 0, 0)) if parts.empty? || parts[0].first.positive?
          parts.each_with_index { |part, i| part.count = (parts[i + 1]&.first || total) - part.first }
          parts.reject { |part| part.count.zero? }
        end
      end

      attr_reader :points, :triangles, :parts, :places, :paint

      # @param points [Array<Float>] x y z, x y z, …
      # @param triangles [Array<Integer>] three point numbers each
      def self.from(points, triangles, parts = nil, places: nil, paint: nil)
        new(Kernel::Buffer.of(:f32, points, points.size / 3, 3), Kernel::Buffer.of(:i32, triangles, triangles.size / 3, 3), parts,
          places: places && Kernel::Buffer.of(:f32, places, places.size / 6, 6), paint: paint && Kernel::Buffer.of(:f32, paint))
      end

      # @param places [Kernel::Buffer, nil] f32 [m, 6], where each corner lies in a picture (u, v)
      # @param paint [Kernel::Buffer, nil] f32 [n], a number for each point, 0 to 1
      def initialize(points, triangles, parts = nil, places: nil, paint: nil)
        @points = points
        @places = places
        @paint = paint
        @triangles = triangles
        @parts = parts || [Part.new("all", 0, triangles.dim(0))]
      end

      def count = @triangles.dim(0)

      def empty? = count.zero?

      # @return [Array(Array<Float>, Array<Float>)] lowest and highest corner
      def bounds
        @bounds ||= begin
          ends = MeshKernels.extent(@points, 0) + MeshKernels.extent(@points, 1) + MeshKernels.extent(@points, 2)
          [ends.values_at(0, 2, 4), ends.values_at(1, 3, 5)]
        end
      end

      # @return [Mesh] with its points moved by a {Transform}
      def transformed(transform)
        moved = Kernel::Buffer.new(:f32, *@points.shape)
        MeshKernels.transform(moved, @points, Kernel::Buffer.of(:f64, transform.rows.flatten))
        triangles = transform.mirrors? ? flipped : @triangles
        Mesh.new(moved, triangles, @parts, places: @places, paint: @paint)
      end

      # Signed volume in cubic metres, by the divergence theorem.
      def volume = MeshKernels.volume(@points, @triangles)

      # Surface in square metres.
      def area = MeshKernels.area(@points, @triangles)

      # How many edges do not have exactly two triangles that run along them in opposite
      # directions, once points in the same place count as one; 0 for a closed mesh.
      def open_edges = @open_edges ||= Welding.open_edges(@points, @triangles)

      def closed? = open_edges.zero?

      # A name for this exact geometry.
      def digest
        @digest ||= begin
          sum = Digest::SHA256.new
          [@points, @triangles, @places, @paint].compact.each_with_index { |buffer, n| sum.update(n.zero? ? "" : "|").update(buffer.bytes) }
          sum.hexdigest[0, 24]
        end
      end

      # Points and normals for each corner, f32 [m * 3, 6], for drawing: faces that meet at less
      # than `crease` degrees are shaded as one smooth surface.
      def corners(crease: 40.0)
        normals = corner_normals(crease)
        out = Kernel::Buffer.new(:f32, count * 3, 6)
        MeshKernels.interleave(out, @points, @triangles, normals)
        out
      end

      # @return [Kernel::Buffer] f32 [m, 9], a unit normal for each corner
      def corner_normals(crease = 40.0)
        faces = Kernel::Buffer.new(:f32, count, 3)
        MeshKernels.face_normals(faces, @points, @triangles)
        starts = Kernel::Buffer.new(:i32, @points.dim(0) + 1)
        members = Kernel::Buffer.new(:i32, count * 3)
        MeshKernels.gather_faces(starts, members, @triangles)
        out = Kernel::Buffer.new(:f32, count, 9)
        MeshKernels.corner_normals(out, faces, @triangles, starts, members, Math.cos(crease * Math::PI / 180.0))
        out
      end

      # All of several meshes as one.
      def self.joined(meshes)
        points = meshes.map { |mesh| mesh.points.bytes }.join
        offset = 0
        triangles = meshes.flat_map do |mesh|
          shifted = mesh.triangles.to_a.map { |n| n + offset }
          offset += mesh.points.dim(0)
          shifted
        end
        new(Kernel::Buffer.new(:f32, points.bytesize / 12, 3, bytes: points),
          Kernel::Buffer.of(:i32, triangles, triangles.size / 3, 3))
      end

      private

      def flipped
        Kernel::Buffer.of(:i32, @triangles.to_a.each_slice(3).flat_map { |a, b, c| [a, c, b] }, count, 3)
      end
    end
  end
end
