# frozen_string_literal: true

module Vumbral
  module Geometry
    # Steps from place to place, and what of a mesh they cross.
    module StepKernels
      extend Kernel::Library

      # Whether a step of so far along a ray may have crossed a triangle: rather too often than too seldom, also at
      # edges.
      kernel corners: F32[2], boxes: F32[2], ray: Geometry::Ray, far: F32, returns: BOOL
      def crossed(corners, boxes, ray, far)
        stack = local_i32(64)
        leaves = (boxes.dim(0) + 1) / 2
        slack = 1e-3 * far
        ax = [ray.ox, ray.ox + far * ray.dx].min - slack
        bx = [ray.ox, ray.ox + far * ray.dx].max + slack
        ay = [ray.oy, ray.oy + far * ray.dy].min - slack
        by = [ray.oy, ray.oy + far * ray.dy].max + slack
        az = [ray.oz, ray.oz + far * ray.dz].min - slack
        bz = [ray.oz, ray.oz + far * ray.dz].max + slack
        found = false
        top = 1
        stack[0] = 0
        while top > 0 && !found
          top -= 1
          node = stack[top]
          if boxes[node, 0] <= bx && boxes[node, 3] >= ax && boxes[node, 1] <= by && boxes[node, 4] >= ay && boxes[node, 2] <= bz && boxes[node, 5] >= az
            if node >= leaves - 1
              start = 4 * (node - leaves + 1)
              (start...[start + 4, corners.dim(0)].min).each { |t| found = true if passes(corners, t, ray, far, slack) }
            else
              stack[top] = 2 * node + 1
              stack[top + 1] = 2 * node + 2
              top += 2
            end
          end
        end
        found
      end

      # Whether a step passes through one triangle, or as good as does.
      kernel c: F32[2], t: I32, ray: Geometry::Ray, far: F32, slack: F32, returns: BOOL
      def passes(c, t, ray, far, slack)
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
        size = Math.sqrt((ux * ux + uy * uy + uz * uz) * (vx * vx + vy * vy + vz * vz))
        # What lies along the step may be crossed at any of its edges.
        met = det.abs <= 1e-3 * size
        unless met
          inverse = 1.0 / det
          sx = ray.ox - c[t, 0]
          sy = ray.oy - c[t, 1]
          sz = ray.oz - c[t, 2]
          b = (sx * px + sy * py + sz * pz) * inverse
          qx = sy * uz - sz * uy
          qy = sz * ux - sx * uz
          qz = sx * uy - sy * ux
          g = (ray.dx * qx + ray.dy * qy + ray.dz * qz) * inverse
          at = (vx * qx + vy * qy + vz * qz) * inverse
          met = b >= -1e-3 && g >= -1e-3 && b + g <= 1.001 && at >= -slack && at <= far + slack
        end
        met
      end
    end
  end
end
