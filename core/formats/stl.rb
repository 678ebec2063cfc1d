# frozen_string_literal: true

module Vumbral
  module Formats
    # STL, binary and text. Corners in the same place become one point.
    module STL
      module_function

      # @param bytes [String]
      # @return [Geometry::Mesh]
      # @raise [Refused]
      def read(bytes, name: "the file")
        bytes = bytes.b
        corners = binary?(bytes) ? read_binary(bytes, name) : read_text(bytes, name)
        raise Refused.new("#{name} holds no triangles.", code: "empty_mesh") if corners[0].empty?

        weld(*corners, name)
      end

      # @return [String] binary STL
      def write(mesh)
        points = mesh.points.to_a.each_slice(3).to_a
        rows = mesh.triangles.to_a.each_slice(3).map { |t| ([0.0, 0.0, 0.0] + t.flat_map { |n| points[n] }).pack("e12") + "\0\0" }
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
          raise Refused.new("#{name} is not a whole STL file: it should hold #{(count < 0) ? "a head of 84 bytes" : "#{count} triangles"} and ends before that.", code: "bad_mesh")
        end
        [(0...count).flat_map { |n| bytes[84 + 50 * n + 12, 36].unpack("e9") }, [["all", 0]]]
      end

      def read_text(bytes, name)
        numbers = []
        solids = []
        bytes.each_line.with_index(1) do |row, line|
          case row
          when /\A\s*vertex\s+(\S+)\s+(\S+)\s+(\S+)/i
            place = [$1, $2, $3].map { |word| Float(word, exception: false) }
            raise Refused.new("Line #{line} of #{name} is not a corner: \"#{row.strip[0, 40]}\".", code: "bad_mesh") unless place.all?

            numbers.concat(place)
          when /\A\s*solid\s*(.*)/i then solids << [$1.strip.empty? ? "all" : $1.strip, numbers.size / 9]
          end
        end
        unless (numbers.size % 9).zero?
          raise Refused.new("#{name} ends inside a triangle; it holds #{numbers.size / 3} corners, which is not a multiple of three.", code: "bad_mesh")
        end
        [numbers, solids]
      end

      def weld(numbers, solids, name)
        raise Refused.new("#{name} holds a corner that is not a finite number.", code: "bad_mesh") unless numbers.all?(&:finite?)

        places = {}
        triangles = numbers.each_slice(3).map { |place| places[place] ||= places.size }
        total = triangles.size / 3
        parts = solids.each_with_index.map { |(title, first), i| Geometry::Mesh::Part.new(title.dup.force_encoding("UTF-8").scrub("?"), first, (solids[i + 1]&.last || total) - first) }
        Geometry::Mesh.from(places.keys.flatten, triangles, parts.reject { |part| part.count.zero? })
      end
      private_class_method :binary?, :read_binary, :read_text, :weld
    end
  end
end
