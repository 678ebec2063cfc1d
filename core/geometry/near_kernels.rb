# frozen_string_literal: true

module Vumbral
  module Geometry
    # Distances of a brick's 16³ cells to the triangles that come near it: each triangle tells those cells that it may
    # be nearest to, row by row, which is sooner done than asking a tree for each cell. A brick's `frame` f32 [12] is
    # where its first cell lies in the mesh's space, and the way to the next cell along x, y and z.
    module NearKernels
      extend Kernel::Library

      # How near a surface must come to be told so, in cells.
      REACH = 2.5
      # With more triangles than this about a brick, asking the tree is sooner done.
      MANY = 2000

      # @param far f32 [4096] takes how far each cell is, in cells; what is farther than {REACH} stays as it was
      # @return how many triangles did; more than {MANY} did not, for they are too many for this way
      kernel far: F32[1], tree: Geometry::Tree, frame: F32[1], voxel: F32, returns: I32
      def tell(far, tree, frame, voxel)
        found = local_i32(2004)
        count = gather(found, tree, frame, voxel)
        if count <= MANY
          corners = local_f32(9)
          count.times do |n|
            3.times { |c| into(corners, 3 * c, tree.corners, found[n], frame, voxel) }
            triangle(far, corners)
          end
        end
        count
      end

      # The triangles that come near a brick, as far as there is room for them. @return how many
      kernel found: I32[1], tree: Geometry::Tree, frame: F32[1], voxel: F32, returns: I32
      def gather(found, tree, frame, voxel)
        stack = local_i32(64)
        corners = local_f32(9)
        leaves = (tree.boxes.dim(0) + 1) / 2
        x = frame[0] + 7.5 * (frame[3] + frame[6] + frame[9])
        y = frame[1] + 7.5 * (frame[4] + frame[7] + frame[10])
        z = frame[2] + 7.5 * (frame[5] + frame[8] + frame[11])
        # Half a brick from corner to corner, and the reach.
        wide = (13.0 + REACH) * voxel
        count = 0
        top = 1
        stack[0] = 0
        while top > 0 && count <= MANY
          top -= 1
          node = stack[top]
          if BVHKernels.box_distance(tree.boxes, node, x, y, z) <= wide * wide
            if node >= leaves - 1
              first = 4 * (node - leaves + 1)
              (first...[first + 4, tree.corners.dim(0)].min).each do |t|
                3.times { |c| into(corners, 3 * c, tree.corners, t, frame, voxel) }
                if meets(corners)
                  found[count] = t if count <= MANY
                  count += 1
                end
              end
            else
              stack[top] = 2 * node + 1
              stack[top + 1] = 2 * node + 2
              top += 2
            end
          end
        end
        count
      end

      # A triangle's corner, counted in cells of the brick.
      kernel corners: F32[1], at: I32, from: F32[2], t: I32, frame: F32[1], voxel: F32
      def into(corners, at, from, t, frame, voxel)
        x = from[t, at] - frame[0]
        y = from[t, at + 1] - frame[1]
        z = from[t, at + 2] - frame[2]
        per = 1.0 / (voxel * voxel)
        corners[at] = per * (x * frame[3] + y * frame[4] + z * frame[5])
        corners[at + 1] = per * (x * frame[6] + y * frame[7] + z * frame[8])
        corners[at + 2] = per * (x * frame[9] + y * frame[10] + z * frame[11])
      end

      # Whether its box comes so near to the brick.
      kernel c: F32[1], returns: BOOL
      def meets(c)
        x = [c[0], c[3], c[6]].min <= 15.0 + REACH && [c[0], c[3], c[6]].max >= -REACH
        y = [c[1], c[4], c[7]].min <= 15.0 + REACH && [c[1], c[4], c[7]].max >= -REACH
        z = [c[2], c[5], c[8]].min <= 15.0 + REACH && [c[2], c[5], c[8]].max >= -REACH
        x && y && z
      end

      # Squared distances to one triangle, where they are less than before: to its plane over it, elsewhere to the
      # nearest of its edges. Without a branch, so that a row of cells is done at once.
      kernel far: F32[1], c: F32[1]
      def triangle(far, c)
        j0 = [([c[1], c[4], c[7]].min - REACH).ceil, 0].max
        j1 = [([c[1], c[4], c[7]].max + REACH).floor, 15].min
        k0 = [([c[2], c[5], c[8]].min - REACH).ceil, 0].max
        k1 = [([c[2], c[5], c[8]].max + REACH).floor, 15].min
        abx = c[3] - c[0]
        aby = c[4] - c[1]
        abz = c[5] - c[2]
        bcx = c[6] - c[3]
        bcy = c[7] - c[4]
        bcz = c[8] - c[5]
        cax = c[0] - c[6]
        cay = c[1] - c[7]
        caz = c[2] - c[8]
        nx = aby * -caz + abz * cay
        ny = abz * -cax + abx * caz
        nz = abx * -cay + aby * cax
        square = nx * nx + ny * ny + nz * nz
        ab = 1.0 / [abx * abx + aby * aby + abz * abz, 1e-20].max
        bc = 1.0 / [bcx * bcx + bcy * bcy + bcz * bcz, 1e-20].max
        ca = 1.0 / [cax * cax + cay * cay + caz * caz, 1e-20].max
        # One without area has no plane; its edges tell all.
        over = square > 1e-14 ? 1.0 / square : 1e30
        flat = square > 1e-14 ? 0.0 : -1.0
        (k0..k1).each do |k|
          (j0..j1).each do |j|
            at = 256 * k + 16 * j
            ay = j - c[1]
            az = k - c[2]
            by = j - c[4]
            bz = k - c[5]
            cy = j - c[7]
            cz = k - c[8]
            16.times do |i|
              ax = i - c[0]
              bx = i - c[3]
              cx = i - c[6]
              s = ((ax * abx + ay * aby + az * abz) * ab).clamp(0.0, 1.0)
              t = ((bx * bcx + by * bcy + bz * bcz) * bc).clamp(0.0, 1.0)
              u = ((cx * cax + cy * cay + cz * caz) * ca).clamp(0.0, 1.0)
              p = (ax - s * abx)**2 + (ay - s * aby)**2 + (az - s * abz)**2
              q = (bx - t * bcx)**2 + (by - t * bcy)**2 + (bz - t * bcz)**2
              r = (cx - u * cax)**2 + (cy - u * cay)**2 + (cz - u * caz)**2
              edge = [p, q, r].min
              # Over the plane's part within all three edges; ways out of it by cross products with the normal.
              one = ax * (aby * nz - abz * ny) + ay * (abz * nx - abx * nz) + az * (abx * ny - aby * nx)
              two = bx * (bcy * nz - bcz * ny) + by * (bcz * nx - bcx * nz) + bz * (bcx * ny - bcy * nx)
              three = cx * (cay * nz - caz * ny) + cy * (caz * nx - cax * nz) + cz * (cax * ny - cay * nx)
              high = ax * nx + ay * ny + az * nz
              best = [one, two, three].max <= flat ? high * high * over : edge
              far[at + i] = [far[at + i], best].min
            end
          end
        end
      end
    end
  end
end
