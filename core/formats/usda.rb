# frozen_string_literal: true

module Vumbral
  module Formats
    # A scene as USD text (Universal Scene Description, .usda): metres, y up, one time code for each frame. Volumes
    # refer to OpenVDB files beside it.
    class USDA
      # What is written of lengths of a lens: they are tenths of the scene's unit there, ours are millimetres.
      TENTH = 0.01
      SENSOR = 36.0
      # The grids of a volume's files that are named.
      GRIDS = %w[density temperature].freeze

      # @param name [String] of the shot; @param frames [Array<Integer>]; @param rate [Float] frames a second
      def initialize(name, frames, rate)
        @name, @frames, @rate = name, frames, rate
        @parts = []
        @names = {}
      end

      # @param places [Array<Hash>] "position", "target", perhaps "roll" (degrees), "focal" (mm, on film 36 mm wide),
      #   perhaps "film" (mm), "aperture" and "focus" (m) at each frame
      # @param shape [Float] width of the picture over its height
      def camera(places, shape)
        film = places[0].fetch("film", SENSOR)
        add(
          "Camera",
          "Camera",
          [
            moved(places.map { |place| facing(place["position"], place["target"], place["roll"].to_f) }),
            *course("float focalLength", places.map { |place| number(place["focal"] * film / SENSOR * TENTH) }),
            "float horizontalAperture = #{number(film * TENTH)}",
            "float verticalAperture = #{number(film / shape * TENTH)}",
            *course("float fStop", places.map { |place| number(place["aperture"]) }),
            *course("float focusDistance", places.map { |place| number(place["focus"]) }),
            "float2 clippingRange = (0.01, 100000)"
          ]
        )
      end

      # One that keeps its triangles. @param track [Geometry::Standing::Track]
      def prop(track)
        points = [track.mesh.points, *track.shapes].map { |buffer| places(buffer) }
        shown = track.poses.map { |pose| pose.scale.max > 1e-5 }
        add(
          "Mesh",
          track.name,
          [
            moved(
              track
                .poses
                .zip(shown)
                .map { |pose, here| rows((here ? pose : track.poses[shown.index(true) || 0]).transform.rows) }
            ),
            "int[] faceVertexCounts = [#{(["3"] * track.mesh.count).join(", ")}]",
            "int[] faceVertexIndices = [#{track.mesh.triangles.to_a.join(", ")}]",
            *course("point3f[] points", points),
            "color3f[] primvars:displayColor = [#{tuple(track.colour)}]",
            "uniform token subdivisionScheme = \"none\"",
            *(
              if shown.all?
                []
              else
                course("token visibility", shown.map { |here| here ? "\"inherited\"" : "\"invisible\"" })
              end
            )
          ]
        )
      end

      # One whose triangles change. @param meshes [Array<Geometry::Mesh, nil>] in the world, at each frame
      def changing(name, meshes, colour)
        add(
          "Mesh",
          name,
          [
            *course("int[] faceVertexCounts", meshes.map { |mesh| "[#{(["3"] * mesh&.count.to_i).join(", ")}]" }),
            *course("int[] faceVertexIndices", meshes.map { |mesh| "[#{mesh&.triangles.to_a.join(", ")}]" }),
            *course("point3f[] points", meshes.map { |mesh| mesh ? places(mesh.points) : "[]" }),
            "color3f[] primvars:displayColor = [#{tuple(colour)}]", "uniform token subdivisionScheme = \"none\""
          ]
        )
      end

      # @param kind [String] "sun", "point", "spot" or "area"
      # @param rows [Array<Hash>] at each frame: "position", "way" (where it shines to), "light" (red, green, blue: what
      #   falls on a place a metre away, or of a sun on all), "size" (m; of a sun degrees), "cone" (degrees), "wide" and
      #   "high" (m)
      def lamp(name, kind, rows)
        first = rows[0]
        type = {"sun" => "DistantLight", "area" => "RectLight"}.fetch(kind, "SphereLight")
        radius = [first["size"], 0.01].max
        area = (kind == "area") ? first["wide"] * first["high"] : Math::PI * radius * radius
        bright = rows.map { |row| row["light"].max }
        lines = [
          moved(rows.map { |row| facing(row["position"], row["position"].zip(row["way"]).map(&:sum)) }),
          *course("float inputs:intensity", bright.map { |light| number((kind == "sun") ? light : light / area) }),
          *course(
            "color3f inputs:color",
            rows.zip(bright).map { |row, most| tuple(row["light"].map { |c| most.positive? ? c / most : 1.0 }) }
          )
        ]
        lines +=
          case kind
          when "sun"
            ["float inputs:angle = #{number(first["size"])}", "bool inputs:normalize = 1"]
          when "area"
            ["float inputs:width = #{number(first["wide"])}", "float inputs:height = #{number(first["high"])}"]
          else
            ["float inputs:radius = #{number(radius)}"]
          end
        lines += [*course("float inputs:shaping:cone:angle", rows.map { |row| number(row["cone"] / 2.0) })] if kind ==
          "spot"
        add(type, name, lines, (kind == "spot") ? "prepend apiSchemas = [\"ShapingAPI\"]" : nil)
      end

      # The sky's light. @param rows [Array<Array(Array<Float>, Float)>] colour and strength at each frame
      def sky(rows) =
        add(
          "DomeLight",
          "Sky",
          [
            *course("float inputs:intensity", rows.map { |_, strength| number(strength) }),
            *course("color3f inputs:color", rows.map { |colour, _| tuple(colour) })
          ]
        )

      # Particles. @param rows [Array<Kernel::Buffer>] at each frame, f32 [n, m]: place, speed (m/s) and `wide` at that
      # column (m)
      # @param ids [Integer] the column of their numbers
      def points(name, rows, wide:, ids:)
        columns = ->(first, count) do
          rows.map { |buffer| buffer.to_a.each_slice(buffer.dim(1)).map { |row| row[first, count] } }
        end
        add(
          "Points",
          name,
          [
            *course("point3f[] points", columns[0, 3].map { |all| list(all) }),
            *course("vector3f[] velocities", columns[3, 3].map { |all| list(all) }),
            *course(
              "float[] widths", columns[wide, 1].map { |all| "[#{all.map { |row| number(row[0]) }.join(", ")}]" }
            ),
            *course("int64[] ids", columns[ids, 1].map { |all| "[#{all.map { |row| row[0].round }.join(", ")}]" })
          ]
        )
      end

      # @param files [Hash{Integer => String}] names of OpenVDB files beside the scene, by frame
      def volume(name, files)
        own = unused(name)
        grids =
          GRIDS.map do |grid|
            "        def OpenVDBAsset \"#{grid}\"\n        {\n            token fieldName = \"#{grid}\"\n           " \
              " asset filePath.timeSamples = { #{files.map { |frame, file| "#{frame}: @./#{file}@" }.join(", ")} " \
              "}\n        }"
          end
        @parts << "    def Volume \"#{own}\"\n    " \
          "{\n#{GRIDS.map { |grid| "        rel field:#{grid} = </World/#{own}/#{grid}>" }.join("\n")}\n#{grids.join("\n")}\n    }"
      end

      # @return [String]
      def text
        "#usda 1.0\n(\n    defaultPrim = \"World\"\n    doc = \"#{@name.gsub(/["\\\n]/, " ")}, made by Vumbral\"\n   " \
          " metersPerUnit = 1\n    upAxis = \"Y\"\n    startTimeCode = #{@frames.first}\n    endTimeCode = " \
            "#{@frames.last}\n" \
          "    timeCodesPerSecond = #{number(@rate)}\n    framesPerSecond = #{number(@rate)}\n)\n\ndef Xform " \
            "\"World\"\n{\n#{@parts.join("\n\n")}\n}\n"
      end

      private

      def add(type, name, lines, head = nil)
        head &&= " (\n        #{head}\n    )"
        @parts << "    def #{type} \"#{unused(name)}\"#{head}\n    " \
          "{\n#{lines.flatten.compact.map { |line| "        #{line}" }.join("\n")}\n    }"
      end

      # Letters, digits and underscores, and each once.
      def unused(name)
        plain =
          name
            .gsub(/[^A-Za-z0-9_]+/, "_")
            .gsub(/\A_+|_+\z/, "")
            .then { |word| word.match?(/\A[A-Za-z]/) ? word : "Thing_#{word}" }
        @names[plain] = @names.fetch(plain, 0) + 1
        (@names[plain] == 1) ? plain : "#{plain}_#{@names[plain]}"
      end

      # One value where it stays, or one for each frame.
      def course(what, values)
        return ["#{what} = #{values[0]}"] if values.uniq.size == 1

        ["#{what}.timeSamples = { #{@frames.zip(values).map { |frame, value| "#{frame}: #{value}" }.join(", ")} }"]
      end

      def moved(matrices)
        [
          *course(
            "matrix4d xformOp:transform", matrices.map { |matrix| "( #{matrix.map { |row| tuple(row) }.join(", ")} )" }
          ),
          "uniform token[] xformOpOrder = [\"xformOp:transform\"]"
        ]
      end

      # Four rows with the place in the last one, from three with the place in the last column.
      def rows(transform) = transform.transpose.zip([0.0, 0.0, 0.0, 1.0]).map { |row, last| row + [last] }

      # One that looks along its own -z, and leans to the right by degrees.
      def facing(position, target, roll = 0.0)
        ahead = unit(target.zip(position).map { |a, b| a - b }, [0.0, 0.0, -1.0])
        level = unit(cross(ahead, [0.0, 1.0, 0.0]), [1.0, 0.0, 0.0])
        c, s = Math.cos(roll * Math::PI / 180.0), Math.sin(roll * Math::PI / 180.0)
        right, up = level.zip(cross(level, ahead)).map { |a, b| [c * a - s * b, c * b + s * a] }.transpose
        [right + [0.0], up + [0.0], ahead.map { |c| -c } + [0.0], position + [1.0]]
      end

      def unit(vector, otherwise) =
        Math
          .sqrt(vector.sum { |c| c * c })
          .then { |length| (length < 1e-9) ? otherwise : vector.map { |c| c / length } }

      def cross(a, b) = [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]]

      def places(buffer) = "[#{buffer.to_a.each_slice(3).map { |point| tuple(point) }.join(", ")}]"

      def list(tuples) = "[#{tuples.map { |one| tuple(one) }.join(", ")}]"

      def tuple(numbers) = "(#{numbers.map { |n| number(n) }.join(", ")})"

      # Without an exponent, which not every reader takes.
      def number(value) =
        format("%.6f", value).sub(/\.?0+\z/, "").then { |text| (text == "-0" || text.empty?) ? "0" : text }
    end
  end
end
