# frozen_string_literal: true

module Vumbral
  module Geometry
    # One part of {Operations}.
    module Operations
      # Makes four faces of one, and rounds the whole off (Loop 1987, with Warren's weights). Open edges are curves of
      # their own.
      module Subdivide
        module_function

        # @return [Mesh]
        def call(mesh, row, _meshes)
          Operations.check(mesh.count * 4**row["steps"], row, "take fewer steps")
          row["steps"].times.reduce(mesh) { |at, _| once(Edges.new(at), row["soft"]) }
        end

        def once(edges, soft)
          numbers = {}
          middles = edges.across.map do |key, across|
            numbers[key] = edges.count + numbers.size
            a, b = edges.ends(key).map { |n| edges.points[n] }
            next a.zip(b).map { |x, y| 0.5 * (x + y) } unless soft && across.size == 2

            c, d = across.map { |n| edges.points[n] }
            3.times.map { |i| 0.375 * (a[i] + b[i]) + 0.125 * (c[i] + d[i]) }
          end
          triangles = edges.triangles.flat_map do |a, b, c|
            ab, bc, ca = numbers[edges.key(a, b)], numbers[edges.key(b, c)], numbers[edges.key(c, a)]
            [a, ab, ca, ab, b, bc, ca, bc, c, ab, bc, ca]
          end
          points = (soft ? rounded(edges) : edges.points) + middles
          Mesh.new(
            Kernel::Buffer.of(:f32, points.flatten, points.size, 3),
            Kernel::Buffer.of(:i32, triangles, triangles.size / 3, 3), parts(edges.mesh),
            places: divided(edges.mesh.places, 2), paint: paint(edges.mesh.paint, numbers, edges),
            colours: divided(edges.mesh.colours, 3)
          )
        end

        # Where the points there were come to lie.
        def rounded(edges)
          sums = Array.new(edges.count) { [0.0, 0.0, 0.0, 0] }
          rims = Array.new(edges.count) { [0.0, 0.0, 0.0, 0] }
          edges.across.each do |key, across|
            a, b = edges.ends(key)
            [[a, b], [b, a]].each do |at, other|
              add(sums[at], edges.points[other])
              add(rims[at], edges.points[other]) if across.size != 2
            end
          end
          edges.points.each_with_index.map do |point, n|
            next 3.times.map { |c| 0.75 * point[c] + 0.25 * rims[n][c] / rims[n][3] } if rims[n][3].positive?

            valence = sums[n][3]
            next point if valence.zero?

            share = (valence == 3) ? 0.5625 : 0.375
            3.times.map { |c| (1.0 - share) * point[c] + share * sums[n][c] / valence }
          end
        end

        def add(sum, point)
          3.times { |c| sum[c] += point[c] }
          sum[3] += 1
        end

        def parts(mesh) = mesh.parts.map { |part| Mesh::Part.new(part.name, 4 * part.first, 4 * part.count) }

        # What lies on corners, halfway between them.
        def divided(values, width)
          return unless values

          rows = values.to_a.each_slice(3 * width).flat_map do |row|
            a, b, c = row.each_slice(width).to_a
            ab, bc, ca = [[a, b], [b, c], [c, a]].map { |one, two| one.zip(two).map { |x, y| 0.5 * (x + y) } }
            [a, ab, ca, ab, b, bc, ca, bc, c, ab, bc, ca]
          end
          Kernel::Buffer.of(:f32, rows.flatten, values.dim(0) * 4, 3 * width)
        end

        def paint(paint, numbers, edges)
          return unless paint

          values = paint.to_a
          Kernel::Buffer.of(:f32, values + numbers.keys.map { |key| edges.ends(key).sum { |n| 0.5 * values[n] } })
        end
        private_class_method :once, :rounded, :add, :parts, :divided, :paint
      end
    end
  end
end
