# frozen_string_literal: true

module Vumbral
  module Formats
    # One part of {GLTF}.
    module GLTF
      # The surfaces of a file's meshes as they rest, before nodes, shapes and skins move them.
      class Surfaces
        TRIANGLES, STRIP, FAN = 4, 5, 6
        MOST_TRIANGLES = Meshes::MOST_TRIANGLES
        # One surface: its mesh, what its other shapes differ by (f32 [shapes, 3n]), and which joints hold each
        # point how strongly.
        Surface = Struct.new(:mesh, :deltas, :joints, :weights)

        # @param container [Container]; @param accessors [Accessors]
        def initialize(container, accessors)
          @container = container
          @accessors = accessors
          @left_out = Hash.new(0)
          @textures = 0
        end

        # How many lines and points there were, which nothing can come from; how many surfaces have textures.
        attr_reader :left_out, :textures

        # @param n [Integer] number of a mesh
        # @return [Array<Surface>]
        def of(n)
          (@surfaces ||= {})[n] ||= @container
            .one("meshes", n, "mesh")
            .fetch("primitives")
            .filter_map { |row| surface(row) }
        end

        # Weights of a mesh's other shapes as it rests.
        def weights(n) = @container.one("meshes", n, "mesh")["weights"]

        private

        def surface(row)
          mode = row.fetch("mode", TRIANGLES)
          unless [TRIANGLES, STRIP, FAN].include?(mode)
            @left_out[(mode == 0) ? "points" : "lines"] += 1
            return
          end
          attributes = row.fetch("attributes")
          return unless attributes["POSITION"]

          points = Points.within(@accessors.floats(attributes["POSITION"], 3), @container.name)
          triangles = triangles(row["indices"], mode, points.dim(0))
          return if triangles.dim(0).zero?

          mesh = Geometry::Mesh.new(points, triangles, nil, places: places(attributes, triangles),
            colours: colours(row, attributes, triangles))
          Surface.new(mesh, deltas(row.fetch("targets", []), points), *skin(attributes, points.dim(0)))
        end

        def triangles(index, mode, count)
          numbers = index ? @accessors.numbers(index, width: 1) : (0...count).to_a
          wrong = numbers.find { |n| !n.is_a?(Integer) || n >= count }
          @container.bad("has a face that uses point #{wrong}, but there are #{count}") if wrong
          rows = case mode
          when TRIANGLES then numbers.each_slice(3).to_a.tap { |all| all.pop if all.last && all.last.size < 3 }
          when STRIP then numbers.each_cons(3).with_index.map { |(a, b, c), n| n.even? ? [a, b, c] : [b, a, c] }
          else numbers.drop(1).each_cons(2).map { |b, c| [numbers[0], b, c] }
          end
          if rows.size > MOST_TRIANGLES
            @container.bad("has a surface of #{rows.size} triangles; #{MOST_TRIANGLES} is the most")
          end
          Kernel::Buffer.of(:i32, rows.flatten, rows.size, 3)
        end

        # Of every corner; a picture's first row is on top there.
        def places(attributes, triangles)
          n = attributes["TEXCOORD_0"] or return

          rows =
            @accessors
              .numbers(n, width: 2)
              .each_slice(2)
              .map { |u, v| [u, 1.0 - v].map { |c| c.to_f.finite? ? c.to_f : 0.0 } }
          Kernel::Buffer.of(:f32, triangles.to_a.flat_map { |corner| rows.fetch(corner) }, triangles.dim(0), 6)
        end

        # The material's colour times the points'.
        def colours(row, attributes, triangles)
          material = row["material"] ? @container.one("materials", row["material"], "material") : {}
          paint = material.fetch("pbrMetallicRoughness", {})
          @textures += 1 if paint["baseColorTexture"]
          factor = paint.fetch("baseColorFactor", [1.0] * 4).first(3).map(&:to_f)
          return unless row["material"] || attributes["COLOR_0"]
          unless attributes["COLOR_0"]
            return Geometry::Colours.runs([[0, factor.map { |c| c.clamp(0.0, 1.0) }]], triangles.dim(0))
          end

          values = @accessors.numbers(attributes["COLOR_0"])
          width = values.size / @accessors.count(attributes["COLOR_0"])
          tints =
            values
              .each_slice(width)
              .flat_map { |colour| colour.first(3).zip(factor).map { |c, f| (c * f).clamp(0.0, 1.0) } }
          Geometry::Colours.corners(triangles, Kernel::Buffer.of(:f32, tints, tints.size / 3, 3))
        end

        def deltas(targets, points)
          return if targets.empty?

          count = points.dim(0)
          bytes = targets.map do |target|
            next "\0" * (12 * count) unless target["POSITION"]

            delta = @accessors.floats(target["POSITION"], 3)
            unless delta.dim(0) == count
              @container.bad("has a shape of #{delta.dim(0)} points where #{count} are wanted")
            end
            delta.bytes
          end
          Kernel::Buffer.new(:f32, targets.size, 3 * count, bytes: bytes.join)
        end

        # Four joints a point, or eight and more.
        def skin(attributes, count)
          sets = (0..).take_while { |n| attributes["JOINTS_#{n}"] && attributes["WEIGHTS_#{n}"] }
          return [nil, nil] if sets.empty?

          joints, weights =
            %w[JOINTS WEIGHTS].map do |name|
              sets
                .map { |n| @accessors.numbers(attributes["#{name}_#{n}"], width: 4).each_slice(4).to_a }
                .transpose
                .map(&:flatten)
            end
          unless joints.size == count && weights.size == count
            @container.bad("has joints for #{joints.size} points of #{count}")
          end
          # Held by all of them together once.
          weights = weights.map { |row| row.sum.then { |sum| (sum > 0.0) ? row.map { |w| w / sum } : row } }
          [
            Kernel::Buffer.of(:i32, joints.flatten, count, 4 * sets.size),
            Kernel::Buffer.of(:f32, weights.flatten, count, 4 * sets.size)
          ]
        end
      end
    end
  end
end
