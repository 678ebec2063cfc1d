# frozen_string_literal: true

module Vumbral
  module Light
    # From rays to a picture. `view` f32 [14] is the camera: place, then forward, right and up
    # (right and up already as long as half the picture), then width and height in pixels.
    module PictureKernels
      extend Kernel::Library

      NONE = 1e30
      SAMPLES = 4

      # Direction through a place in the picture, length one.
      kernel view: F32[1], px: F32, py: F32, returns: [F32, F32, F32]
      def direction(view, px, py)
        a = 2.0 * px / view[12] - 1.0
        b = 1.0 - 2.0 * py / view[13]
        dx = view[3] + a * view[6] + b * view[9]
        dy = view[4] + a * view[7] + b * view[10]
        dz = view[5] + a * view[8] + b * view[11]
        per = 1.0 / Math.sqrt(dx * dx + dy * dy + dz * dz)
        return dx * per, dy * per, dz * per
      end

      # What the middle of each pixel sees: `depth` f32 [h, w], `seen` i32 [h, w] (triangle or -1).
      kernel depth: F32[2], seen: I32[2], view: F32[1], corners: F32[2], boxes: F32[2]
      def look(depth, seen, view, corners, boxes)
        parallel(depth.dim(0), uneven: true) do |py|
          depth.dim(1).times do |px|
            dx, dy, dz = direction(view, px + 0.5, py + 0.5)
            t, found, _, _ = Geometry::RayKernels.first_hit(corners, boxes, view[0], view[1], view[2], dx, dy, dz, NONE)
            depth[py, px] = t
            seen[py, px] = found
          end
        end
      end

      # Does an edge run through a pixel? Another prop, or another depth, beside it.
      kernel depth: F32[2], seen: I32[2], owner: I32[1], py: I32, px: I32, returns: BOOL
      def edge(depth, seen, owner, py, px)
        found = false
        mine = seen[py, px] >= 0 ? owner[seen[py, px]] : -1
        here = depth[py, px]
        4.times do |side|
          y = (py + (side == 0 ? 1 : (side == 1 ? -1 : 0))).clamp(0, depth.dim(0) - 1)
          x = (px + (side == 2 ? 1 : (side == 3 ? -1 : 0))).clamp(0, depth.dim(1) - 1)
          other = seen[y, x] >= 0 ? owner[seen[y, x]] : -1
          found = true if other != mine
          found = true if mine >= 0 && other >= 0 && (depth[y, x] - here).abs > 0.03 * here
        end
        found
      end

      # The colour of a prop where a ray meets it, lit by lamps through the smoke.
      kernel corners: F32[2], boxes: F32[2], normals: F32[2], colours: F32[2], t: I32, b: F32, g: F32,
        x: F32, y: F32, z: F32, dx: F32, dy: F32, dz: F32, lamps: F32[2], sky: F32[1],
        smoke: F32[3], voxel: F32, cx: F32, cy: F32, cz: F32, thickness: F32, returns: [F32, F32, F32]
      def shade(corners, boxes, normals, colours, t, b, g, x, y, z, dx, dy, dz, lamps, sky, smoke, voxel, cx, cy, cz,
        thickness)
        a = 1.0 - b - g
        nx = a * normals[t, 0] + b * normals[t, 3] + g * normals[t, 6]
        ny = a * normals[t, 1] + b * normals[t, 4] + g * normals[t, 7]
        nz = a * normals[t, 2] + b * normals[t, 5] + g * normals[t, 8]
        per = 1.0 / Math.sqrt(nx * nx + ny * ny + nz * nz + 1e-20)
        per = -per if nx * dx + ny * dy + nz * dz > 0.0
        nx *= per
        ny *= per
        nz *= per
        # Off the surface a little, so that it does not shade itself.
        off = 0.0015 * (1.0 + x.abs + y.abs + z.abs)
        sx = x + off * nx
        sy = y + off * ny
        sz = z + off * nz
        # Light from the sky, more from above; a white sheet below an even sky returns it whole.
        open = 6.2831853 * (0.65 + 0.35 * ny)
        red = sky[0] * open
        green = sky[1] * open
        blue = sky[2] * open
        lamps.dim(0).times do |n|
          lx, ly, lz, distance, gain = VolumeKernels.towards(lamps, n, sx, sy, sz)
          facing = nx * lx + ny * ly + nz * lz
          if facing > 0.0
            passed = 0.31830989 * facing * gain
            if lamps[n, 7] > 0.5
              if Geometry::RayKernels.blocked(corners, boxes, sx, sy, sz, lx, ly, lz, distance)
                passed = 0.0
              else
                passed *= Math.exp(-thickness * VolumeKernels.depth(smoke, voxel, cx, cy, cz, sx, sy, sz, lx, ly, lz,
                  distance))
              end
            end
            red += passed * lamps[n, 4]
            green += passed * lamps[n, 5]
            blue += passed * lamps[n, 6]
          end
        end
        return red * colours[t, 0], green * colours[t, 1], blue * colours[t, 2]
      end

      # Surfaces of each pixel: `hits` f32 [h, w, 16], four times depth, red, green, blue (depth
      # 1e30 for none). Pixels with an edge are looked at in four places, others in one.
      kernel hits: F32[3], depth: F32[2], seen: I32[2], owner: I32[1], view: F32[1], corners: F32[2], boxes: F32[2],
        normals: F32[2], colours: F32[2], lamps: F32[2], sky: F32[1], smoke: F32[3], voxel: F32, cx: F32, cy: F32, cz: F32, thickness: F32
      def surfaces(hits, depth, seen, owner, view, corners, boxes, normals, colours, lamps, sky, smoke, voxel, cx, cy,
        cz, thickness)
        parallel(depth.dim(0), uneven: true) do |py|
          depth.dim(1).times do |px|
            several = edge(depth, seen, owner, py, px)
            if several || seen[py, px] >= 0
              count = several ? SAMPLES : 1
              count.times do |s|
                # Four places on a turned square.
                ax = several ? (s == 0 ? 0.375 : (s == 1 ? 0.875 : (s == 2 ? 0.125 : 0.625))) : 0.5
                ay = several ? (s == 0 ? 0.125 : (s == 1 ? 0.375 : (s == 2 ? 0.625 : 0.875))) : 0.5
                dx, dy, dz = direction(view, px + ax, py + ay)
                t, found, b, g = Geometry::RayKernels.first_hit(corners, boxes, view[0], view[1], view[2], dx, dy, dz,
                  NONE)
                hits[py, px, 4 * s] = t
                if found >= 0
                  red, green, blue = shade(corners, boxes, normals, colours, found, b, g, view[0] + t * dx, view[1] + t * dy, view[2] + t * dz,
                    dx, dy, dz, lamps, sky, smoke, voxel, cx, cy, cz, thickness)
                  hits[py, px, 4 * s + 1] = red
                  hits[py, px, 4 * s + 2] = green
                  hits[py, px, 4 * s + 3] = blue
                end
              end
              if !several
                (4...16).each { |c| hits[py, px, c] = hits[py, px, c - 4] }
              end
            else
              SAMPLES.times { |s| hits[py, px, 4 * s] = NONE }
            end
          end
        end
      end

      # A fixed pattern of offsets, even over small neighbourhoods (Jimenez 2014).
      kernel px: I32, py: I32, returns: F32
      def offset(px, py)
        (52.9829189 * ((0.06711056 * px + 0.00583715 * py) % 1.0)) % 1.0
      end

      # Where a ray enters and leaves a box given by its lowest and highest corner.
      kernel bounds: F32[1], ox: F32, oy: F32, oz: F32, dx: F32, dy: F32, dz: F32, returns: [F32, F32]
      def span(bounds, ox, oy, oz, dx, dy, dz)
        ix = Geometry::RayKernels.inverse(dx)
        iy = Geometry::RayKernels.inverse(dy)
        iz = Geometry::RayKernels.inverse(dz)
        ax = (bounds[0] - ox) * ix
        bx = (bounds[3] - ox) * ix
        ay = (bounds[1] - oy) * iy
        by = (bounds[4] - oy) * iy
        az = (bounds[2] - oz) * iz
        bz = (bounds[5] - oz) * iz
        first = [[ax, bx].min, [ay, by].min, [az, bz].min, 0.0].max
        last = [[ax, bx].max, [ay, by].max, [az, bz].max].min
        return first, last
      end

      # The three colours of a light volume between its voxels.
      kernel rgb: F32[4], x: F32, y: F32, z: F32, returns: [F32, F32, F32]
      def light_at(rgb, x, y, z)
        cx = x.clamp(0.0, (rgb.dim(3) - 1).to_f)
        cy = y.clamp(0.0, (rgb.dim(2) - 1).to_f)
        cz = z.clamp(0.0, (rgb.dim(1) - 1).to_f)
        i = cx.to_i.clamp(0, rgb.dim(3) - 2)
        j = cy.to_i.clamp(0, rgb.dim(2) - 2)
        k = cz.to_i.clamp(0, rgb.dim(1) - 2)
        fx = cx - i
        fy = cy - j
        fz = cz - k
        out = local_f32(3)
        3.times do |c|
          a = rgb[c, k, j, i] + fx * (rgb[c, k, j, i + 1] - rgb[c, k, j, i])
          b = rgb[c, k, j + 1, i] + fx * (rgb[c, k, j + 1, i + 1] - rgb[c, k, j + 1, i])
          d = rgb[c, k + 1, j, i] + fx * (rgb[c, k + 1, j, i + 1] - rgb[c, k + 1, j, i])
          e = rgb[c, k + 1, j + 1, i] + fx * (rgb[c, k + 1, j + 1, i + 1] - rgb[c, k + 1, j + 1, i])
          f = a + fy * (b - a)
          out[c] = f + fz * (d + fy * (e - d) - f)
        end
        return out[0], out[1], out[2]
      end

      # Marches each pixel's ray through the smoke and lays what is left of the surfaces behind it:
      # `image` f32 [h, w, 4], red, green, blue and alpha over nothing. Beer-Lambert along the way.
      # `fire` f32 [3, z, y, x] is light given off per metre, where it `burns`. `bounds` f32 [6] is the
      # box (metres) that holds all of it, `pace` voxels a step.
      kernel image: F32[3], hits: F32[3], view: F32[1], smoke: F32[3], rgb: F32[4], fire: F32[4], burns: BOOL, bounds: F32[1], albedo: F32[1],
        voxel: F32, cx: F32, cy: F32, cz: F32, thickness: F32, pace: F32
      def march(image, hits, view, smoke, rgb, fire, burns, bounds, albedo, voxel, cx, cy, cz, thickness, pace)
        parallel(image.dim(0), uneven: true) do |py|
          per = 1.0 / voxel
          step = pace * voxel
          image.dim(1).times do |px|
            dx, dy, dz = direction(view, px + 0.5, py + 0.5)
            first, last = span(bounds, view[0], view[1], view[2], dx, dy, dz)
            # How much of each of the four surfaces' light comes through the smoke before it.
            left = local_f32(4)
            SAMPLES.times { |s| left[s] = 1.0 }
            through = 1.0
            red = 0.0
            green = 0.0
            blue = 0.0
            hot = local_f32(3)
            3.times { |c| hot[c] = 0.0 }
            t = first - step * offset(px, py)
            while t < last
              from = [t, first].max
              t += step
              length = [t, last].min - from
              m = from + 0.5 * length
              x = (view[0] + m * dx - cx) * per - 0.5
              y = (view[1] + m * dy - cy) * per - 0.5
              z = (view[2] + m * dz - cz) * per - 0.5
              density = Grid::Sampling.linear(smoke, x, y, z)
              if burns
                fr, fg, fb = light_at(fire, x, y, z)
                if fr + fg + fb > 0.0
                  open = 0.0
                  SAMPLES.times { |s| open += hits[py, px, 4 * s] > m ? 0.25 : 0.0 }
                  # Half of the smoke of this step lies before the middle of its fire.
                  gone = open * length * through * Math.exp(-0.5 * thickness * density * length)
                  hot[0] = hot[0] + gone * fr
                  hot[1] = hot[1] + gone * fg
                  hot[2] = hot[2] + gone * fb
                end
              end
              if density > 0.0001
                kept = Math.exp(-thickness * density * length)
                seen = 0.0
                SAMPLES.times do |s|
                  if hits[py, px, 4 * s] > m
                    seen += 0.25
                    left[s] = left[s] * kept
                  end
                end
                r, g, b = light_at(rgb, x, y, z)
                gain = seen * through * (1.0 - kept)
                red += gain * r
                green += gain * g
                blue += gain * b
                through *= kept
                t = last if seen == 0.0 || through < 0.003
              end
            end
            red = red * albedo[0] + hot[0]
            green = green * albedo[1] + hot[1]
            blue = blue * albedo[2] + hot[2]
            alpha = 0.0
            SAMPLES.times do |s|
              if hits[py, px, 4 * s] < NONE
                share = 0.25 * left[s]
                red += share * hits[py, px, 4 * s + 1]
                green += share * hits[py, px, 4 * s + 2]
                blue += share * hits[py, px, 4 * s + 3]
                alpha += 0.25
              else
                alpha += 0.25 * (1.0 - left[s])
              end
            end
            image[py, px, 0] = red
            image[py, px, 1] = green
            image[py, px, 2] = blue
            image[py, px, 3] = alpha
          end
        end
      end
    end
  end
end
