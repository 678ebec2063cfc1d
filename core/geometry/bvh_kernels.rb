# frozen_string_literal: true

module Vumbral
  module Geometry
    # Loops over a {BVH}. A leaf covers four triangles in the tree's order.
    module BVHKernels
      extend Kernel::Library

      kernel corners: F32[2], points: F32[2], triangles: I32[2], order: I32[1]
      def corners(corners, points, triangles, order)
        parallel(order.size) do |n|
          3.times { |c| 3.times { |a| corners[n, 3 * c + a] = points[triangles[order[n], c], a] } }
        end
      end

      # Boxes and far-field sums, from the leaves up.
      kernel boxes: F32[2], far: F32[2], corners: F32[2]
      def build(boxes, far, corners)
        nodes = boxes.dim(0)
        leaves = (nodes + 1) / 2
        count = corners.dim(0)
        parallel(leaves) do |leaf|
          node = leaves - 1 + leaf
          3.times do |a|
            boxes[node, a] = 1e30
            boxes[node, 3 + a] = -1e30
          end
          ax = 0.0
          ay = 0.0
          az = 0.0
          cx = 0.0
          cy = 0.0
          cz = 0.0
          weight = 0.0
          (4 * leaf...[4 * leaf + 4, count].min).each do |t|
            9.times do |c|
              value = corners[t, c]
              a = c % 3
              boxes[node, a] = [boxes[node, a], value].min
              boxes[node, 3 + a] = [boxes[node, 3 + a], value].max
            end
            x, y, z = area(corners, t)
            size = Math.sqrt(x * x + y * y + z * z)
            ax += x
            ay += y
            az += z
            cx += size * (corners[t, 0] + corners[t, 3] + corners[t, 6]) / 3.0
            cy += size * (corners[t, 1] + corners[t, 4] + corners[t, 7]) / 3.0
            cz += size * (corners[t, 2] + corners[t, 5] + corners[t, 8]) / 3.0
            weight += size
          end
          far[node, 0] = ax
          far[node, 1] = ay
          far[node, 2] = az
          inverse = weight > 0.0 ? 1.0 / weight : 0.0
          far[node, 3] = cx * inverse
          far[node, 4] = cy * inverse
          far[node, 5] = cz * inverse
          far[node, 6] = weight
        end
        (leaves - 2).downto(0) do |node|
          l = 2 * node + 1
          r = 2 * node + 2
          weight = far[l, 6] + far[r, 6]
          inverse = weight > 0.0 ? 1.0 / weight : 0.0
          3.times do |a|
            boxes[node, a] = [boxes[l, a], boxes[r, a]].min
            boxes[node, 3 + a] = [boxes[l, 3 + a], boxes[r, 3 + a]].max
            far[node, a] = far[l, a] + far[r, a]
            far[node, 3 + a] = (far[l, 3 + a] * far[l, 6] + far[r, 3 + a] * far[r, 6]) * inverse
          end
          far[node, 6] = weight
        end
        # The weight was needed on the way up; from here on it is the radius around the centre.
        parallel(nodes) do |node|
          reach = 0.0
          if boxes[node, 0] <= boxes[node, 3]
            x = [far[node, 3] - boxes[node, 0], boxes[node, 3] - far[node, 3]].max
            y = [far[node, 4] - boxes[node, 1], boxes[node, 4] - far[node, 4]].max
            z = [far[node, 5] - boxes[node, 2], boxes[node, 5] - far[node, 5]].max
            reach = Math.sqrt(x * x + y * y + z * z)
          end
          far[node, 6] = reach
        end
      end

      # A triangle's area vector.
      kernel corners: F32[2], t: I32, returns: [F32, F32, F32]
      def area(corners, t)
        ux = corners[t, 3] - corners[t, 0]
        uy = corners[t, 4] - corners[t, 1]
        uz = corners[t, 5] - corners[t, 2]
        vx = corners[t, 6] - corners[t, 0]
        vy = corners[t, 7] - corners[t, 1]
        vz = corners[t, 8] - corners[t, 2]
        return 0.5 * (uy * vz - uz * vy), 0.5 * (uz * vx - ux * vz), 0.5 * (ux * vy - uy * vx)
      end

      # Squared distance from a place to a node's box.
      kernel boxes: F32[2], n: I32, x: F32, y: F32, z: F32, returns: F32
      def box_distance(boxes, n, x, y, z)
        a = [boxes[n, 0] - x, 0.0, x - boxes[n, 3]].max
        b = [boxes[n, 1] - y, 0.0, y - boxes[n, 4]].max
        c = [boxes[n, 2] - z, 0.0, z - boxes[n, 5]].max
        a * a + b * b + c * c
      end

      # Squared distance to a triangle, by the region that the nearest point falls in (Ericson
      # 2005, 5.1.5).
      kernel c: F32[2], t: I32, x: F32, y: F32, z: F32, returns: F32
      def triangle_distance(c, t, x, y, z)
        abx = c[t, 3] - c[t, 0]
        aby = c[t, 4] - c[t, 1]
        abz = c[t, 5] - c[t, 2]
        acx = c[t, 6] - c[t, 0]
        acy = c[t, 7] - c[t, 1]
        acz = c[t, 8] - c[t, 2]
        apx = x - c[t, 0]
        apy = y - c[t, 1]
        apz = z - c[t, 2]
        d1 = abx * apx + aby * apy + abz * apz
        d2 = acx * apx + acy * apy + acz * apz
        bb = abx * abx + aby * aby + abz * abz
        cc = acx * acx + acy * acy + acz * acz
        bc = abx * acx + aby * acy + abz * acz
        d3 = d1 - bb
        d4 = d2 - bc
        d5 = d1 - bc
        d6 = d2 - cc
        va = d3 * d6 - d5 * d4
        vb = d5 * d2 - d1 * d6
        vc = d1 * d4 - d3 * d2
        v = 0.0
        w = 0.0
        if d1 <= 0.0 && d2 <= 0.0
          v = 0.0
        elsif d3 >= 0.0 && d4 <= d3
          v = 1.0
        elsif d6 >= 0.0 && d5 <= d6
          w = 1.0
        elsif vc <= 0.0 && d1 >= 0.0 && d3 <= 0.0
          v = d1 / (d1 - d3)
        elsif vb <= 0.0 && d2 >= 0.0 && d6 <= 0.0
          w = d2 / (d2 - d6)
        elsif va <= 0.0 && d4 - d3 >= 0.0 && d5 - d6 >= 0.0
          w = (d4 - d3) / ((d4 - d3) + (d5 - d6))
          v = 1.0 - w
        else
          sum = va + vb + vc
          v = sum != 0.0 ? vb / sum : 0.0
          w = sum != 0.0 ? vc / sum : 0.0
        end
        dx = apx - v * abx - w * acx
        dy = apy - v * aby - w * acy
        dz = apz - v * abz - w * acz
        dx * dx + dy * dy + dz * dz
      end

      # Distance to the nearest triangle, or `most` where none is as near, with its number in the tree's order; -1
      # for none. A `guess` at it, or -1, makes the search shorter.
      kernel corners: F32[2], boxes: F32[2], x: F32, y: F32, z: F32, most: F32, guess: I32, returns: [F32, I32]
      def closest(corners, boxes, x, y, z, most, guess)
        stack = local_i32(64)
        leaves = (boxes.dim(0) + 1) / 2
        best = most * most
        found = -1
        if guess >= 0
          guessed = triangle_distance(corners, guess, x, y, z)
          if guessed < best
            best = guessed
            found = guess
          end
        end
        far = local_f32(64)
        top = 1
        stack[0] = 0
        far[0] = box_distance(boxes, 0, x, y, z)
        while top > 0
          top -= 1
          node = stack[top]
          if far[top] < best
            if node >= leaves - 1
              first = 4 * (node - leaves + 1)
              (first...[first + 4, corners.dim(0)].min).each do |t|
                d = triangle_distance(corners, t, x, y, z)
                if d < best
                  best = d
                  found = t
                end
              end
            else
              a = box_distance(boxes, 2 * node + 1, x, y, z)
              b = box_distance(boxes, 2 * node + 2, x, y, z)
              # The nearer child is looked at first.
              near = a < b ? 1 : 2
              if [a, b].max < best
                stack[top] = 2 * node + 3 - near
                far[top] = [a, b].max
                top += 1
              end
              if [a, b].min < best
                stack[top] = 2 * node + near
                far[top] = [a, b].min
                top += 1
              end
            end
          end
        end
        return Math.sqrt(best), found
      end

      # Solid angle of a triangle over 4π (van Oosterom & Strackee 1983).
      kernel c: F32[2], t: I32, x: F32, y: F32, z: F32, returns: F32
      def solid_angle(c, t, x, y, z)
        ax = c[t, 0] - x
        ay = c[t, 1] - y
        az = c[t, 2] - z
        bx = c[t, 3] - x
        by = c[t, 4] - y
        bz = c[t, 5] - z
        cx = c[t, 6] - x
        cy = c[t, 7] - y
        cz = c[t, 8] - z
        la = Math.sqrt(ax * ax + ay * ay + az * az)
        lb = Math.sqrt(bx * bx + by * by + bz * bz)
        lc = Math.sqrt(cx * cx + cy * cy + cz * cz)
        top = ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx)
        bottom =
          la * lb * lc + (ax * bx + ay * by + az * bz) * lc + (bx * cx + by * cy + bz * cz) * la +
          (cx * ax + cy * ay + cz * az) * lb
        Math.atan2(top, bottom) / 6.2831853
      end

      # Generalised winding number (Jacobson et al. 2013) with far groups taken as one dipole
      # (Barill et al. 2018): about 1 inside, 0 outside, in between near holes.
      kernel corners: F32[2], boxes: F32[2], far: F32[2], x: F32, y: F32, z: F32, returns: F32
      def winding(corners, boxes, far, x, y, z)
        stack = local_i32(64)
        leaves = (boxes.dim(0) + 1) / 2
        sum = 0.0
        top = 1
        stack[0] = 0
        while top > 0
          top -= 1
          node = stack[top]
          dx = far[node, 3] - x
          dy = far[node, 4] - y
          dz = far[node, 5] - z
          square = dx * dx + dy * dy + dz * dz
          reach = 2.5 * far[node, 6]
          if square > reach * reach
            sum += (far[node,
              0] * dx + far[node, 1] * dy + far[node, 2] * dz) / (12.566371 * square * Math.sqrt(square) + 1e-20)
          elsif node >= leaves - 1
            first = 4 * (node - leaves + 1)
            (first...[first + 4, corners.dim(0)].min).each { |t| sum += solid_angle(corners, t, x, y, z) }
          else
            stack[top] = 2 * node + 1
            stack[top + 1] = 2 * node + 2
            top += 2
          end
        end
        sum
      end

      # So near a triangle, cells, that one cannot tell which side that is.
      ON = 1e-3

      # Signed distance on a part of a grid: exact within `band` of the surface, ±band beyond; negative inside. `m` f32
      # [12] leads from the world to the mesh without changing lengths. In a `closed` mesh the sign goes on from cell to
      # cell where no surface is near. `nearest` takes which triangle that is, in the tree's order;
      # beyond the band -1 outside and -2 inside.
      kernel out: F32[3], nearest: I32[3], tree: Geometry::Tree, m: F32[1], band: F32, closed: BOOL,
        lattice: Grid::Lattice, region: Grid::Region
      def signed_distance(out, nearest, tree, m, band, closed, lattice, region)
        parallel(region.k1 - region.k0, uneven: true) do |n|
          k = region.k0 + n
          c = lattice.z + k * lattice.voxel
          (region.j0...region.j1).each do |j|
            b = lattice.y + j * lattice.voxel
            before = 0.0
            last = -1
            (region.i0...region.i1).each do |i|
              a = lattice.x + i * lattice.voxel
              x = m[0] * a + m[1] * b + m[2] * c + m[3]
              y = m[4] * a + m[5] * b + m[6] * c + m[7]
              z = m[8] * a + m[9] * b + m[10] * c + m[11]
              value, last = closest(tree.corners, tree.boxes, x, y, z, band, last)
              # Nothing outside the mesh's own box is inside the mesh.
              if box_distance(tree.boxes, 0, x, y, z) <= 0.0
                # A step that ends farther than its length from every triangle crossed none; nor did one that meets
                # none, unless it began on one.
                if closed && before.abs > ON * lattice.voxel && (value > lattice.voxel ||
                    !StepKernels.crossed(tree.corners, tree.boxes, Ray.new(x - m[0] * lattice.voxel, y - m[4] * lattice.voxel, z - m[8] * lattice.voxel, m[0], m[4], m[8]), lattice.voxel))
                  value = before < 0.0 ? -value : value
                elsif winding(tree.corners, tree.boxes, tree.far, x, y, z) > 0.5
                  value = -value
                end
                before = value
              end
              out[k, j, i] = value
              nearest[k, j, i] = last < 0 && value < 0.0 ? -2 : last
            end
          end
        end
      end
    end
  end
end
