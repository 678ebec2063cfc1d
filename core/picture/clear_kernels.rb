# frozen_string_literal: true

module Vumbral
  module Picture
    # What is seen through clear things: glass, water in a bowl.
    module ClearKernels
      extend Kernel::Library

      # So many surfaces light goes through, or is thrown back by within, before it is given up.
      TURNS = 12
      # Farther than anything stands, and yet something is met.
      FAR = 1e9

      # A way bent at a surface (Snell): the ray's direction, the normal against it, and the ratio of how slow light is
      # before and behind. Length 0 where all is thrown back.
      kernel ray: Geometry::Ray, nx: F32, ny: F32, nz: F32, ratio: F32, returns: [F32, F32, F32]
      def bent(ray, nx, ny, nz, ratio)
        cosine = -(ray.dx * nx + ray.dy * ny + ray.dz * nz)
        under = 1.0 - ratio * ratio * (1.0 - cosine * cosine)
        x = 0.0
        y = 0.0
        z = 0.0
        if under > 0.0
          off = ratio * cosine - Math.sqrt(under)
          x = ratio * ray.dx + off * nx
          y = ratio * ray.dy + off * ny
          z = ratio * ray.dz + off * nz
        end
        return x, y, z
      end

      # How light goes on at a clear surface: through it, bent (1), or thrown back (0).
      kernel ray: Geometry::Ray, nx: F32, ny: F32, nz: F32, ratio: F32, returns: [F32, F32, F32, F32]
      def onward(ray, nx, ny, nz, ratio)
        x, y, z = bent(ray, nx, ny, nz, ratio)
        passed = 1.0
        if x * x + y * y + z * z <= 0.5
          along = 2.0 * (ray.dx * nx + ray.dy * ny + ray.dz * nz)
          x = ray.dx - along * nx
          y = ray.dy - along * ny
          z = ray.dz - along * nz
          passed = 0.0
        end
        return x, y, z, passed
      end

      # Whether one sees through the triangle that is met.
      kernel scene: Picture::Scene, seen: I32, returns: BOOL
      def clear(scene, seen)
        found = false
        if seen >= 0
          found = scene.made[scene.owner[seen], GlossKernels::CLEAR] > 0.5
        end
        found
      end

      # What a metre within a clear thing takes of one part of light, between two of its triangles: at one rate, or by
      # their own colours.
      kernel scene: Picture::Scene, last: I32, found: I32, part: I32, returns: F32
      def rate(scene, last, found, part)
        all = scene.made[scene.owner[last], GlossKernels::TAKES]
        all < 0.0 ? -0.5 * all * (takes(scene, last, part) + takes(scene, found, part)) : scene.made[scene.owner[last], GlossKernels::TAKES + part]
      end

      # What comes to the eye through a clear thing that a ray meets: in, through it and out, or thrown back within
      # until it comes out, and through whatever else of it stands behind. `normal` is the place and the normal there.
      # Of what stands behind it is seen in plain light, as in a mirror.
      kernel scene: Picture::Scene, spot: Picture::Spot, ray: Geometry::Ray, normal: Geometry::Ray, lamps: F32[2],
        sky: F32[1], pixel: F32, returns: [F32, F32, F32]
      def through(scene, spot, ray, normal, lamps, sky, pixel)
        o = scene.owner[spot.triangle]
        bends = scene.made[o, GlossKernels::BENDS]
        dx, dy, dz = bent(ray, normal.dx, normal.dy, normal.dz, 1.0 / bends)
        x = normal.ox
        y = normal.oy
        z = normal.oz
        # What is taken of each colour: by how far it goes within, at one rate or by the colours where it comes in and
        # out.
        taken = local_f32(3)
        3.times { |c| taken[c] = 0.0 }
        last = spot.triangle
        inside = true
        going = true
        turns = 0
        while going && turns < TURNS
          turns += 1
          off = 0.00005 * (1.0 + x.abs + y.abs + z.abs)
          t, found, b, g =
            Geometry::RayKernels.first_hit(
              scene.corners, scene.boxes, Geometry::Ray.new(x + off * dx, y + off * dy, z + off * dz, dx, dy, dz), 1e30
            )
          if found < 0 || scene.owner[found] != o
            # A sheet has no other side; what stands in it, or behind it, is seen.
            going = false
            if found >= 0 && inside && holds(scene, o, Geometry::Ray.new(x + (t + 2.0 * off) * dx, y + (t + 2.0 * off) * dy, z + (t + 2.0 * off) * dz, dx, dy, dz))
              3.times { |c| taken[c] += t * rate(scene, last, last, c) }
            end
          else
            if inside
              3.times { |c| taken[c] += t * rate(scene, last, found, c) }
            end
            last = found
            x += (t + off) * dx
            y += (t + off) * dy
            z += (t + off) * dz
            nx, ny, nz =
              SurfaceKernels.normal(scene, Spot.new(t, found, b, g, 0.0), Geometry::Ray.new(x, y, z, dx, dy, dz))
            px, py, pz, passed =
              onward(Geometry::Ray.new(x, y, z, dx, dy, dz), nx, ny, nz, inside ? bends : 1.0 / bends)
            dx = px
            dy = py
            dz = pz
            # Out of it, and perhaps into another part of it.
            inside = !inside if passed > 0.5
          end
        end
        off = 0.0002 * (1.0 + x.abs + y.abs + z.abs)
        r, gr, bl =
          GlossKernels.mirrored(
            scene, Geometry::Ray.new(x + off * dx, y + off * dy, z + off * dz, dx, dy, dz), lamps, sky, pixel
          )
        return r * Math.exp(-taken[0]), gr * Math.exp(-taken[1]), bl * Math.exp(-taken[2])
      end

      # How far smoke and fire are seen, straight on through a clear thing that is met at a distance: to what is not
      # clear, or to where it has taken most of their light.
      kernel scene: Picture::Scene, found: I32, ray: Geometry::Ray, far: F32, returns: F32
      def past(scene, found, ray, far)
        taken = 0.0
        3.times { |c| taken += 0.33333333 * rate(scene, found, found, c) }
        last = far + (taken > 0.0 ? 1.0 / taken : FAR)
        at = far
        met = found
        left = 3 * TURNS
        while left > 0 && at < last && clear(scene, met)
          off = 0.0001 * (1.0 + at)
          x = ray.ox + (at + off) * ray.dx
          y = ray.oy + (at + off) * ray.dy
          z = ray.oz + (at + off) * ray.dz
          t, behind, _b, _g =
            Geometry::RayKernels.first_hit(
              scene.corners, scene.boxes, Geometry::Ray.new(x, y, z, ray.dx, ray.dy, ray.dz), FAR
            )
          met = behind
          at += off + [t, FAR].min
          left -= 1
        end
        [at, last].min
      end

      # Whether a way that goes on from something within a prop comes out of the prop at last, whatever else stands
      # there: it does not where the prop is a sheet.
      kernel scene: Picture::Scene, o: I32, ray: Geometry::Ray, returns: BOOL
      def holds(scene, o, ray)
        x = ray.ox
        y = ray.oy
        z = ray.oz
        met = false
        left = TURNS
        while !met && left > 0
          t, found, _b, _g =
            Geometry::RayKernels.first_hit(
              scene.corners, scene.boxes, Geometry::Ray.new(x, y, z, ray.dx, ray.dy, ray.dz), 1e30
            )
          met = found >= 0 && scene.owner[found] == o
          left = found < 0 ? 0 : left - 1
          t += 0.0001 * (1.0 + x.abs + y.abs + z.abs)
          x += t * ray.dx
          y += t * ray.dy
          z += t * ray.dz
        end
        met
      end

      # How much of one part of light a triangle's own colour takes within its depth.
      kernel scene: Picture::Scene, triangle: I32, part: I32, returns: F32
      def takes(scene, triangle, part)
        -Math.log([scene.colours[triangle, part], 0.0001].max)
      end
    end
  end
end
