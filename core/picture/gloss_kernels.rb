# frozen_string_literal: true

module Vumbral
  module Picture
    # What a surface throws back without taking it up: rows of `made` f32 [props, {Materials::WIDTH}] hold shine,
    # roughness, metal, own light (red, green, blue), the texture of its second colour and how much of it, that of its
    # bumps and their height, that of its roughness and how much of it; where its picture begins ({Pictures}), how wide
    # and high that is; how much it covers, whether light from all sides lights it alike; how clear it is, how far that
    # bends light, and what a metre of it takes (red, green, blue); whether it is whole (0), shows only shadows on it
    # (1) or is a hole (2), and takes shadows (1); the texture of its own light and how much of it; how much of it
    # stones lie on, and how large those are.
    module GlossKernels
      extend Kernel::Library

      SHINE, ROUGH, METAL, LIGHT, MIXED, BUMPED, ROUGHENED = 0, 1, 2, 3, 6, 8, 10
      PICTURE, OPACITY, EVEN, CLEAR, BENDS, TAKES, AS, SHADED, LIT, STONES = 12, 15, 16, 17, 18, 19, 22, 23, 24, 26
      # What is thrown back straight on at the most shine that is no metal.
      MOST = 0.08
      # From this roughness on a mirror image is nothing but light from all around.
      DULL = 0.45
      # How sharp hills are in a mirror, as an angle.
      MIRRORED = 0.002
      # How much wider a metre on a pixel is that is seen in a mirror.
      WIDENS = 0.001

      # How rough a prop is at a place.
      kernel made: F32[2], textures: F32[2], o: I32, x: F32, y: F32, z: F32, returns: F32
      def rough(made, textures, o, x, y, z)
        found = made[o, ROUGH]
        if made[o, ROUGHENED] > -0.5
          value = Geometry::TextureKernels.value(textures, made[o, ROUGHENED].to_i, x, y, z, 0.0)
          found += made[o, ROUGHENED + 1] * (value - found)
        end
        found.clamp(0.02, 1.0)
      end

      # How a texture's bumps turn a normal.
      kernel made: F32[2], textures: F32[2], o: I32, place: Geometry::Ray, pixel: F32, returns: [F32, F32, F32]
      def bumped(made, textures, o, place, pixel)
        nx = place.dx
        ny = place.dy
        nz = place.dz
        if made[o, BUMPED] > -0.5
          t = made[o, BUMPED].to_i
          e = [pixel, 0.0005].max
          here = Geometry::TextureKernels.value(textures, t, place.ox, place.oy, place.oz, pixel)
          per = made[o, BUMPED + 1] / e
          gx = per * (Geometry::TextureKernels.value(textures, t, place.ox + e, place.oy, place.oz, pixel) - here)
          gy = per * (Geometry::TextureKernels.value(textures, t, place.ox, place.oy + e, place.oz, pixel) - here)
          gz = per * (Geometry::TextureKernels.value(textures, t, place.ox, place.oy, place.oz + e, pixel) - here)
          along = gx * nx + gy * ny + gz * nz
          nx -= gx - along * nx
          ny -= gy - along * ny
          nz -= gz - along * nz
          one = 1.0 / Math.sqrt(nx * nx + ny * ny + nz * nz + 1e-20)
          nx *= one
          ny *= one
          nz *= one
        end
        return nx, ny, nz
      end

      # How much of a lamp's light, for each unit that falls on the surface, is thrown to the eye: facets of a roughness
      # (Walter et al. 2007), shaded by each other. The normal is the ray's direction, `eye` leads to the eye.
      kernel normal: Geometry::Ray, ex: F32, ey: F32, ez: F32, rough: F32, straight: F32, returns: [F32, F32]
      def lobe(normal, ex, ey, ez, rough, straight)
        # The ray's origin is the way to the lamp.
        hx = normal.ox + ex
        hy = normal.oy + ey
        hz = normal.oz + ez
        one = 1.0 / Math.sqrt(hx * hx + hy * hy + hz * hz + 1e-12)
        hx *= one
        hy *= one
        hz *= one
        nh = [normal.dx * hx + normal.dy * hy + normal.dz * hz, 0.0].max
        nl = [normal.dx * normal.ox + normal.dy * normal.oy + normal.dz * normal.oz, 0.001].max
        nv = [normal.dx * ex + normal.dy * ey + normal.dz * ez, 0.001].max
        lh = [normal.ox * hx + normal.oy * hy + normal.oz * hz, 0.0].max
        a = rough * rough
        under = nh * nh * (a * a - 1.0) + 1.0
        facets = a * a / (3.14159265 * under * under)
        away = 1.0 - lh
        return facets * shaded(nl, nv, a * a), straight + (1.0 - straight) * away * away * away * away * away
      end

      # How facets hide each other from light and eye, for both at once (Heitz 2014), over four times both cosines.
      kernel nl: F32, nv: F32, square: F32, returns: F32
      def shaded(nl, nv, square)
        0.5 / (nl * Math.sqrt(nv * nv * (1.0 - square) + square) + nv * Math.sqrt(nl * nl * (1.0 - square) + square))
      end

      # How much of what comes from all around is thrown back, at a cosine to the eye: by how much of it is the
      # surface's own straight share, and by how much all, from {Sheen.table}.
      kernel sheen: F32[3], rough: F32, cosine: F32, returns: [F32, F32]
      def around(sheen, rough, cosine)
        y = rough.clamp(0.0, 1.0) * (sheen.dim(0) - 1)
        x = cosine.clamp(0.0, 1.0) * (sheen.dim(1) - 1)
        j = [y.to_i, sheen.dim(0) - 2].min
        i = [x.to_i, sheen.dim(1) - 2].min
        fy = y - j
        fx = x - i
        own =
          (1.0 - fy) * ((1.0 - fx) * sheen[j, i, 0] + fx * sheen[j, i + 1, 0]) +
          fy * ((1.0 - fx) * sheen[j + 1, i, 0] + fx * sheen[j + 1, i + 1, 0])
        all =
          (1.0 - fy) * ((1.0 - fx) * sheen[j, i, 1] + fx * sheen[j, i + 1, 1]) +
          fy * ((1.0 - fx) * sheen[j + 1, i, 1] + fx * sheen[j + 1, i + 1, 1])
        return own, all
      end

      # What is seen in a mirror: the sky, or a prop in plain light, with hard shadows.
      # @param pixel how wide a pixel is at the mirror, metres; farther on it is wider
      kernel scene: Picture::Scene, ray: Geometry::Ray, lamps: F32[2], sky: F32[1], pixel: F32, returns: [F32, F32, F32]
      def mirrored(scene, ray, lamps, sky, pixel)
        r, g, b = heaven(sky, ray.dx, ray.dy, ray.dz)
        t, found, beta, gamma = Geometry::RayKernels.first_hit(scene.corners, scene.boxes, ray, 1e30)
        if found >= 0
          nx, ny, nz = SurfaceKernels.normal(scene, Spot.new(t, found, beta, gamma, 0.0), ray)
          mx, my, mz, tone, dry, _bumpy, _high, shelter =
            GroundKernels.detail(scene, Spot.new(t, found, beta, gamma, 0.0), ray, nx, ny, nz, pixel + WIDENS * t)
          red, green, blue = Light::SkyKernels.ambient(sky, mx, my, mz, shelter)
          off = 0.0015 * (1.0 + (ray.ox + t * ray.dx).abs + (ray.oy + t * ray.dy).abs + (ray.oz + t * ray.dz).abs)
          x = ray.ox + t * ray.dx + off * nx
          y = ray.oy + t * ray.dy + off * ny
          z = ray.oz + t * ray.dz + off * nz
          lamps.dim(0).times do |n|
            lx, ly, lz, far, gain = Light::LampKernels.towards(lamps, n, x, y, z)
            facing = 0.31830989 * gain * [mx * lx + my * ly + mz * lz, 0.0].max
            bright = facing * (lamps[n, 4] + lamps[n, 5] + lamps[n, 6]) > SurfaceKernels::FAINT * (red + green + blue)
            if lamps[n, 7] > 0.2 && bright
              # What stands within a lamp's own ball does not hide it.
              reach = far - [lamps[n, 0] - 1.0, 0.0].max
              facing = 0.0 if Geometry::RayKernels.blocked(scene.shade, scene.shade_boxes,
                Geometry::Ray.new(x, y, z, lx, ly, lz), reach)
            end
            fr, fg, fb = CausticKernels.factor(scene.caustics, scene.lens, n, x, y, z)
            red += facing * lamps[n, 4] * fr
            green += facing * lamps[n, 5] * fg
            blue += facing * lamps[n, 6] * fb
          end
          own_red, own_green, own_blue, glows_red, glows_green, glows_blue =
            SurfaceKernels.colours(scene, Spot.new(t, found, beta, gamma, 0.0), ray, pixel + WIDENS * t)
          clear = Math.exp(-sky[6] * t)
          # Where it is dry it is paler and warmer.
          r += clear * (red * own_red * tone * (1.0 + 0.1 * dry) + glows_red - r)
          g += clear * (green * own_green * tone + glows_green - g)
          b += clear * (blue * own_blue * tone * (1.0 - 0.14 * dry) + glows_blue - b)
        end
        return r, g, b
      end

      # Light from a way of the sky, or from above and below where none is shown.
      kernel sky: F32[1], dx: F32, dy: F32, dz: F32, returns: [F32, F32, F32]
      def heaven(sky, dx, dy, dz)
        r, g, b = Light::SkyKernels.ambient(sky, dx, dy, dz, 1.0)
        r, g, b = Light::HillKernels.seen(sky, dx, sky[7] > 1.5 ? dy : [dy, 0.0].max, dz, MIRRORED) if sky[7] > 0.5
        return r, g, b
      end

      # What a shining surface throws to the eye of what is around it. The ray leads to the surface's place and ends
      # there; `normal` has the place as its origin.
      kernel scene: Picture::Scene, ray: Geometry::Ray, normal: Geometry::Ray, lamps: F32[2], sky: F32[1], rough: F32,
        open: F32, pixel: F32, returns: [F32, F32, F32]
      def reflected(scene, ray, normal, lamps, sky, rough, open, pixel)
        along = 2.0 * (ray.dx * normal.dx + ray.dy * normal.dy + ray.dz * normal.dz)
        rx = ray.dx - along * normal.dx
        ry = ray.dy - along * normal.dy
        rz = ray.dz - along * normal.dz
        r, g, b = Light::SkyKernels.ambient(sky, rx, ry, rz, 1.0)
        if rough < DULL
          p, q, s = mirrored(scene, Geometry::Ray.new(normal.ox, normal.oy, normal.oz, rx, ry, rz), lamps, sky, pixel)
          share = 1.0 - rough / DULL
          r += share * (p - r)
          g += share * (q - g)
          b += share * (s - b)
        end
        return open * r, open * g, open * b
      end
    end
  end
end
