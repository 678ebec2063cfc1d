# frozen_string_literal: true

module Vumbral
  module Sculpt
    # Loops over the triangles of a surface.
    module SkinKernels
      extend Kernel::Library

      # Which points hang together: each comes to name the least of its part, and that one's area is the part's.
      kernel roots: I32[1], areas: F32[1], points: F32[2], triangles: I32[2]
      def parts(roots, areas, points, triangles)
        triangles.dim(0).times do |t|
          2.times do |c|
            a = root(roots, triangles[t, c])
            b = root(roots, triangles[t, c + 1])
            roots[[a, b].max] = [a, b].min
          end
        end
        roots.size.times { |n| roots[n] = root(roots, n) }
        triangles.dim(0).times do |t|
          a = triangles[t, 0]
          b = triangles[t, 1]
          c = triangles[t, 2]
          x = cross(points, a, b, c, 1, 2)
          y = cross(points, a, b, c, 2, 0)
          z = cross(points, a, b, c, 0, 1)
          areas[roots[a]] = areas[roots[a]] + 0.5 * Math.sqrt(x * x + y * y + z * z)
        end
      end

      kernel roots: I32[1], n: I32, returns: I32
      def root(roots, n)
        found = n
        while roots[found] != found
          roots[found] = roots[roots[found]]
          found = roots[found]
        end
        found
      end

      kernel points: F32[2], a: I32, b: I32, c: I32, p: I32, q: I32, returns: F32
      def cross(points, a, b, c, p, q)
        (points[b, p] - points[a, p]) * (points[c, q] - points[a, q]) -
          (points[b, q] - points[a, q]) * (points[c, p] - points[a, p])
      end
    end
  end
end
