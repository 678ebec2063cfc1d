# frozen_string_literal: true

module Vumbral
  module Geometry
    # One part of {Operations}.
    module Operations
      # Many of the same shape as one: in a grid, in a box, or over the surface of another prop. Every copy's chances
      # are its own, so that more of them leave those that were there where they are.
      module Copies
        module_function

        # @return [Mesh]
        def call(mesh, row, meshes)
          Operations.check(mesh.count * count(row), row, "take fewer copies")
          places = places(row, meshes)
          return Mesh.from([], []) if places.empty?

          Mesh.joined(places.map { |transform| mesh.transformed(transform) }).named(mesh.parts[0].name)
        end

        def count(row) = (row["spread"] == "grid") ? row["counts"].map { |n| [n.round, 1].max }.reduce(:*) : row["number"]

        # @return [Array<Transform>]
        def places(row, meshes)
          case row["spread"]
          when "grid" then grid(row)
          when "box" then Array.new(row["number"]) { |n| chance(row, n, 1).then { |random| placed(row, n, row["room"].map { |side| (random.rand - 0.5) * side }, [0.0, 1.0, 0.0]) } }
          else surface(row, meshes)
          end
        end

        def grid(row)
          counts = row["counts"].map { |n| [n.round, 1].max }
          cells = counts.map { |n| (0...n).to_a }.reduce([[]]) { |all, axis| all.flat_map { |cell| axis.map { |n| cell + [n] } } }
          cells.each_with_index.map do |cell, n|
            random = chance(row, n, 1)
            at = cell.each_with_index.map { |c, axis| (c - 0.5 * (counts[axis] - 1)) * row["step"][axis] + row["loose"][axis] * random.rand(-1.0..1.0) }
            placed(row, n, at, [0.0, 1.0, 0.0])
          end
        end

        # Even over the other's triangles, standing off it.
        def surface(row, meshes)
          return [] unless row["other"]

          other = Shapes.build(row["other"]["outline"], meshes, row["other"]["at"]).transformed(Transform.new(row["other"]["rows"]))
          points = other.points.to_a.each_slice(3).to_a
          corners = other.triangles.to_a.each_slice(3).map { |triangle| triangle.map { |n| points[n] } }
          sum = 0.0
          sums = corners.map { |a, b, c| sum += 0.5 * length(cross(a, b, c)) }
          Array.new(row["number"]) do |n|
            random = chance(row, n, 1)
            a, b, c = corners[sums.bsearch_index { |upto| upto >= random.rand * sum } || -1]
            r, s = random.rand, random.rand
            r, s = 1.0 - r, 1.0 - s if r + s > 1.0
            normal = cross(a, b, c).then { |way| length(way).then { |long| long.positive? ? way.map { |x| x / long } : [0.0, 1.0, 0.0] } }
            placed(row, n, 3.times.map { |i| a[i] + r * (b[i] - a[i]) + s * (c[i] - a[i]) }, row["upright"] ? [0.0, 1.0, 0.0] : normal)
          end
        end

        # One copy: turned about its own upright, tilted so that this points along a way, and of its own size.
        def placed(row, n, at, up)
          random = chance(row, n)
          turn = random.rand(-1.0..1.0) * row["turn_vary"]
          size = 1.0 + random.rand(-1.0..1.0) * row["size_vary"]
          Transform.place(position: at) * leaning(up) * Transform.place(turn: [0.0, turn, 0.0], scale: [[size, 0.01].max] * 3)
        end

        # From upright to a way, by the shortest turn.
        def leaning((x, y, z))
          return Transform.place(turn: [180.0, 0.0, 0.0]) if y < -0.999999

          k = 1.0 / (1.0 + y)
          Transform.new([[1.0 - k * x * x, x, -k * x * z, 0.0], [-x, y, -z, 0.0], [-k * x * z, z, 1.0 - k * z * z, 0.0]])
        end

        def chance(row, n, which = 0) = Random.new(row["seed"] * 104_729 + n * 7919 + which * 31)

        def cross(a, b, c)
          u, v = b.zip(a).map { |p, q| p - q }, c.zip(a).map { |p, q| p - q }
          [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
        end

        def length(way) = Math.sqrt(way.sum { |c| c * c })
        private_class_method :count, :places, :grid, :surface, :placed, :leaning, :chance, :cross, :length
      end
    end
  end
end
