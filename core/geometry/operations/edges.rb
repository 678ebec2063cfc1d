# frozen_string_literal: true

module Vumbral
  module Geometry
    # One part of {Operations}.
    module Operations
      # Which edges the triangles of a mesh have, and who borders on whom. Points in the same place are one.
      class Edges
        attr_reader :mesh, :triangles, :points, :count

        # @param mesh [Mesh]
        def initialize(mesh)
          @mesh = Welding.welded(mesh)
          @triangles = @mesh.triangles.to_a.each_slice(3).to_a
          @points = @mesh.points.to_a.each_slice(3).to_a
          @count = @points.size
        end

        # @return [Hash{Integer => Array<Integer>}] of each edge (its lower point times the count, plus the higher) the
        #   points across from it, one for each triangle
        def across
          @across ||= @triangles.each_with_object({}) do |(a, b, c), all|
            (all[key(a, b)] ||= []) << c
            (all[key(b, c)] ||= []) << a
            (all[key(c, a)] ||= []) << b
          end
        end

        def key(a, b) = (a < b) ? a * @count + b : b * @count + a

        def ends(key) = key.divmod(@count)

        # @return [Array<Array<Integer>>] edges with a triangle on one side only, as that goes along them
        def open
          @open ||= begin
            there = @triangles.flat_map { |a, b, c| [[a, b], [b, c], [c, a]] }.tally
            there.flat_map { |(a, b), times| [[a, b]] * [times - there.fetch([b, a], 0), 0].max }
          end
        end

        # @return [Array<Array<Integer>>] the open edges in rings, each point once
        def rings
          onwards = open.group_by(&:first).transform_values { |edges| edges.map(&:last) }
          rings = []
          until onwards.empty?
            start = onwards.keys.first
            ring = [start]
            while (following = take(onwards, ring.last)) && following != start
              ring << following
            end
            rings << ring if ring.size > 2
          end
          rings
        end

        # Neighbours of each point, as kernels take them: where each one's begin, and all of them.
        # @return [Array(Kernel::Buffer, Kernel::Buffer)]
        def neighbours
          lists = Array.new(@count) { [] }
          across.each_key do |key|
            a, b = ends(key)
            lists[a] << b
            lists[b] << a
          end
          starts = lists.reduce([0]) { |all, list| all << all.last + list.size }
          [Kernel::Buffer.of(:i32, starts), Kernel::Buffer.of(:i32, lists.flatten)]
        end

        # @return [Array<Array<Float>>] a unit normal for each point, by the angle that faces have there
        def normals
          sums = Array.new(@count) { [0.0, 0.0, 0.0] }
          @triangles.each do |triangle|
            3.times do |n|
              at, one, two = triangle.rotate(n).map { |p| @points[p] }
              u, v = one.zip(at).map { |x, y| x - y }, two.zip(at).map { |x, y| x - y }
              across = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
              long, wide = Math.sqrt(across.sum { |c| c * c }), Math.sqrt(u.sum { |c| c * c } * v.sum { |c| c * c })
              next if long.zero?

              angle = Math.atan2(long, u.zip(v).sum { |x, y| x * y })
              sum = sums[triangle[n]]
              3.times { |c| sum[c] += angle * across[c] / long } if wide.positive?
            end
          end
          sums.map do |sum|
            Math
              .sqrt(sum.sum { |c| c * c })
              .then { |length| length.positive? ? sum.map { |c| c / length } : [0.0, 1.0, 0.0] }
          end
        end

        private

        def take(onwards, from)
          list = onwards[from] or return

          list.shift.tap { onwards.delete(from) if list.empty? }
        end
      end
    end
  end
end
