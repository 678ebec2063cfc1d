# frozen_string_literal: true

module Vumbral
  module Picture
    # Props in a picture. `view` f32 [25] is the camera as {Camera#view} tells it.
    module SurfaceKernels
      extend Kernel::Library

      # A lamp that adds less than this share of the light that is there is let through without a look.
      FAINT = 0.004
      # Stones throw one shadow in the light of so many of the fire's lamps.
      TOGETHER = 8

      # What stands behind each pixel: `out` f32 [h, w, 3].
      kernel out: F32[3], view: F32[1], sky: F32[1]
      def behind(out, view, sky)
        parallel(out.dim(0), uneven: true) do |py|
          wide = EyeKernels.wide(view)
          out.dim(1).times do |px|
            dx, dy, dz = EyeKernels.direction(view, px + 0.5, py + 0.5)
            r, g, b = Light::HillKernels.seen(sky, dx, dy, dz, wide)
            out[py, px, 0] = r
            out[py, px, 1] = g
            out[py, px, 2] = b
          end
        end
      end

      # What the middle of each pixel sees: `depth` f32 [h, w], `seen` i32 [h, w] (triangle or -1).
      kernel depth: F32[2], seen: I32[2], view: F32[1], scene: Picture::Scene
      def look(depth, seen, view, scene)
        parallel(depth.dim(0), uneven: true) do |py|
          depth.dim(1).times do |px|
            ox, oy, oz, dx, dy, dz = EyeKernels.ray(view, px + 0.5, py + 0.5)
            t, found, _, _ = Geometry::RayKernels.first_hit(scene.corners, scene.boxes,
              Geometry::Ray.new(ox, oy, oz, dx, dy, dz), MarchKernels::NONE)
            depth[py, px] = t
            seen[py, px] = found
          end
        end
      end

      # The normal at a place on a triangle, towards whoever looks.
      kernel scene: Picture::Scene, spot: Picture::Spot, ray: Geometry::Ray, returns: [F32, F32, F32]
      def normal(scene, spot, ray)
        t = spot.triangle
        a = 1.0 - spot.b - spot.g
        nx = a * scene.normals[t, 0] + spot.b * scene.normals[t, 3] + spot.g * scene.normals[t, 6]
        ny = a * scene.normals[t, 1] + spot.b * scene.normals[t, 4] + spot.g * scene.normals[t, 7]
        nz = a * scene.normals[t, 2] + spot.b * scene.normals[t, 5] + spot.g * scene.normals[t, 8]
        per = 1.0 / Math.sqrt(nx * nx + ny * ny + nz * nz + 1e-20)
        per = -per if nx * ray.dx + ny * ray.dy + nz * ray.dz > 0.0
        return nx * per, ny * per, nz * per
      end

      # How much of a lamp's light a surface catches by the cosine of its slope: a ball of light that is partly
      # below its horizon still lights it, and so do the bumps around, which catch the light and send it on. `bumpy` is
      # how far slopes that are too fine for the pixel reach to either side: it catches what they do in the mean.
      kernel cosine: F32, ball: F32, distance: F32, rough: F32, bumpy: F32, returns: F32
      def faced(cosine, ball, distance, rough, bumpy)
        size = [ball - 1.0, 0.0].max
        width = ball > 0.5 ? [size / Math.sqrt(distance * distance + size * size + 1e-9), 0.3 * [rough, 1.0].min].max : 0.0
        width = [width, bumpy * Math.sqrt([1.0 - cosine * cosine, 0.0].max), 1e-3].max
        facing = cosine > -width && cosine < width ? 0.25 * (cosine + width) * (cosine + width) / width : [cosine, 0.0].max
        # What is steep has more surface for the same ground.
        facing / Math.sqrt(1.0 + 0.667 * bumpy * bumpy)
      end

      # The colour of a prop where a ray meets it, lit by lamps through the smoke and by the sky.
      # `sky` as {Light::SkyKernels} takes it; `pixel` is how wide a pixel is there across the ray, metres.
      kernel scene: Picture::Scene, spot: Picture::Spot, ray: Geometry::Ray, lamps: F32[2], sky: F32[1],
        air: Picture::Air, lattice: Grid::Lattice, pixel: F32, returns: [F32, F32, F32]
      def shade(scene, spot, ray, lamps, sky, air, lattice, pixel)
        t = spot.triangle
        x = ray.ox + spot.far * ray.dx
        y = ray.oy + spot.far * ray.dy
        z = ray.oz + spot.far * ray.dz
        nx, ny, nz = normal(scene, spot, ray)
        rough = scene.colours[t, 3]
        o = scene.owner[t]
        mx, my, mz, tone, dry, bumpy, high, shelter = GroundKernels.detail(scene, spot, ray, nx, ny, nz, pixel)
        mx, my, mz = GlossKernels.bumped(scene.made, scene.textures, o, Geometry::Ray.new(x, y, z, mx, my, mz), pixel)
        metal = scene.made[o, 2]
        even = scene.made[o, GlossKernels::EVEN] > 0.5
        through = scene.made[o, GlossKernels::CLEAR]
        shines = scene.made[o, 0] > 0.0 || metal > 0.0 || through > 0.0
        facets = shines ? GlossKernels.rough(scene.made, scene.textures, o, x, y, z) : 1.0
        blurred = shines ? FacetKernels.rounded(scene, t, facets, pixel) : 1.0
        dull = GlossKernels::MOST * scene.made[o, 0]
        dull = [dull, ((scene.made[o, GlossKernels::BENDS] - 1.0) / (scene.made[o, GlossKernels::BENDS] + 1.0))**2].max if through > 0.0
        # What shines of lamps: by the surface's own colour, and by how much it is not its colour.
        own_red = 0.0
        own_green = 0.0
        own_blue = 0.0
        all_red = 0.0
        all_green = 0.0
        all_blue = 0.0
        # Off the surface a little, so that it does not shade itself.
        off = 0.0015 * (1.0 + x.abs + y.abs + z.abs)
        sx, sy, sz = FacetKernels.lifted(scene, spot, ray)
        sx += off * nx
        sy += off * ny
        sz += off * nz
        # A white sheet under an even sky returns it whole. Smoke above takes some of it away.
        open = shelter * AirKernels.skylit(air, lattice, sx, sy, sz)
        open *= AirKernels.around(air, sx, sy, sz) if air.hazy
        red, green, blue = Light::SkyKernels.ambient(sky, mx, my, mz, open)
        grain = GroundKernels.grain(ray, nx, ny, nz, pixel)
        # Light of some of the fire's lamps, and where from.
        some = local_f32(6)
        6.times { |c| some[c] = 0.0 }
        lamps.dim(0).times do |n|
          lx, ly, lz, distance, gain = Light::LampKernels.towards(lamps, n, sx, sy, sz)
          # The last lamps are those that stand for the fire ({Light::Fire#for_props}), which lights all.
          fire = lamps[n, 7] > 0.2 && lamps[n, 7] < 0.5
          linked = n >= scene.links.dim(0) || scene.links[n, [scene.owner[t], scene.links.dim(1) - 1].min] > 0
          flat = lamps[n, 8] > 1.5
          facing = flat && !even ? Light::LampKernels.sheet(lamps, n, sx, sy, sz, mx, my, mz) : faced(mx * lx + my * ly + mz * lz, lamps[n, 0], distance, rough, bumpy)
          # Dust has no side: from wherever light comes, as much of it goes on to the eye.
          facing = 0.5 if even
          if linked && facing > 0.0 && (flat || even || nx * lx + ny * ly + nz * lz > 0.0)
            passed = 0.31830989 * facing * (flat && !even ? 1.0 : gain)
            # Whether something stands before a lamp that adds next to nothing does not matter.
            faint = passed * (lamps[n, 4] + lamps[n, 5] + lamps[n, 6]) <= FAINT * (red + green + blue)
            if lamps[n, 7] > 0.2 && !faint && scene.made[o, GlossKernels::SHADED] > 0.5
              # What stands within a lamp's own ball does not hide it.
              reach = distance - (lamps[n, 0] > 1.0 ? lamps[n, 0] - 1.0 : 0.0)
              passed *= SightKernels.seen(scene, Geometry::Ray.new(sx, sy, sz, lx, ly, lz), reach, lamps, n, spot.turn)
              if lamps[n, 7] > 0.5 && passed > 0.0
                passed *= SightKernels.smoky(air, lattice, Geometry::Ray.new(sx, sy, sz, lx, ly, lz), distance, lamps, n,
                  spot.turn)
              end
            end
            passed *= GroundKernels.past(scene, spot, Geometry::Ray.new(x, y, z, lx, ly, lz), nx, ny, nz, grain, high) if !fire && !faint && passed > 0.0
            passed *= AirKernels.clear(air, n, sx, sy, sz) if air.hazy && n < air.left.dim(0) && passed > 0.0
            if fire
              bright = passed * (lamps[n, 4] + lamps[n, 5] + lamps[n, 6])
              some[0] += passed * lamps[n, 4]
              some[1] += passed * lamps[n, 5]
              some[2] += passed * lamps[n, 6]
              some[3] += bright * lx
              some[4] += bright * ly
              some[5] += bright * lz
            else
              fr, fg, fb = CausticKernels.factor(scene.caustics, scene.lens, n, sx, sy, sz)
              red += passed * lamps[n, 4] * fr
              green += passed * lamps[n, 5] * fg
              blue += passed * lamps[n, 6] * fb
            end
            if shines && passed > 0.0
              # A lamp with a size shows as a wider spot.
              wide = [lamps[n, 0] < 0.0 ? -0.5 * lamps[n, 0] : 0.4 * (lamps[n, 0] - 1.0) / distance, 0.5].min
              shape, sheen = GlossKernels.lobe(Geometry::Ray.new(lx, ly, lz, mx, my, mz), -ray.dx, -ray.dy, -ray.dz, [blurred + wide, 1.0].min, 0.0)
              hot = 3.14159265 * passed * shape
              own_red += hot * (1.0 - sheen) * lamps[n, 4]
              own_green += hot * (1.0 - sheen) * lamps[n, 5]
              own_blue += hot * (1.0 - sheen) * lamps[n, 6]
              all_red += hot * sheen * lamps[n, 4]
              all_green += hot * sheen * lamps[n, 5]
              all_blue += hot * sheen * lamps[n, 6]
            end
          end
          together = some[0] + some[1] + some[2]
          if fire && together > 0.0 && (n % TOGETHER == TOGETHER - 1 || n == lamps.dim(0) - 1)
            kept = GroundKernels.past_some(scene, spot, Geometry::Ray.new(x, y, z, nx, ny, nz), some, grain, high)
            red += kept * some[0]
            green += kept * some[1]
            blue += kept * some[2]
            6.times { |c| some[c] = 0.0 }
          end
        end
        base_red, base_green, base_blue, glows_red, glows_green, glows_blue = colours(scene, spot, ray, pixel)
        # Where it is dry it is paler and warmer.
        base_red *= tone * (1.0 + 0.1 * dry)
        base_green *= tone
        base_blue *= tone * (1.0 - 0.14 * dry)
        red *= base_red
        green *= base_green
        blue *= base_blue
        if through > 0.0
          tr, tg, tb = ClearKernels.through(scene, spot, ray, Geometry::Ray.new(x, y, z, mx, my, mz), lamps, sky, pixel)
          red += through * (tr - red)
          green += through * (tg - green)
          blue += through * (tb - blue)
        end
        if shines
          nv = [-(mx * ray.dx + my * ray.dy + mz * ray.dz), 0.001].max
          er, eg, eb = GlossKernels.reflected(scene, ray, Geometry::Ray.new(sx, sy, sz, mx, my, mz), lamps, sky, facets, open, pixel)
          scale, bias = GlossKernels.around(scene.sheen, facets, nv)
          # The edge of what hardly shines does not shine more than it may.
          rim = [dull * 50.0 + metal, 1.0].min
          own_red += er * scale
          own_green += eg * scale
          own_blue += eb * scale
          all_red += er * bias
          all_green += eg * bias
          all_blue += eb * bias
          # What is thrown back at the surface does not come in.
          keep = (1.0 - metal) * [1.0 - dull * scale - rim * bias, 0.0].max
          red = keep * red + own_red * (dull + metal * (base_red - dull)) + rim * all_red
          green = keep * green + own_green * (dull + metal * (base_green - dull)) + rim * all_green
          blue = keep * blue + own_blue * (dull + metal * (base_blue - dull)) + rim * all_blue
        end
        red += glows_red
        green += glows_green
        blue += glows_blue
        # Far off, everything goes over into the haze above the horizon.
        clear = Math.exp(-sky[6] * spot.far)
        hr, hg, hb = Light::SkyKernels.radiance(sky, ray.dx, [ray.dy, 0.0].max, ray.dz)
        return hr + clear * (red - hr), hg + clear * (green - hg), hb + clear * (blue - hb)
      end

      # A prop's colour where a ray meets it, with its picture, its second colour and its textures, and how it shines
      # itself.
      kernel scene: Picture::Scene, spot: Picture::Spot, ray: Geometry::Ray, pixel: F32,
        returns: [F32, F32, F32, F32, F32, F32]
      def colours(scene, spot, ray, pixel)
        t = spot.triangle
        o = scene.owner[t]
        x = ray.ox + spot.far * ray.dx
        y = ray.oy + spot.far * ray.dy
        z = ray.oz + spot.far * ray.dz
        mix = mixed(scene, spot, ray)
        if scene.made[o, GlossKernels::MIXED] > -0.5
          mix = [mix, scene.made[o, GlossKernels::MIXED + 1] * Geometry::TextureKernels.value(scene.textures, scene.made[o, GlossKernels::MIXED].to_i, x, y, z, pixel)].max.clamp(0.0, 1.0)
        end
        # What is between two colours glows.
        glow = 16.0 * mix * mix * (1.0 - mix) * (1.0 - mix)
        red, green, blue = own(scene, spot, pixel)
        # What shines itself shines as its picture does.
        pictured = scene.made[o, GlossKernels::PICTURE] > -0.5
        lit = 1.0
        if scene.made[o, GlossKernels::LIT] > -0.5
          lit += scene.made[o, GlossKernels::LIT + 1] * ([Geometry::TextureKernels.value(scene.textures, scene.made[o, GlossKernels::LIT].to_i, x, y, z, pixel), 0.0].max - 1.0)
        end
        glows_red = glow * scene.colours[t, 11] + lit * scene.made[o, 3] * (pictured ? red : 1.0)
        glows_green = glow * scene.colours[t, 12] + lit * scene.made[o, 4] * (pictured ? green : 1.0)
        glows_blue = glow * scene.colours[t, 13] + lit * scene.made[o, 5] * (pictured ? blue : 1.0)
        red += mix * (scene.colours[t, 8] - red)
        green += mix * (scene.colours[t, 9] - green)
        blue += mix * (scene.colours[t, 10] - blue)
        return red, green, blue, glows_red, glows_green, glows_blue
      end

      # A prop's own colour where a ray meets it.
      kernel scene: Picture::Scene, spot: Picture::Spot, pixel: F32, returns: [F32, F32, F32]
      def own(scene, spot, pixel)
        red = scene.colours[spot.triangle, 0]
        green = scene.colours[spot.triangle, 1]
        blue = scene.colours[spot.triangle, 2]
        if scene.made[scene.owner[spot.triangle], GlossKernels::PICTURE] > -0.5
          red, green, blue, _alpha = PictureKernels.seen(scene, spot, pixel)
        end
        return red, green, blue
      end

      # How much of its second colour a prop has where a ray meets it.
      kernel scene: Picture::Scene, spot: Picture::Spot, ray: Geometry::Ray, returns: F32
      def mixed(scene, spot, ray)
        t = spot.triangle
        mix = 0.0
        if scene.colours[t, 5] + scene.colours[t, 6] + scene.colours[t, 7] > 0.0
          p, q, r = Geometry::MapKernels.shares(scene.corners, t, ray.ox + spot.far * ray.dx, ray.oy + spot.far * ray.dy, ray.oz + spot.far * ray.dz)
          mix = p * scene.colours[t, 5] + q * scene.colours[t, 6] + r * scene.colours[t, 7]
        end
        mix
      end

      # Surfaces of each pixel: `hits` f32 [h, w, 16], four times depth, red, green, blue (depth
      # 1e30 for none). Pixels are looked at in four places or in one, as `glance` says ({EdgeKernels}).
      kernel hits: F32[3], glance: Picture::Glance, view: F32[1], scene: Picture::Scene, lamps: F32[2], sky: F32[1],
        air: Picture::Air, lattice: Grid::Lattice
      def surfaces(hits, glance, view, scene, lamps, sky, air, lattice)
        parallel(hits.dim(0), uneven: true) do |py|
          wide = EyeKernels.wide(view)
          hits.dim(1).times do |px|
            several = glance.several[py, px] == 1
            turn = 6.2831853 * ((MarchKernels.offset(px, py) + view[14]) % 1.0)
            if hits[py, px, 0] >= 0.0 && (several || (glance.seen[py, px] >= 0 && glance.several[py, px] == 0))
              count = several ? MarchKernels::SAMPLES : 1
              count.times do |s|
                ax, ay = EyeKernels.place(s)
                ax = 0.5 if !several
                ay = 0.5 if !several
                ox, oy, oz, dx, dy, dz = EyeKernels.ray(view, px + ax, py + ay)
                t, found, b, g = Geometry::RayKernels.first_hit(scene.corners, scene.boxes,
                  Geometry::Ray.new(ox, oy, oz, dx, dy, dz), MarchKernels::NONE)
                hits[py, px, 4 * s] = t
                if found >= 0
                  # Smoke and fire are seen through it, too.
                  if ClearKernels.clear(scene, found)
                    hits[py, px, 4 * s] = ClearKernels.past(scene, found, Geometry::Ray.new(ox, oy, oz, dx, dy, dz), t)
                  end
                  red, green, blue = shade(scene, Spot.new(t, found, b, g, turn), Geometry::Ray.new(ox, oy, oz, dx, dy, dz),
                    lamps, sky, air, lattice, wide * t)
                  # Of a hole nothing is seen but that it hides what is behind it.
                  hole = scene.made[scene.owner[found], GlossKernels::AS] > 1.5
                  red = -1.0 if hole
                  hits[py, px, 4 * s + 1] = red
                  hits[py, px, 4 * s + 2] = green
                  hits[py, px, 4 * s + 3] = blue
                end
              end
              if !several
                (4...16).each { |c| hits[py, px, c] = hits[py, px, c - 4] }
              end
            end
          end
        end
      end
    end
  end
end
