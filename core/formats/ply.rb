# frozen_string_literal: true

module Vumbral
  module Formats
    # Stanford PLY, as text and binary of either byte order: points with colours and numbers of their own, faces of
    # any number of corners.
    module PLY
      Property = Struct.new(:name, :type, :count)
      Element = Struct.new(:name, :count, :properties) do
        def lists? = properties.any?(&:count)

        def at(*names) = properties.index { |property| names.include?(property.name) }
      end
      # How each type is unpacked, little end first and big end first, and its bytes.
      TYPES = {"char" => ["c", "c", 1], "uchar" => ["C", "C", 1], "short" => ["s<", "s>", 2], "ushort" => ["S<", "S>", 2],
               "int" => ["l<", "l>", 4], "uint" => ["L<", "L>", 4], "float" => ["e", "g", 4], "double" => ["E", "G", 8]}.freeze
      ALIAS = {"int8" => "char", "uint8" => "uchar", "int16" => "short", "uint16" => "ushort", "int32" => "int",
               "uint32" => "uint", "float32" => "float", "float64" => "double"}.freeze
      FORMATS = %w[ascii binary_little_endian binary_big_endian].freeze
      KNOWN = %w[x y z nx ny nz vx vy vz red green blue alpha s t u v texture_u texture_v].freeze
      MOST_ROWS = 12_000_000
      MOST_CORNERS = 255

      module_function

      # @param bytes [String]
      # @param name [String] for messages
      # @return [Geometry::Mesh]
      # @raise [Refused]
      def read(bytes, name: "the file")
        bytes = bytes.b
        format, elements, at = head(bytes, name)
        rows = if format == "ascii" then text_rows(bytes.byteslice(at..), elements, name)
        else
          binary_rows(bytes, at, elements, (format == "binary_big_endian") ? 1 : 0, name)
        end
        points, faces = %w[vertex face].map { |wanted| elements.index { |element| element.name == wanted } }
        unless points && faces && elements[faces].count.positive?
          raise Refused.new("#{name} holds no faces; export it again as a polygon mesh.", code: "empty_mesh")
        end

        mesh(elements[points], rows[points], elements[faces], rows[faces], name)
      end

      # @param mesh [Geometry::Mesh]; @param speeds [Kernel::Buffer, nil] f32 [n, 3], how fast each point goes, m/s
      # @return [String] binary, little end first, with colours, texture places, speeds and a number for each point
      #   where there are some
      def write(mesh, speeds = nil)
        vertices = Vertices.new(mesh)
        paint = mesh.paint && (vertices.origins ? mesh.paint.to_a.values_at(*vertices.origins) : mesh.paint.to_a)
        moves = speeds && vertices.moved(speeds).to_a.each_slice(3).to_a
        own =
          {
            %w[x y z] => true, %w[red green blue] => vertices.tints, %w[s t] => vertices.places, %w[vx vy vz] => moves,
            %w[value] => paint
          }.select { |_, there| there }
        properties =
          own.keys.flatten.map { |name| "property #{%w[red green blue].include?(name) ? "uchar" : "float"} #{name}" }
        lines = ["ply", "format binary_little_endian 1.0", "element vertex #{vertices.points.dim(0)}", *properties,
          "element face #{mesh.count}", "property list uchar int vertex_indices", "end_header"]
        rows = vertices.points.to_a.each_slice(3).with_index.map do |point, n|
          point.pack("e3") + (vertices.tints ? vertices.tints[n].map { |c| (255 * Geometry::Colours.encoded(c.clamp(0.0, 1.0))).round }.pack("C3") : "") +
            (vertices.places ? vertices.places[n].pack("e2") : "") + (moves ? moves[n].pack("e3") : "") + (paint ? [paint[n]].pack("e") : "")
        end
        "#{lines.join("\n")}\n".b + rows.join +
          vertices.triangles.to_a.each_slice(3).map { |triangle| [3, *triangle].pack("Cl<3") }.join
      end

      # @param rows [Kernel::Buffer] f32 [n, 10]: place, speed (m/s), age (s), number, kind and pressure (Pa) of each
      #   point
      # @return [String] points without faces, binary, little end first
      def points(rows)
        lines = [
          "ply", "format binary_little_endian 1.0", "element vertex #{rows.dim(0)}",
          *%w[x y z vx vy vz age id kind pressure].map { |name| "property float #{name}" }, "end_header"
        ]
        "#{lines.join("\n")}\n".b + rows.bytes
      end

      # @return [Array(String, Array<Element>, Integer)] format, what there is, and where it begins
      def head(bytes, name)
        stop = bytes.index(/^end_header[ \t]*\r?\n/n)
        unless bytes.start_with?("ply") && stop
          raise Refused.new("#{name} is not a PLY file: it begins with ply and its head ends with end_header.",
            code: "bad_mesh")
        end

        format = nil
        elements = []
        bytes.byteslice(0, stop).each_line.with_index(1) do |line, number|
          words = line.split
          case words[0]
          when "format"
            format = words[1]
          when "element"
            elements << Element.new(words[1], count(words[2], number, name), [])
          when "property"
            (elements.last || bad(line, number, name)).properties << property(words, line, number, name)
          end
        end
        unless FORMATS.include?(format)
          raise Refused.new("#{name} is written as #{Text.excerpt(format.to_s).inspect}; it can be " \
            "#{FORMATS.join(", ")}.", code: "bad_mesh")
        end

        [format, elements, bytes.index("\n", stop) + 1]
      end

      def count(word, number, name)
        count = Integer(word.to_s, 10, exception: false)
        return count if count&.between?(0, MOST_ROWS)

        raise Refused.new(
          "Line #{number} of #{name} counts #{Text.excerpt(word.to_s).inspect} things; #{MOST_ROWS} is the most.",
          code: "bad_mesh"
        )
      end

      def property(words, line, number, name)
        types = words[1..-2].reject { |word| word == "list" }.map { |word| ALIAS.fetch(word, word) }
        listed = words[1] == "list"
        bad(line, number, name) unless types.size == (listed ? 2 : 1) && types.all? { |type| TYPES.key?(type) }
        Property.new(words.last, types.last, listed ? types[0] : nil)
      end

      def bad(line, number, name)
        raise Refused.new("Line #{number} of #{name} is not a property (\"#{Text.excerpt(line)}\").", code: "bad_mesh")
      end

      def short(element, name)
        raise Refused.new(
          "#{name} ends before all of its #{element.count} rows of #{Text.excerpt(element.name)}; export it " \
            "again.",
          code: "bad_mesh"
        )
      end

      # @return [Array<Array<Array>>] for each element, its rows
      def text_rows(text, elements, name)
        lines = text.each_line
        elements.map do |element|
          Array.new(element.count) do |n|
            words = begin
              lines.next.split
            rescue StopIteration
              short(element, name)
            end
            values(words, element) ||
              raise(
                Refused.new(
                  "Row #{n + 1} of #{Text.excerpt(element.name)} in #{name} holds something else than the head says " \
                    "(\"#{Text.excerpt(words.join(" "))}\").",
                  code: "bad_mesh"
                )
              )
          end
        end
      end

      # @return [Array, nil] nil where words are missing or no numbers
      def values(words, element)
        numbers = words.map { |word| Float(word, exception: false) }
        at = 0
        row = element.properties.map do |property|
          next numbers[(at += 1) - 1] unless property.count

          length = (numbers[at]&.between?(0, MOST_CORNERS) ? numbers[at] : numbers.size).to_i
          at += 1 + length
          numbers[at - length, length]
        end
        row if at <= numbers.size && row.flatten.all? { |value| value&.finite? }
      end

      def binary_rows(bytes, at, elements, order, name)
        elements.map do |element|
          rows, at = element.lists? ? listed(bytes, at, element, order, name) : even(bytes, at, element, order, name)
          rows
        end
      end

      # Rows that are all of one length.
      def even(bytes, at, element, order, name)
        width = element.properties.sum { |property| TYPES.fetch(property.type)[2] }
        short(element, name) if bytes.bytesize < at + width * element.count
        pattern = element.properties.map { |property| TYPES.fetch(property.type)[order] }.join
        numbers = bytes.byteslice(at, width * element.count).unpack(pattern * element.count)
        [numbers.each_slice([element.properties.size, 1].max).to_a, at + width * element.count]
      end

      def listed(bytes, at, element, order, name)
        rows = Array.new(element.count) do
          element.properties.map do |property|
            length = 1
            if property.count
              length, at = one(bytes, at, property.count, order) || short(element, name)
              unless length.between?(0, MOST_CORNERS)
                raise Refused.new("A face of #{name} has #{length} corners; #{MOST_CORNERS} is the most.",
                  code: "bad_mesh")
              end
            end
            code, _, width = TYPES.fetch(property.type).values_at(order, 0, 2)
            short(element, name) if bytes.bytesize < at + width * length
            found = bytes.byteslice(at, width * length).unpack("#{code}#{length}")
            at += width * length
            property.count ? found : found[0]
          end
        end
        [rows, at]
      end

      # @return [Array(Integer, Integer), nil] a number and where the next one begins
      def one(bytes, at, type, order)
        code, _, width = TYPES.fetch(type).values_at(order, 0, 2)
        value = bytes.byteslice(at, width)&.unpack1(code)
        value && [value.to_i, at + width]
      end

      def mesh(vertex, points, face, faces, name)
        axes =
          %w[x y z].map do |axis|
            vertex.at(axis) || raise(Refused.new("The points of #{name} have no #{axis}.", code: "bad_mesh"))
          end
        corners =
          face.at("vertex_indices", "vertex_index") ||
          raise(Refused.new("The faces of #{name} have no vertex_indices.", code: "bad_mesh"))
        unless face.properties[corners].count
          raise Refused.new("The vertex_indices of #{name} are not a list.", code: "bad_mesh")
        end

        fans = fans(faces, corners, points.size, name)
        triangles = Kernel::Buffer.of(:i32, fans.flat_map(&:last), fans.size, 3)
        tints = tints(vertex, points)
        Geometry::Mesh.new(
          Points.checked(points.flat_map { |row| row.values_at(*axes) }, name), triangles,
          places: places(vertex, face, points, faces, fans), paint: paint(vertex, points, tints),
          colours: tints && Geometry::Colours.corners(triangles, tints)
        )
      end

      # Faces as triangles that fan out from their first corner: number of the face, corners in it, points.
      def fans(faces, at, count, name)
        faces.each_with_index.flat_map do |row, n|
          ring = row[at].map(&:to_i)
          if ring.size < 3
            raise Refused.new("Face #{n + 1} of #{name} has #{ring.size} corners; it needs three or more.",
              code: "bad_mesh")
          end
          wrong = ring.find { |number| !number.between?(0, count - 1) }
          if wrong
            raise Refused.new("Face #{n + 1} of #{name} uses point #{wrong}, but they go from 0 to #{count - 1}.",
              code: "bad_mesh")
          end

          (1..ring.size - 2).map { |c| [n, [0, c, c + 1], [ring[0], ring[c], ring[c + 1]]] }
        end
      end

      def tints(vertex, points)
        at = %w[red green blue].map { |colour| vertex.at(colour, "diffuse_#{colour}") }
        return if at.any?(&:nil?)

        whole = vertex.properties[at[0]].type.match?(/float|double/) ? 1.0 : 255.0
        steps = Hash.new { |known, value| known[value] = Geometry::Colours.linear((value / whole).clamp(0.0, 1.0)) }
        Kernel::Buffer.of(
          :f32, points.flat_map { |row| row.values_at(*at).map { |value| steps[value] } }, points.size, 3
        )
      end

      # The first number that a point has besides what everybody knows, from 0 to 1; else how bright it is.
      def paint(vertex, points, tints)
        own =
          vertex.properties.index do |property|
            property.count.nil? && !KNOWN.include?(property.name.delete_prefix("diffuse_"))
          end
        return tints && Geometry::Colours.brightness(tints) unless own

        values = points.map { |row| row[own].to_f }
        low, high = values.minmax
        # Shares stay as they are; anything else is spread from its least to its most.
        return Kernel::Buffer.of(:f32, values) if low >= 0.0 && high <= 1.0

        Kernel::Buffer.of(:f32, values.map { |value| (high > low) ? (value - low) / (high - low) : 1.0 })
      end

      # Texture places of corners, from the faces or the points.
      def places(vertex, face, points, faces, fans)
        own = face.at("texcoord")
        u, v = [%w[s u texture_u], %w[t v texture_v]].map { |names| vertex.at(*names) }
        rows =
          if own
            fans.map { |n, corners, _| corners.map { |c| faces[n][own].each_slice(2).to_a[c] || [0.0, 0.0] } }
          elsif u && v
            fans.map { |_, _, numbers| numbers.map { |number| points[number].values_at(u, v) } }
          end
        rows &&
          Kernel::Buffer.of(:f32, rows.flatten.map { |c| c.to_f.finite? ? c.to_f.clamp(-1e6, 1e6) : 0.0 }, fans.size, 6)
      end
      private_class_method :head,
        :count,
        :property,
        :bad,
        :short,
        :text_rows,
        :values,
        :binary_rows,
        :even,
        :listed,
        :one,
        :mesh,
        :fans,
        :tints,
        :paint,
        :places
    end
  end
end
