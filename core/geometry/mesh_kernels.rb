# frozen_string_literal: true

module Vumbral
  module Geometry
    # Loops over points and triangles.
    module MeshKernels
      extend Kernel::Library

      # Each triangle the other way round.
      kernel out: I32[2], triangles: I32[2]
      def flip(out, triangles)
        parallel(triangles.dim(0)) do |n|
          out[n, 0] = triangles[n, 0]
          out[n, 1] = triangles[n, 2]
          out[n, 2] = triangles[n, 1]
        end
      end

      # The same for what lies on corners, `width` numbers for each.
      kernel out: F32[2], values: F32[2], width: I32
      def flip_values(out, values, width)
        parallel(values.dim(0)) do |n|
          width.times do |c|
            out[n, c] = values[n, c]
            out[n, width + c] = values[n, 2 * width + c]
            out[n, 2 * width + c] = values[n, width + c]
          end
        end
      end

      # Points counted from another one on.
      kernel out: I32[2], triangles: I32[2], by: I32
      def shift(out, triangles, by)
        parallel(triangles.dim(0)) { |n| 3.times { |c| out[n, c] = triangles[n, c] + by } }
      end

      # Colours of points as colours of corners.
      kernel out: F32[2], triangles: I32[2], tints: F32[2]
      def corner_colours(out, triangles, tints)
        parallel(triangles.dim(0)) { |n| 9.times { |c| out[n, c] = tints[triangles[n, c / 3], c % 3] } }
      end

      # The other way: each point as the last of its corners.
      kernel tints: F32[2], triangles: I32[2], colours: F32[2]
      def point_colours(tints, triangles, colours)
        triangles.dim(0).times { |n| 9.times { |c| tints[triangles[n, c / 3], c % 3] = colours[n, c] } }
      end

      # `m` holds twelve numbers: three rows of a transform.
      kernel dst: F32[2], src: F32[2], m: F64[1]
      def transform(dst, src, m)
        parallel(src.dim(0)) do |n|
          x = src[n, 0]
          y = src[n, 1]
          z = src[n, 2]
          dst[n, 0] = m[0] * x + m[1] * y + m[2] * z + m[3]
          dst[n, 1] = m[4] * x + m[5] * y + m[6] * z + m[7]
          dst[n, 2] = m[8] * x + m[9] * y + m[10] * z + m[11]
        end
      end

      # Twice a triangle's area vector.
      kernel points: F32[2], triangles: I32[2], n: I32, returns: [F32, F32, F32]
      def cross(points, triangles, n)
        a = triangles[n, 0]
        b = triangles[n, 1]
        c = triangles[n, 2]
        ux = points[b, 0] - points[a, 0]
        uy = points[b, 1] - points[a, 1]
        uz = points[b, 2] - points[a, 2]
        vx = points[c, 0] - points[a, 0]
        vy = points[c, 1] - points[a, 1]
        vz = points[c, 2] - points[a, 2]
        return uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx
      end

      # The lowest and highest number along an axis.
      kernel points: F32[2], axis: I32, returns: [F32, F32]
      def extent(points, axis)
        high = parallel_max(points.dim(0)) { |n| points[n, axis] }
        low = parallel_max(points.dim(0)) { |n| -points[n, axis] }
        return -low, high
      end

      # The mean of all points along an axis.
      kernel points: F32[2], axis: I32, returns: F64
      def mean(points, axis)
        total = parallel_sum(points.dim(0)) { |n| points[n, axis] }
        total / [points.dim(0), 1].max
      end

      # The largest size of any number there is; what is no number stays.
      kernel points: F32[2], returns: F64
      def farthest(points)
        most = parallel_max(points.dim(0)) do |n|
          [[points[n, 0].abs, points[n, 1].abs].max, points[n, 2].abs].max +
            0.0 * (points[n, 0] + points[n, 1] + points[n, 2])
        end
        most
      end

      kernel points: F32[2], triangles: I32[2], returns: F64
      def area(points, triangles)
        total = parallel_sum(triangles.dim(0)) do |n|
          x, y, z = cross(points, triangles, n)
          0.5 * Math.sqrt(x * x + y * y + z * z)
        end
        total
      end

      kernel points: F32[2], triangles: I32[2], returns: F64
      def volume(points, triangles)
        total = parallel_sum(triangles.dim(0)) do |n|
          x, y, z = cross(points, triangles, n)
          a = triangles[n, 0]
          (x * points[a, 0] + y * points[a, 1] + z * points[a, 2]) / 6.0
        end
        total
      end

      # How fast points go from one place to another, for each second if `per` is one over the time between.
      kernel out: F32[2], from: F32[2], to: F32[2], per: F32
      def rates(out, from, to, per)
        parallel(out.dim(0)) { |n| 3.times { |axis| out[n, axis] = per * (to[n, axis] - from[n, axis]) } }
      end

      # How fast points of a surface go along its normals to be where another surface is, by how far that is.
      kernel out: F32[2], points: F32[2], normals: F32[2], tree: Geometry::Tree, per: F32
      def towards(out, points, normals, tree, per)
        parallel(out.dim(0), uneven: true) do |n|
          far, _nearest =
            BVHKernels.closest(tree.corners, tree.boxes, points[n, 0], points[n, 1], points[n, 2], 1e6, -1)
          # What lies within the other goes outwards.
          within =
            BVHKernels.winding(tree.corners, tree.boxes, tree.far, points[n, 0], points[n, 1], points[n, 2]) > 0.5
          3.times { |axis| out[n, axis] = (within ? far : -far) * per * normals[n, axis] }
        end
      end

      # At each point the way out, by the faces around it as large as they are.
      kernel out: F32[2], points: F32[2], triangles: I32[2]
      def point_normals(out, points, triangles)
        triangles.dim(0).times do |n|
          x, y, z = cross(points, triangles, n)
          3.times do |corner|
            at = triangles[n, corner]
            out[at, 0] = out[at, 0] + x
            out[at, 1] = out[at, 1] + y
            out[at, 2] = out[at, 2] + z
          end
        end
        parallel(out.dim(0)) do |n|
          most = Math.sqrt(out[n, 0] * out[n, 0] + out[n, 1] * out[n, 1] + out[n, 2] * out[n, 2])
          3.times { |axis| out[n, axis] = most > 0.0 ? out[n, axis] / most : 0.0 }
        end
      end

      kernel normals: F32[2], points: F32[2], triangles: I32[2]
      def face_normals(normals, points, triangles)
        parallel(triangles.dim(0)) do |n|
          x, y, z = cross(points, triangles, n)
          length = Math.sqrt(x * x + y * y + z * z)
          scale = length > 0.0 ? 1.0 / length : 0.0
          normals[n, 0] = x * scale
          normals[n, 1] = y * scale
          normals[n, 2] = z * scale
        end
      end

      # For each point the triangles that use it: `members[starts[p] ... starts[p + 1]]`.
      kernel starts: I32[1], members: I32[1], triangles: I32[2]
      def gather_faces(starts, members, triangles)
        points = starts.size - 1
        triangles.dim(0).times { |n| 3.times { |c| starts[triangles[n, c]] += 1 } }
        sum = 0
        points.times do |p|
          sum += starts[p]
          starts[p] = sum
        end
        starts[points] = sum
        triangles.dim(0).times do |m|
          n = triangles.dim(0) - 1 - m
          3.times do |c|
            starts[triangles[n, c]] -= 1
            members[starts[triangles[n, c]]] = n
          end
        end
      end

      kernel out: F32[2], faces: F32[2], triangles: I32[2], starts: I32[1], members: I32[1], crease: F32
      def corner_normals(out, faces, triangles, starts, members, crease)
        parallel(triangles.dim(0)) do |n|
          3.times do |c|
            p = triangles[n, c]
            x = 0.0
            y = 0.0
            z = 0.0
            (starts[p]...starts[p + 1]).each do |m|
              f = members[m]
              if faces[f, 0] * faces[n, 0] + faces[f, 1] * faces[n, 1] + faces[f, 2] * faces[n, 2] >= crease
                x += faces[f, 0]
                y += faces[f, 1]
                z += faces[f, 2]
              end
            end
            length = Math.sqrt(x * x + y * y + z * z)
            scale = length > 0.0 ? 1.0 / length : 0.0
            out[n, 3 * c] = x * scale
            out[n, 3 * c + 1] = y * scale
            out[n, 3 * c + 2] = z * scale
          end
        end
      end

      kernel out: F32[2], points: F32[2], triangles: I32[2], normals: F32[2]
      def interleave(out, points, triangles, normals)
        parallel(triangles.dim(0)) do |n|
          3.times do |c|
            3.times do |a|
              out[3 * n + c, a] = points[triangles[n, c], a]
              out[3 * n + c, 3 + a] = normals[n, 3 * c + a]
              out[3 * n + c, 6 + a] = 1.0
            end
          end
        end
      end

      kernel out: F32[2], colours: F32[2]
      def colour(out, colours)
        parallel(colours.dim(0)) { |n| 9.times { |c| out[3 * n + c / 3, 6 + c % 3] = colours[n, c] } }
      end
    end
  end
end
