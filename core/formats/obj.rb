# frozen_string_literal: true

module Vumbral
  module Formats
    # Wavefront OBJ: points, faces of any number of corners, objects and groups, texture places and
    # colours of points.
    module OBJ
      module_function

      # @param text [String]
      # @param name [String] for messages
      # @return [Geometry::Mesh]
      # @raise [Refused] with the line and what is wrong with it
      def read(text, name: "the file")
        points = []
        triangles = []
        parts = []
        paint = []
        textures = []
        places = []
        text = text.dup.force_encoding("UTF-8").scrub("?")
        # A backslash joins a line with the next.
        text = text.gsub(/\\\r?\n/, " ") if text.include?("\\")
        line = 0
        text.each_line do |row|
          line += 1
          case row
          when /\Av\s/ then point(row, points, paint, name, line)
          when /\Avt\s/ then textures << row.split.drop(1).first(2).map(&:to_f)
          when /\Af\s/ then face(row, points.size / 3, triangles, textures, places, name, line)
          when /\A[og]\s+(.+)/ then parts << Geometry::Mesh::Part.new($1.strip, triangles.size / 3, 0)
          end
        end
        raise Refused.new("#{name} holds no faces; export it again as a polygon mesh.", code: "empty_mesh") if triangles.empty?

        Geometry::Mesh.from(points, triangles, runs(parts, triangles.size / 3), places: textures.empty? ? nil : places.flatten, paint: (paint.size == points.size / 3) ? paint : nil)
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

      def point(row, points, paint, name, line)
        words = row.split("#", 2)[0].split.drop(1)
        numbers = words.first(3).map { |word| Float(word, exception: false) }
        unless numbers.size == 3 && numbers.all? { |n| n&.finite? }
          raise Refused.new("Line #{line} of #{name} is not a point (\"#{row.strip[0, 40]}\"); a point is v and three numbers.", code: "bad_mesh")
        end
        points.concat(numbers)
        # Three more numbers are a colour, whose brightness serves as a map.
        paint << words[3, 3].sum(&:to_f) / 3 if words.size >= 6
      end

      # Corners count from 1, or backwards from -1: v, v/vt, v//vn or v/vt/vn.
      def face(row, count, triangles, textures, places, name, line)
        corners = row.split("#", 2)[0].split.drop(1).map do |word|
          number = Integer(word[/\A[^\/]+/].to_s, 10, exception: false)
          at = number&.negative? ? count + number : number.to_i - 1
          unless number && at >= 0 && at < count
            raise Refused.new("Line #{line} of #{name} has a face that uses point #{word}, but there are #{count} points so far.", code: "bad_mesh")
          end
          at
        end
        if corners.size < 3
          raise Refused.new("Line #{line} of #{name} has a face with #{corners.size} corners; it needs three or more.", code: "bad_mesh")
        end
        (1..corners.size - 2).each { |i| triangles.push(corners[0], corners[i], corners[i + 1]) }
        return if textures.empty?

        at = row.split("#", 2)[0].split.drop(1).map { |word| texture(word, textures) }
        (1..corners.size - 2).each { |i| places << at[0] << at[i] << at[i + 1] }
      end

      def texture(word, textures)
        number = word[/\A[^\/]*\/(-?\d+)/, 1].to_i
        textures[number.negative? ? number : number - 1] || [0.0, 0.0]
      end

      def runs(parts, total)
        parts.unshift(Geometry::Mesh::Part.new("all", 0, 0)) if parts.empty? || parts[0].first.positive?
        parts.each_with_index { |part, i| part.count = (parts[i + 1]&.first || total) - part.first }
        parts.reject { |part| part.count.zero? }
      end
      private_class_method :point, :face, :texture, :runs
    end
  end
end
