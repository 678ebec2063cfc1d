# frozen_string_literal: true

module Vumbral
  module Light
    # What comes from a lamp. One is a row of `lamps` f32 [n, {Lamps::WIDTH}]: 0 for a sun, less for one so wide (half
    # of it, as a tangent), 1 for a point, more for a ball of that radius (m) above 1; the direction to the sun or the
    # lamp's place; red, green, blue; 1 if it casts shadows; kind ({Lamps::KINDS}), the way it shines, where a cone ends
    # and begins to fade (cosines) or half the sizes of a sheet, the way across; power of falloff; what it lights; 1
    # where a slide stands in its cone, whose values follow.
    module LampKernels
      extend Kernel::Library

      SIZE, PLACE, RED, SHADES, KIND, WAY, EDGE, ACROSS, POWER, LIGHTS = 0, 1, 4, 7, 8, 9, 12, 14, 17, 18
      # Where slides begin, and their sides.
      SLIDE, SIDE = 20, 64

      # Direction and distance from a place to a lamp, and how much nearness and the lamp's own way count.
      kernel lamps: F32[2], n: I32, x: F32, y: F32, z: F32, returns: [F32, F32, F32, F32, F32]
      def towards(lamps, n, x, y, z)
        dx = lamps[n, 1]
        dy = lamps[n, 2]
        dz = lamps[n, 3]
        distance = 1e9
        gain = 1.0
        if lamps[n, SIZE] > 0.5
          dx -= x
          dy -= y
          dz -= z
          distance = [Math.sqrt(dx * dx + dy * dy + dz * dz), 0.02].max
          dx /= distance
          dy /= distance
          dz /= distance
          # A lamp with a size is never nearer than that.
          size = lamps[n, SIZE] - 1.0
          square = distance * distance + size * size
          gain = 1.0 / square
          gain = lamps[n, POWER] > 0.5 ? 1.0 / Math.sqrt(square) : 1.0 if lamps[n, POWER] < 1.5
          gain *= ahead(lamps, n, dx, dy, dz) if lamps[n, KIND] > 0.5
        end
        return dx, dy, dz, distance, gain
      end

      # How much of its light a cone or a sheet sends along a direction (towards the lamp).
      kernel lamps: F32[2], n: I32, dx: F32, dy: F32, dz: F32, returns: F32
      def ahead(lamps, n, dx, dy, dz)
        cosine = -(dx * lamps[n, WAY] + dy * lamps[n, WAY + 1] + dz * lamps[n, WAY + 2])
        share = [cosine, 0.0].max
        if lamps[n, KIND] < 1.5
          s = ((cosine - lamps[n, EDGE]) / (lamps[n, EDGE + 1] - lamps[n, EDGE])).clamp(0.0, 1.0)
          share = s * s * (3.0 - 2.0 * s)
          share *= slide(lamps, n, dx, dy, dz, cosine) if lamps.dim(1) > SLIDE && share > 0.0 && lamps[n, SLIDE - 1] > 0.5
        end
        share
      end

      # How much a slide lets through that just fills the cone. The direction is that towards the lamp.
      kernel lamps: F32[2], n: I32, dx: F32, dy: F32, dz: F32, cosine: F32, returns: F32
      def slide(lamps, n, dx, dy, dz, cosine)
        ux = lamps[n, WAY + 1] * lamps[n, ACROSS + 2] - lamps[n, WAY + 2] * lamps[n, ACROSS + 1]
        uy = lamps[n, WAY + 2] * lamps[n, ACROSS] - lamps[n, WAY] * lamps[n, ACROSS + 2]
        uz = lamps[n, WAY] * lamps[n, ACROSS + 1] - lamps[n, WAY + 1] * lamps[n, ACROSS]
        per = 0.5 * lamps[n, EDGE] / (Math.sqrt([1.0 - lamps[n, EDGE] * lamps[n, EDGE], 1e-9].max) * [cosine, 1e-4].max)
        x = (0.5 + per * (dx * lamps[n, ACROSS] + dy * lamps[n, ACROSS + 1] + dz * lamps[n, ACROSS + 2])) * SIDE - 0.5
        y = (0.5 + per * (dx * ux + dy * uy + dz * uz)) * SIDE - 0.5
        x = x.clamp(0.0, SIDE - 1.001)
        y = y.clamp(0.0, SIDE - 1.001)
        i = x.to_i
        j = y.to_i
        at = SLIDE + j * SIDE + i
        top = lamps[n, at] + (x - i) * (lamps[n, at + 1] - lamps[n, at])
        under = lamps[n, at + SIDE] + (x - i) * (lamps[n, at + SIDE + 1] - lamps[n, at + SIDE])
        [top + (y - j) * (under - top), 0.0].max
      end

      # A direction towards another place of a sun's disc: `far` from its middle (0 to 1), `turn` around it.
      kernel lamps: F32[2], n: I32, far: F32, turn: F32, returns: [F32, F32, F32]
      def aside(lamps, n, far, turn)
        x = lamps[n, 1]
        y = lamps[n, 2]
        z = lamps[n, 3]
        # Two directions across it.
        ax = y.abs < 0.9 ? z : 0.0
        ay = y.abs < 0.9 ? 0.0 : -z
        az = y.abs < 0.9 ? -x : y
        per = 1.0 / Math.sqrt(ax * ax + ay * ay + az * az)
        a = -lamps[n, SIZE] * far * Math.cos(turn)
        b = -lamps[n, SIZE] * far * Math.sin(turn)
        dx = x + per * (a * ax + b * (y * az - z * ay))
        dy = y + per * (a * ay + b * (z * ax - x * az))
        dz = z + per * (a * az + b * (x * ay - y * ax))
        one = 1.0 / Math.sqrt(dx * dx + dy * dy + dz * dz)
        return dx * one, dy * one, dz * one
      end

      # A place on the sheet or the ball that shines: `u`, `v` from -1 to 1 across and up.
      kernel lamps: F32[2], n: I32, u: F32, v: F32, returns: [F32, F32, F32]
      def place(lamps, n, u, v)
        # Up is square to the way it shines and to the way across.
        ux = lamps[n, WAY + 1] * lamps[n, ACROSS + 2] - lamps[n, WAY + 2] * lamps[n, ACROSS + 1]
        uy = lamps[n, WAY + 2] * lamps[n, ACROSS] - lamps[n, WAY] * lamps[n, ACROSS + 2]
        uz = lamps[n, WAY] * lamps[n, ACROSS + 1] - lamps[n, WAY + 1] * lamps[n, ACROSS]
        a = u * lamps[n, EDGE]
        b = v * lamps[n, EDGE + 1]
        return lamps[n, 1] + a * lamps[n, ACROSS] + b * ux, lamps[n, 2] + a * lamps[n, ACROSS + 1] + b * uy,
          lamps[n, 3] + a * lamps[n, ACROSS + 2] + b * uz
      end

      # The light of a sheet on a surface, for a strength of 1, against that of the straight lamp in its place: what
      # the contour of a polygon says exactly (Lambert 1760; Baum, Rushmeier & Winget 1989). (mx, my, mz) is the normal.
      kernel lamps: F32[2], n: I32, x: F32, y: F32, z: F32, mx: F32, my: F32, mz: F32, returns: F32
      def sheet(lamps, n, x, y, z, mx, my, mz)
        sum = 0.0
        outx = 0.0
        outy = 0.0
        outz = 0.0
        inx = 0.0
        iny = 0.0
        inz = 0.0
        crossed = 0
        # Behind it there is no light.
        before =
          (x - lamps[n, 1]) * lamps[n, WAY] + (y - lamps[n, 2]) * lamps[n, WAY + 1] +
          (z - lamps[n, 3]) * lamps[n, WAY + 2]
        if before > 0.0
          4.times do |k|
            ax, ay, az, up = corner(lamps, n, k, Geometry::Ray.new(x, y, z, mx, my, mz))
            bx, by, bz, other = corner(lamps, n, (k + 1) & 3, Geometry::Ray.new(x, y, z, mx, my, mz))
            # Only what is above the surface's horizon counts.
            if up > 0.0 || other > 0.0
              if up < 0.0
                s = other / (other - up)
                ax = bx + s * (ax - bx)
                ay = by + s * (ay - by)
                az = bz + s * (az - bz)
              end
              if other < 0.0
                s = up / (up - other)
                bx = ax + s * (bx - ax)
                by = ay + s * (by - ay)
                bz = az + s * (bz - az)
                outx = bx
                outy = by
                outz = bz
                crossed = 1
              end
              if up < 0.0
                inx = ax
                iny = ay
                inz = az
              end
              sum += contour(Geometry::Ray.new(ax, ay, az, bx, by, bz), mx, my, mz)
            end
          end
          # What sinks below the horizon comes back along it.
          sum += contour(Geometry::Ray.new(outx, outy, outz, inx, iny, inz), mx, my, mz) if crossed > 0
          # Light of an area 4 ab with a strength of 1 has the radiance 1 / 4 ab.
          sum = sum.abs * 0.5 / (4.0 * lamps[n, EDGE] * lamps[n, EDGE + 1])
        end
        sum
      end

      # A corner of a sheet as seen from a place, and how high it is above the surface there, whose normal the ray has.
      kernel lamps: F32[2], n: I32, k: I32, spot: Geometry::Ray, returns: [F32, F32, F32, F32]
      def corner(lamps, n, k, spot)
        px, py, pz = place(lamps, n, k == 1 || k == 2 ? 1.0 : -1.0, k > 1 ? 1.0 : -1.0)
        a = px - spot.ox
        b = py - spot.oy
        c = pz - spot.oz
        return a, b, c, a * spot.dx + b * spot.dy + c * spot.dz
      end

      # What an edge from one place (the ray's origin) to another (its direction) adds.
      kernel edge: Geometry::Ray, mx: F32, my: F32, mz: F32, returns: F32
      def contour(edge, mx, my, mz)
        one = 1.0 / Math.sqrt(edge.ox * edge.ox + edge.oy * edge.oy + edge.oz * edge.oz + 1e-20)
        two = 1.0 / Math.sqrt(edge.dx * edge.dx + edge.dy * edge.dy + edge.dz * edge.dz + 1e-20)
        cosine = ((edge.ox * edge.dx + edge.oy * edge.dy + edge.oz * edge.dz) * one * two).clamp(-1.0, 1.0)
        cx = edge.oy * edge.dz - edge.oz * edge.dy
        cy = edge.oz * edge.dx - edge.ox * edge.dz
        cz = edge.ox * edge.dy - edge.oy * edge.dx
        length = Math.sqrt(cx * cx + cy * cy + cz * cz)
        length > 1e-12 ? Math.acos(cosine) * (cx * mx + cy * my + cz * mz) / length : 0.0
      end
    end
  end
end
