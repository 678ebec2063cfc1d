# frozen_string_literal: true

module Vumbral
  module Formats
    # Wavefront OBJ: points, faces of any number of corners, objects and groups, texture places and
    # colours of points.
    module OBJ
      module_function

      # @param text [String] bytes; names in it are UTF-8
      # @param name [String] for messages
      # @param materials [Hash{String => Array<Float>}] colours as {MTL.read} gives them
      # @return [Geometry::Mesh]
      # @raise [Refused] with the line and what is wrong with it
      def read(text, name: "the file", materials: {})
        text = text.b
        # A backslash joins a line with the next.
        text = text.gsub(/\\\r?\n/n, " ") if text.include?("\\")
        bytes = Kernel::Buffer.new(:u8, text.bytesize, bytes: text)
        mesh(text, bytes, OBJKernels.count(bytes), name, materials)
      end

      # @param name [String] of the object, where the mesh has no parts of its own
      # @return [String] a triangle mesh as OBJ, with its texture places and the colours of its points
      def write(mesh, name = nil)
        vertices = Vertices.new(mesh)
        rows =
          vertices
            .points
            .to_a
            .each_slice(3)
            .with_index
            .map { |point, n| format("v%s", [*point, *vertices.tints&.at(n)].map { |c| format(" %.9g", c) }.join) }
        rows.concat(vertices.places.map { |u, v| format("vt %.9g %.9g", u, v) }) if vertices.places
        numbers = vertices.triangles.to_a
        corner = vertices.places ? ->(n) { "#{n + 1}/#{n + 1}" } : ->(n) { n + 1 }
        mesh.parts.each do |part|
          rows << "o #{(mesh.parts.size == 1 && name) || part.name}"
          numbers[3 * part.first, 3 * part.count].each_slice(3) do |triangle|
            rows << "f #{triangle.map(&corner).join(" ")}"
          end
        end
        "#{rows.join("\n")}\n"
      end

      # @return [Array<String>] the files of materials that it asks for
      def libraries(text) =
        text
          .b
          .scan(/^[ \t]*mtllib[ \t]+(.+?)[ \t]*\r?$/n)
          .map { |(file)| File.basename(Text.utf8(file).tr("\\", "/")) }
          .uniq

      def mesh(text, bytes, counts, name, materials)
        points, textures, triangles, parts = counts
        points = Kernel::Buffer.new(:f32, points, 3)
        tints = Kernel::Buffer.new(:f32, points.dim(0), 3)
        corners = Kernel::Buffer.new(:i32, triangles, 3)
        places = Kernel::Buffer.new(:f32, textures.positive? ? triangles : 0, 6)
        heads = Kernel::Buffer.new(:i32, parts, 4)
        report = Kernel::Buffer.new(:i32, 4)
        painted =
          OBJKernels.fill(bytes, points, tints, Kernel::Buffer.new(:f32, textures, 2), corners, places, heads, report)
        complain(text, report.to_a, name) unless report[0].zero?
        if triangles.zero?
          raise Refused.new("#{name} holds no faces; export it again as a polygon mesh.", code: "empty_mesh")
        end

        names = titles(text, heads)
        tinted = painted == points.dim(0)
        Geometry::Mesh.new(points, corners, Geometry::Mesh::Part.runs(names.reject(&:last)
          .map { |title, first, _| Geometry::Mesh::Part.new(title, first, 0) }, triangles),
          places: places.size.zero? ? nil : places, paint: tinted ? Geometry::Colours.brightness(tints) : nil,
          colours: tinted ? Geometry::Colours.corners(corners, tints) : Geometry::Colours.runs(names.select(&:last).map { |title, first, _| [first, materials[title]] }, triangles))
      end

      # Says what is wrong with a line.
      def complain(text, report, name)
        what, from, line, more = report
        where = "Line #{line} of #{name}"
        row = Text.excerpt(text.byteslice(from, 400).lines.first.to_s)
        word = (what == OBJKernels::FEW_CORNERS) ? nil : Text.excerpt(text.byteslice(more, 60)[/\A\S*/n])
        sentence =
          case what
          when OBJKernels::NO_NUMBER
            "#{where} is not a point (\"#{row}\"); a point is v and three numbers."
          when OBJKernels::TOO_FAR
            "#{where} has a point farther than 1e9 from the origin (\"#{row}\"); scale the mesh down."
          when OBJKernels::NO_POINT
            "#{where} has a face that uses point #{word}, but there are #{before(text, from, "v")} points so far."
          when OBJKernels::NO_TEXTURE
            "#{where} has a face that uses texture place #{word.split("/")[1]}, but there are " \
              "#{before(text, from, "vt")} so far."
          else
            "#{where} has a face with #{more} corners; it needs three or more."
          end
        raise Refused.new(sentence, code: "bad_mesh")
      end

      # How many lines of a kind there are before a place.
      def before(text, from, kind) = text.byteslice(0, from).scan(/^[ \t]*#{kind}[ \t]/n).size

      # @return [Array(String, Integer, Boolean)] name, first triangle and whether it is a material, for each head
      def titles(text, heads)
        heads.to_a.each_slice(4).filter_map do |from, stop, triangle, material|
          title = Text.utf8(text.byteslice(from, [stop - from, 400].min)).gsub(/[[:cntrl:]]/, " ").strip
          [title[0, 120], triangle, material == 1] unless title.empty?
        end
      end
      private_class_method :mesh, :complain, :before, :titles
    end
  end
end
