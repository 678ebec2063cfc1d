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

      attr_reader :points, :triangles, :parts, :places, :paint, :colours

      # @param points [Array<Float>] x y z, x y z, …
      # @param triangles [Array<Integer>] three point numbers each
      def self.from(points, triangles, parts = nil, places: nil, paint: nil)
        new(
          Kernel::Buffer.of(:f32, points, points.size / 3, 3),
          Kernel::Buffer.of(:i32, triangles, triangles.size / 3, 3), parts,
          places: places && Kernel::Buffer.of(:f32, places, places.size / 6, 6),
          paint: paint && Kernel::Buffer.of(:f32, paint)
        )
      end

      # @param places [Kernel::Buffer, nil] f32 [m, 6], where each corner lies in a picture (u, v)
      # @param paint [Kernel::Buffer, nil] f32 [n], a number for each point, 0 to 1
      # @param colours [Kernel::Buffer, nil] f32 [m, 9], red, green and blue of each corner (linear)
      # @param seams [Hash] what was found of its edges, which meshes of the same triangles share
      def initialize(points, triangles, parts = nil, places: nil, paint: nil, colours: nil, seams: {})
        @seams = seams
        @points = points
        @places = places
        @paint = paint
        @colours = colours
        @triangles = triangles
        @parts = parts || [Part.new("all", 0, triangles.dim(0))]
      end

      # @return [Mesh] the same with its points elsewhere
      def with(points) =
        Mesh.new(points, @triangles, @parts, places: @places, paint: @paint, colours: @colours, seams: @seams)

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
        transform.mirrors? ? with(moved).flipped : with(moved)
      end

      # @return [Mesh] the same as one part of a name
      def named(name) =
        Mesh.new(@points, @triangles, [Part.new(name, 0, count)], places: @places, paint: @paint, colours: @colours)

      # @return [Mesh] inside out
      def flipped
        turned = Kernel::Buffer.new(:i32, count, 3).tap { |out| MeshKernels.flip(out, @triangles) }
        places, colours = [[@places, 2], [@colours, 3]].map do |values, width|
          values && Kernel::Buffer.new(:f32, *values.shape).tap { |out| MeshKernels.flip_values(out, values, width) }
        end
        Mesh.new(@points, turned, @parts, places: places, paint: @paint, colours: colours)
      end

      # Some of its triangles, with no more points than they need.
      # @param numbers [Array<Integer>] of triangles, in order
      # @return [Mesh] with one part
      def only(numbers, name = "all")
        all = @triangles.to_a.each_slice(3).to_a
        rows = numbers.map { |n| all[n] }
        used = rows.flatten.uniq
        numbered = used.each_with_index.to_h
        # One by one: so many arguments at once would not fit on the stack.
        values = ->(buffer, width, at) do
          buffer &&
            buffer
              .to_a
              .each_slice(width)
              .to_a
              .then { |given| Kernel::Buffer.of(:f32, at.flat_map { |n| given[n] }, at.size, width) }
        end
        paint = @paint && @paint.to_a.then { |given| Kernel::Buffer.of(:f32, used.map { |n| given[n] }) }
        Mesh.new(
          values.call(@points, 3, used), Kernel::Buffer.of(:i32, rows.flatten.map { |n| numbered[n] }, rows.size, 3),
          [Part.new(name, 0, rows.size)], places: values.call(@places, 6, numbers), paint: paint,
          colours: values.call(@colours, 9, numbers)
        )
      end

      # @return [Array<Mesh>] each of its parts as a mesh of its own
      def apart = @parts.map { |part| only((part.first...part.first + part.count).to_a, part.name) }

      # Signed volume in cubic metres, by the divergence theorem.
      def volume = MeshKernels.volume(@points, @triangles)

      # Surface in square metres.
      def area = MeshKernels.area(@points, @triangles)

      # How many edges do not have exactly two triangles that run along them in opposite
      # directions, once points in the same place count as one; 0 for a closed mesh.
      def open_edges = @seams[:open] ||= Welding.open_edges(@points, @triangles)

      def closed? = open_edges.zero?

      # A name for this exact geometry.
      def digest
        @digest ||= begin
          sum = Digest::SHA256.new
          [@points, @triangles, @places, @paint].compact.each_with_index do |buffer, n|
            sum.update(n.zero? ? "" : "|").update(buffer.bytes)
          end
          sum.update("|colours|").update(@colours.bytes) if @colours
          sum.hexdigest[0, 24]
        end
      end

      # Points, normals and colours for each corner, f32 [m * 3, 9], for drawing: faces that meet at less
      # than `crease` degrees are shaded as one smooth surface; what has no colours is white.
      def corners(crease: 40.0)
        normals = corner_normals(crease)
        out = Kernel::Buffer.new(:f32, count * 3, 9)
        MeshKernels.interleave(out, @points, @triangles, normals)
        MeshKernels.colour(out, @colours) if @colours
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

      # All of several meshes as one, with what lies on their corners where all have it.
      # @param meshes [Array<Mesh>]
      def self.joined(meshes)
        offset = first = 0
        parts = []
        triangles = meshes.map do |mesh|
          shifted = Kernel::Buffer.new(:i32, mesh.count, 3).tap { |out| MeshKernels.shift(out, mesh.triangles, offset) }
          parts.concat(mesh.parts.map { |part| Part.new(part.name, part.first + first, part.count) })
          offset += mesh.points.dim(0)
          first += mesh.count
          shifted
        end
        new(
          Kernel::Buffer.new(:f32, offset, 3, bytes: meshes.map { |mesh| mesh.points.bytes }.join),
          Kernel::Buffer.new(:i32, first, 3, bytes: triangles.map(&:bytes).join), parts,
          places: together(meshes.map(&:places), 6), paint: together(meshes.map(&:paint)),
          colours: together(meshes.map(&:colours), 9)
        )
      end

      def self.together(buffers, *width)
        return if buffers.empty? || buffers.any?(&:nil?)

        bytes = buffers.map(&:bytes).join
        Kernel::Buffer.new(:f32, bytes.bytesize / 4 / width.reduce(1, :*), *width, bytes: bytes)
      end
      private_class_method :together
    end
  end
end
