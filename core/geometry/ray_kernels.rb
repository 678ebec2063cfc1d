# frozen_string_literal: true

module Vumbral
  module Geometry
    # What a ray meets in a {BVH}. Directions need not have length one; distances count in them.
    module RayKernels
      extend Kernel::Library

      # Where a ray enters a node's box, or 1e30. The ray has one over each part of its direction.
      kernel boxes: F32[2], n: I32, ray: Geometry::Ray, most: F32, returns: F32
      def enter(boxes, n, ray, most)
        ax = (boxes[n, 0] - ray.ox) * ray.dx
        bx = (boxes[n, 3] - ray.ox) * ray.dx
        ay = (boxes[n, 1] - ray.oy) * ray.dy
        by = (boxes[n, 4] - ray.oy) * ray.dy
        az = (boxes[n, 2] - ray.oz) * ray.dz
        bz = (boxes[n, 5] - ray.oz) * ray.dz
        first = [[ax, bx].min, [ay, by].min, [az, bz].min, 0.0].max
        last = [[ax, bx].max, [ay, by].max, [az, bz].max, most].min
        # An empty node's box is inside out, and nothing enters it.
        first <= last && boxes[n, 0] <= boxes[n, 3] ? first : 1e30
      end

      # Distance to a triangle, or 1e30 (Möller & Trumbore 1997), and where on it.
      kernel c: F32[2], t: I32, ray: Geometry::Ray, returns: [F32, F32, F32]
      def meet(c, t, ray)
        ux = c[t, 3] - c[t, 0]
        uy = c[t, 4] - c[t, 1]
        uz = c[t, 5] - c[t, 2]
        vx = c[t, 6] - c[t, 0]
        vy = c[t, 7] - c[t, 1]
        vz = c[t, 8] - c[t, 2]
        px = ray.dy * vz - ray.dz * vy
        py = ray.dz * vx - ray.dx * vz
        pz = ray.dx * vy - ray.dy * vx
        det = ux * px + uy * py + uz * pz
        distance = 1e30
        b = 0.0
        g = 0.0
        if det.abs > 1e-20
          inverse = 1.0 / det
          sx = ray.ox - c[t, 0]
          sy = ray.oy - c[t, 1]
          sz = ray.oz - c[t, 2]
          b = (sx * px + sy * py + sz * pz) * inverse
          qx = sy * uz - sz * uy
          qy = sz * ux - sx * uz
          qz = sx * uy - sy * ux
          g = (ray.dx * qx + ray.dy * qy + ray.dz * qz) * inverse
          far = (vx * qx + vy * qy + vz * qz) * inverse
          distance = b >= 0.0 && g >= 0.0 && b + g <= 1.0 && far > 0.0 ? far : 1e30
        end
        return distance, b, g
      end

      # One over a direction's part, without dividing by nothing.
      kernel d: F32, returns: F32
      def inverse(d)
        d.abs > 1e-12 ? 1.0 / d : (d < 0.0 ? -1e12 : 1e12)
      end

      # The first triangle within `most`: distance (1e30 for none), number in the tree's order,
      # and place on it.
      kernel corners: F32[2], boxes: F32[2], ray: Geometry::Ray, most: F32, returns: [F32, I32, F32, F32]
      def first_hit(corners, boxes, ray, most)
        stack = local_i32(64)
        leaves = (boxes.dim(0) + 1) / 2
        ix = inverse(ray.dx)
        iy = inverse(ray.dy)
        iz = inverse(ray.dz)
        best = most
        found = -1
        fb = 0.0
        fg = 0.0
        top = 1
        stack[0] = 0
        while top > 0
          top -= 1
          node = stack[top]
          if enter(boxes, node, Ray.new(ray.ox, ray.oy, ray.oz, ix, iy, iz), best) < 1e29
            if node >= leaves - 1
              start = 4 * (node - leaves + 1)
              (start...[start + 4, corners.dim(0)].min).each do |t|
                distance, b, g = meet(corners, t, ray)
                if distance < best
                  best = distance
                  found = t
                  fb = b
                  fg = g
                end
              end
            else
              left = enter(boxes, 2 * node + 1, Ray.new(ray.ox, ray.oy, ray.oz, ix, iy, iz), best)
              right = enter(boxes, 2 * node + 2, Ray.new(ray.ox, ray.oy, ray.oz, ix, iy, iz), best)
              near = left < right ? 1 : 2
              stack[top] = 2 * node + 3 - near
              stack[top + 1] = 2 * node + near
              top += 2
            end
          end
        end
        return (found >= 0 ? best : 1e30), found, fb, fg
      end

      # Does anything stand in a ray's way within `most`?
      kernel corners: F32[2], boxes: F32[2], ray: Geometry::Ray, most: F32, returns: BOOL
      def blocked(corners, boxes, ray, most)
        stack = local_i32(64)
        leaves = (boxes.dim(0) + 1) / 2
        ix = inverse(ray.dx)
        iy = inverse(ray.dy)
        iz = inverse(ray.dz)
        found = false
        top = 1
        stack[0] = 0
        while top > 0 && !found
          top -= 1
          node = stack[top]
          if enter(boxes, node, Ray.new(ray.ox, ray.oy, ray.oz, ix, iy, iz), most) < 1e29
            if node >= leaves - 1
              start = 4 * (node - leaves + 1)
              (start...[start + 4, corners.dim(0)].min).each do |t|
                distance, _, _ = meet(corners, t, ray)
                found = true if distance < most
              end
            else
              stack[top] = 2 * node + 1
              stack[top + 1] = 2 * node + 2
              top += 2
            end
          end
        end
        found
      end
    end
  end
end
