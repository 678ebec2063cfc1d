# frozen_string_literal: true

module Vumbral
  module Formats
    # STL, binary and text. Corners in the same place become one point.
    module STL
      FARTHEST = 1.0e9

      module_function

      # @param bytes [String]
      # @return [Geometry::Mesh]
      # @raise [Refused]
      def read(bytes, name: "the file")
        bytes = bytes.b
        corners, solids = binary?(bytes) ? read_binary(bytes, name) : read_text(bytes, name)
        raise Refused.new("#{name} holds no triangles.", code: "empty_mesh") if corners.dim(0).zero?

        weld(corners, solids)
      end

      # @return [String] binary STL
      def write(mesh)
        points = mesh.points.to_a.each_slice(3).to_a
        rows =
          mesh
            .triangles
            .to_a
            .each_slice(3)
            .map { |t| ([0.0, 0.0, 0.0] + t.flat_map { |n| points[n] }).pack("e12") + "\0\0" }
        "Vumbral".ljust(80, " ") + [rows.size].pack("L<") + rows.join
      end

      # The size fits the count in binary files; some of them begin with the word solid too.
      def binary?(bytes)
        return true if bytes.bytesize >= 84 && bytes.bytesize == 84 + 50 * bytes[80, 4].unpack1("L<")

        !bytes[0, 512].to_s.lstrip.start_with?("solid")
      end

      def read_binary(bytes, name)
        count = (bytes.bytesize >= 84) ? bytes[80, 4].unpack1("L<") : -1
        if count.negative? || bytes.bytesize < 84 + 50 * count
          should = (count < 0) ? "a head of 84 bytes" : "#{count} triangles"
          raise Refused.new(
            "#{name} is not a whole STL file: it should hold #{should} and ends before that.", code: "bad_mesh"
          )
        end
        packed = Kernel::Buffer.new(:u8, 36 * count)
        STLKernels.gather(packed, Kernel::Buffer.new(:u8, bytes.bytesize, bytes: bytes), 84)
        corners = Kernel::Buffer.new(:f32, 3 * count, 3, bytes: packed.bytes)
        unless Geometry::MeshKernels.farthest(corners) <= FARTHEST
          raise Refused.new(
            "#{name} holds a corner that is not a finite number within 1e9 of the origin.", code: "bad_mesh"
          )
        end
        [corners, [["all", 0]]]
      end

      def read_text(bytes, name)
        text = Kernel::Buffer.new(:u8, bytes.bytesize, bytes: bytes)
        count, named = STLKernels.count(text)
        corners = Kernel::Buffer.new(:f32, count, 3)
        heads = Kernel::Buffer.new(:i32, named, 3)
        report = Kernel::Buffer.new(:i32, 3)
        STLKernels.fill(text, corners, heads, report)
        if report[0] == 1
          row = Text.excerpt(bytes.byteslice(report[1], 400).lines.first.to_s)
          raise Refused.new("Line #{report[2]} of #{name} is not a corner: \"#{row}\".", code: "bad_mesh")
        end
        unless (count % 3).zero?
          raise Refused.new(
            "#{name} ends inside a triangle; it holds #{count} corners, which is not a multiple of three.",
            code: "bad_mesh"
          )
        end
        [corners, heads.to_a.each_slice(3).map { |from, stop, before| [title(bytes, from, stop), before / 3] }]
      end

      def title(bytes, from, stop)
        words = Text.utf8(bytes.byteslice(from, [stop - from, 400].min)).gsub(/[[:cntrl:]]/, " ").strip[0, 120]
        words.empty? ? "all" : words
      end

      def weld(corners, solids)
        numbers, points = Geometry::Welding.weld(corners)
        parts = solids.map { |title, first| Geometry::Mesh::Part.new(title, first, 0) }
        Geometry::Mesh.new(
          points, numbers.reshape(numbers.size / 3, 3), Geometry::Mesh::Part.runs(parts, numbers.size / 3)
        )
      end
      private_class_method :binary?, :read_binary, :read_text, :title, :weld
    end
  end
end
