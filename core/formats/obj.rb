# frozen_string_literal: true

module Vumbral
  module Formats
    # Wavefront OBJ: points, faces of any number of corners, objects and groups, texture places and
    # colours of points.
    module OBJ
      module_function

      # @param text [String] bytes; names in it are UTF-8
      # @param name [String] for messages
      # @return [Geometry::Mesh]
      # @raise [Refused] with the line and what is wrong with it
      def read(text, name: "the file")
        text = text.b
        # A backslash joins a line with the next.
        text = text.gsub(/\\\r?\n/n, " ") if text.include?("\\")
        bytes = Kernel::Buffer.new(:u8, text.bytesize, bytes: text)
        mesh(text, bytes, OBJKernels.count(bytes), name)
      end

      # @return [String] a triangle mesh as OBJ
      def write(mesh)
        rows = mesh.points.to_a.each_slice(3).map { |x, y, z| format("v %.9g %.9g %.9g", x, y, z) }
        numbers = mesh.triangles.to_a
        mesh.parts.each do |part|
          rows << "o #{part.name}"
          numbers[3 * part.first, 3 * part.count].each_slice(3) { |a, b, c| rows << "f #{a + 1} #{b + 1} #{c + 1}" }
        end
        "#{rows.join("\n")}\n"
      end

      def mesh(text, bytes, counts, name)
        points, textures, triangles, parts = counts
        points = Kernel::Buffer.new(:f32, points, 3)
        paint = Kernel::Buffer.new(:f32, points.dim(0))
        corners = Kernel::Buffer.new(:i32, triangles, 3)
        places = Kernel::Buffer.new(:f32, textures.positive? ? triangles : 0, 6)
        heads = Kernel::Buffer.new(:i32, parts, 3)
        report = Kernel::Buffer.new(:i32, 4)
        painted = OBJKernels.fill(bytes, points, paint, Kernel::Buffer.new(:f32, textures, 2), corners, places, heads, report)
        complain(text, report.to_a, name) unless report[0].zero?
        raise Refused.new("#{name} holds no faces; export it again as a polygon mesh.", code: "empty_mesh") if triangles.zero?

        Geometry::Mesh.new(points, corners, runs(text, heads, triangles), places: places.size.zero? ? nil : places,
          paint: (painted == points.dim(0)) ? paint : nil)
      end

      # Says what is wrong with a line.
      def complain(text, report, name)
        what, from, line, more = report
        where = "Line #{line} of #{name}"
        row = Text.excerpt(text.byteslice(from, 400).lines.first.to_s)
        word = (what == OBJKernels::FEW_CORNERS) ? nil : Text.excerpt(text.byteslice(more, 60)[/\A\S*/n])
        sentence = case what
        when OBJKernels::NO_NUMBER then "#{where} is not a point (\"#{row}\"); a point is v and three numbers."
        when OBJKernels::TOO_FAR then "#{where} has a point farther than 1e9 from the origin (\"#{row}\"); scale the mesh down."
        when OBJKernels::NO_POINT then "#{where} has a face that uses point #{word}, but there are #{before(text, from, "v")} points so far."
        when OBJKernels::NO_TEXTURE
          "#{where} has a face that uses texture place #{word.split("/")[1]}, but there are #{before(text, from, "vt")} so far."
        else "#{where} has a face with #{more} corners; it needs three or more."
        end
        raise Refused.new(sentence, code: "bad_mesh")
      end

      # How many lines of a kind there are before a place.
      def before(text, from, kind) = text.byteslice(0, from).scan(/^[ \t]*#{kind}[ \t]/n).size

      def runs(text, heads, total)
        parts = heads.to_a.each_slice(3).filter_map do |from, stop, triangle|
          title = Text.utf8(text.byteslice(from, [stop - from, 400].min)).gsub(/[[:cntrl:]]/, " ").strip
          Geometry::Mesh::Part.new(title[0, 120], triangle, 0) unless title.empty?
        end
        Geometry::Mesh::Part.runs(parts, total)
      end
      private_class_method :mesh, :complain, :before, :runs
    end
  end
end
