# frozen_string_literal: true

module Vumbral
  module Geometry
    # Values that lie on a mesh's surface, read at places in space.
    module MapKernels
      extend Kernel::Library

      # How much each corner of a triangle counts at the place on its plane nearest to a point.
      kernel c: F32[2], t: I32, x: F32, y: F32, z: F32, returns: [F32, F32, F32]
      def shares(c, t, x, y, z)
        ux = c[t, 3] - c[t, 0]
        uy = c[t, 4] - c[t, 1]
        uz = c[t, 5] - c[t, 2]
        vx = c[t, 6] - c[t, 0]
        vy = c[t, 7] - c[t, 1]
        vz = c[t, 8] - c[t, 2]
        wx = x - c[t, 0]
        wy = y - c[t, 1]
        wz = z - c[t, 2]
        uu = ux * ux + uy * uy + uz * uz
        uv = ux * vx + uy * vy + uz * vz
        vv = vx * vx + vy * vy + vz * vz
        wu = wx * ux + wy * uy + wz * uz
        wv = wx * vx + wy * vy + wz * vz
        below = uu * vv - uv * uv
        per = below.abs > 1e-20 ? 1.0 / below : 0.0
        b = ((vv * wu - uv * wv) * per).clamp(0.0, 1.0)
        g = ((uu * wv - uv * wu) * per).clamp(0.0, 1.0 - b)
        return 1.0 - b - g, b, g
      end

      # A picture between its pixels; it repeats, and its first row is on top.
      kernel picture: F32[2], u: F32, v: F32, returns: F32
      def pixel(picture, u, v)
        x = (u - u.floor) * picture.dim(1) - 0.5
        y = (1.0 - (v - v.floor)) * picture.dim(0) - 0.5
        i = x.floor
        j = y.floor
        fx = x - i
        fy = y - j
        i0 = i % picture.dim(1)
        i1 = (i + 1) % picture.dim(1)
        j0 = j % picture.dim(0)
        j1 = (j + 1) % picture.dim(0)
        a = picture[j0, i0] + fx * (picture[j0, i1] - picture[j0, i0])
        b = picture[j1, i0] + fx * (picture[j1, i1] - picture[j1, i0])
        a + fy * (b - a)
      end

      # Thins a cover in a region by what the surface nearest to each cell says. `m` as in
      # {BVHKernels#signed_distance}.
      kernel cover: F32[3], tree: Geometry::Tree, map: Geometry::SurfaceMap, m: F32[1], most: F32,
        lattice: Grid::Lattice, region: Grid::Region
      def thin(cover, tree, map, m, most, lattice, region)
        parallel(region.k1 - region.k0, uneven: true) do |n|
          k = region.k0 + n
          c = lattice.z + k * lattice.voxel
          (region.j0...region.j1).each do |j|
            b = lattice.y + j * lattice.voxel
            (region.i0...region.i1).each do |i|
              if cover[k, j, i] > 0.0
                a = lattice.x + i * lattice.voxel
                x = m[0] * a + m[1] * b + m[2] * c + m[3]
                y = m[4] * a + m[5] * b + m[6] * c + m[7]
                z = m[8] * a + m[9] * b + m[10] * c + m[11]
                _, t = BVHKernels.closest(tree.corners, tree.boxes, x, y, z, most, -1)
                if t >= 0
                  p, q, r = shares(tree.corners, t, x, y, z)
                  value = 0.0
                  if map.painted
                    value = p * map.values[t, 0] + q * map.values[t, 1] + r * map.values[t, 2]
                  else
                    value = pixel(map.picture, p * map.values[t, 0] + q * map.values[t, 2] + r * map.values[t, 4],
                      p * map.values[t, 1] + q * map.values[t, 3] + r * map.values[t, 5])
                  end
                  cover[k, j, i] = cover[k, j, i] * value.clamp(0.0, 1.0)
                end
              end
            end
          end
        end
      end

      # How fast the corners of each triangle move, in the tree's order.
      kernel out: F32[2], before: F32[2], after: F32[2], triangles: I32[2], order: I32[1], per: F32
      def speeds(out, before, after, triangles, order, per)
        parallel(order.size) do |n|
          9.times do |c|
            point = triangles[order[n], c / 3]
            out[n, c] = per * (after[point, c % 3] - before[point, c % 3])
          end
        end
      end

      # What moves at the triangle nearest to each cell, brought into the world: nothing where there is none outside,
      # and the last row of `speeds` deep inside. `m` as in {BVHKernels#signed_distance}.
      kernel field: Grid::VectorField, nearest: I32[3], corners: F32[2], speeds: F32[2], m: F32[1],
        lattice: Grid::Lattice, region: Grid::Region
      def flow(field, nearest, corners, speeds, m, lattice, region)
        parallel(region.k1 - region.k0, uneven: true) do |n|
          k = region.k0 + n
          c = lattice.z + k * lattice.voxel
          (region.j0...region.j1).each do |j|
            b = lattice.y + j * lattice.voxel
            (region.i0...region.i1).each do |i|
              u = 0.0
              v = 0.0
              w = 0.0
              t = nearest[k, j, i]
              if t >= 0
                a = lattice.x + i * lattice.voxel
                x = m[0] * a + m[1] * b + m[2] * c + m[3]
                y = m[4] * a + m[5] * b + m[6] * c + m[7]
                z = m[8] * a + m[9] * b + m[10] * c + m[11]
                p, q, r = shares(corners, t, x, y, z)
                u = p * speeds[t, 0] + q * speeds[t, 3] + r * speeds[t, 6]
                v = p * speeds[t, 1] + q * speeds[t, 4] + r * speeds[t, 7]
                w = p * speeds[t, 2] + q * speeds[t, 5] + r * speeds[t, 8]
              end
              if t == -2
                last = speeds.dim(0) - 1
                u = speeds[last, 0]
                v = speeds[last, 1]
                w = speeds[last, 2]
              end
              field.x[k, j, i] = m[0] * u + m[4] * v + m[8] * w
              field.y[k, j, i] = m[1] * u + m[5] * v + m[9] * w
              field.z[k, j, i] = m[2] * u + m[6] * v + m[10] * w
            end
          end
        end
      end

      # Brings values of triangles into the tree's order.
      kernel out: F32[2], values: F32[2], order: I32[1]
      def sort(out, values, order)
        parallel(order.size) { |n| out.dim(1).times { |c| out[n, c] = values[order[n], c] } }
      end
    end
  end
end
