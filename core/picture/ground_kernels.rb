# frozen_string_literal: true

module Vumbral
  module Picture
    # What the surface of a prop is like at a place: its bumps, stains and stones together.
    module GroundKernels
      extend Kernel::Library

      # By the normal of the surface there: its own normal; how bright and how dry it is beside the prop's colour (1 and
      # 0 are even); how far slopes that are too fine for the pixel reach to either side; how high it stands out
      # (metres), and how open it is to the light around.
      kernel scene: Picture::Scene, spot: Picture::Spot, ray: Geometry::Ray, nx: F32, ny: F32, nz: F32, pixel: F32,
        returns: [F32, F32, F32, F32, F32, F32, F32, F32]
      def detail(scene, spot, ray, nx, ny, nz, pixel)
        t = spot.triangle
        o = scene.owner[t]
        x = ray.ox + spot.far * ray.dx
        y = ray.oy + spot.far * ray.dy
        z = ray.oz + spot.far * ray.dz
        mx = nx
        my = ny
        mz = nz
        tone = 1.0
        dry = 0.0
        spread = 0.0
        high = 0.0
        open = 1.0
        rough = scene.colours[t, 3]
        if rough > 0.0
          here, gx, gy, gz, lost = BumpKernels.uneven(spot, ray, nx, ny, nz, scene.colours[t, 4], pixel)
          along = gx * nx + gy * ny + gz * nz
          steep = 0.12 * rough
          spread = steep * steep * lost
          mx = nx - steep * (gx - along * nx)
          my = ny - steep * (gy - along * ny)
          mz = nz - steep * (gz - along * nz)
          dry = BumpKernels.stains(x, y, z, scene.colours[t, 4], pixel)
          tone = (1.0 + rough * (0.3 * here + 0.3 * dry)).clamp(0.1, 2.0)
          dry *= rough
        end
        strewn = scene.made[o, GlossKernels::STONES]
        if strewn > 0.0
          high, gx, gy, gz, own, open, lost =
            StoneKernels.stones(
              Geometry::Ray.new(x, y, z, nx, ny, nz), scene.made[o, GlossKernels::STONES + 1], strewn,
              grain(ray, nx, ny, nz, pixel)
            )
          spread += lost
          if high > 0.0
            tone = own
            dry = 0.0
            mx = 0.5 * (mx - nx) + nx + 1.3 * gx
            my = 0.5 * (my - ny) + ny + 1.3 * gy
            mz = 0.5 * (mz - nz) + nz + 1.3 * gz
          end
        end
        per = 1.0 / Math.sqrt(mx * mx + my * my + mz * mz + 1e-20)
        # An even spread of slopes as wide as theirs.
        return mx * per, my * per, mz * per, tone, dry, 1.73 * Math.sqrt(spread), high, open
      end

      # As wide as a pixel is on a surface that is seen aslant.
      kernel ray: Geometry::Ray, nx: F32, ny: F32, nz: F32, pixel: F32, returns: F32
      def grain(ray, nx, ny, nz, pixel)
        pixel / Math.sqrt([(nx * ray.dx + ny * ray.dy + nz * ray.dz).abs, 0.03].max)
      end

      # The same for several lamps at once: `some` is their light (red, green, blue) and the ways to them, each by how
      # much comes from it; `place` has the surface's normal as its way.
      kernel scene: Picture::Scene, spot: Picture::Spot, place: Geometry::Ray, some: F32[1], grain: F32, high: F32,
        returns: F32
      def past_some(scene, spot, place, some, grain, high)
        per = 1.0 / Math.sqrt(some[3] * some[3] + some[4] * some[4] + some[5] * some[5] + 1e-20)
        past(scene, spot, Geometry::Ray.new(place.ox, place.oy, place.oz, per * some[3], per * some[4], per * some[5]),
          place.dx, place.dy, place.dz, grain, high)
      end

      # How much of a lamp's light stones let through to a place, `high` above the surface; `to` has the place and the
      # way to the lamp.
      kernel scene: Picture::Scene, spot: Picture::Spot, to: Geometry::Ray, nx: F32, ny: F32, nz: F32, grain: F32,
        high: F32, returns: F32
      def past(scene, spot, to, nx, ny, nz, grain, high)
        o = scene.owner[spot.triangle]
        scene.made[o, GlossKernels::STONES] > 0.0 ? StoneKernels.past(to, nx, ny, nz, scene.made[o, GlossKernels::STONES + 1], scene.made[o, GlossKernels::STONES], grain, high) : 1.0
      end
    end
  end
end
