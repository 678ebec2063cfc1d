# frozen_string_literal: true

module Vumbral
  module Picture
    # Reads coloured pictures ({Pictures}).
    module PictureKernels
      extend Kernel::Library

      # Half as wide and high, f32 [h, w, 4]; colours count by their alpha.
      kernel out: F32[3], from: F32[3]
      def halve(out, from)
        parallel(out.dim(0)) do |j|
          out.dim(1).times do |i|
            red = 0.0
            green = 0.0
            blue = 0.0
            alpha = 0.0
            4.times do |n|
              y = [2 * j + (n >> 1), from.dim(0) - 1].min
              x = [2 * i + (n & 1), from.dim(1) - 1].min
              weight = from[y, x, 3] + 1e-6
              red += weight * from[y, x, 0]
              green += weight * from[y, x, 1]
              blue += weight * from[y, x, 2]
              alpha += from[y, x, 3]
            end
            out[j, i, 0] = red / (alpha + 4e-6)
            out[j, i, 1] = green / (alpha + 4e-6)
            out[j, i, 2] = blue / (alpha + 4e-6)
            out[j, i, 3] = 0.25 * alpha
          end
        end
      end

      # A picture between its pixels, its first row on top; it repeats. `at` is where it begins, `across` how many of
      # its pixels one of the looker's covers.
      kernel pictures: F32[2], at: F32, wide: F32, high: F32, u: F32, v: F32, across: F32, returns: [F32, F32, F32, F32]
      def sample(pictures, at, wide, high, u, v, across)
        start = at.to_i
        w = wide.to_i
        h = high.to_i
        left = across
        while left > 1.5 && (w > 1 || h > 1)
          start += w * h
          w = [w / 2, 1].max
          h = [h / 2, 1].max
          left *= 0.5
        end
        x = (u - u.floor) * w - 0.5
        y = (1.0 - (v - v.floor)) * h - 0.5
        i = x.floor
        j = y.floor
        fx = x - i
        fy = y - j
        i0 = (i.to_i + w) % w
        j0 = (j.to_i + h) % h
        i1 = (i0 + 1) % w
        j1 = (j0 + 1) % h
        a = start + j0 * w + i0
        b = start + j0 * w + i1
        c = start + j1 * w + i0
        d = start + j1 * w + i1
        return [
          between(pictures, a, b, c, d, 0, fx, fy), between(pictures, a, b, c, d, 1, fx, fy),
          between(pictures, a, b, c, d, 2, fx, fy), between(pictures, a, b, c, d, 3, fx, fy)
        ]
      end

      kernel pictures: F32[2], a: I32, b: I32, c: I32, d: I32, n: I32, fx: F32, fy: F32, returns: F32
      def between(pictures, a, b, c, d, n, fx, fy)
        (1.0 - fy) * ((1.0 - fx) * pictures[a, n] + fx * pictures[b, n]) +
          fy * ((1.0 - fx) * pictures[c, n] + fx * pictures[d, n])
      end

      # What the picture of a prop has where a ray meets it. `pixel` is how wide a pixel is there, metres.
      kernel scene: Picture::Scene, spot: Picture::Spot, pixel: F32, returns: [F32, F32, F32, F32]
      def seen(scene, spot, pixel)
        t = spot.triangle
        o = scene.owner[t]
        a = 1.0 - spot.b - spot.g
        u = a * scene.places[t, 0] + spot.b * scene.places[t, 2] + spot.g * scene.places[t, 4]
        v = a * scene.places[t, 1] + spot.b * scene.places[t, 3] + spot.g * scene.places[t, 5]
        red, green, blue, alpha =
          sample(
            scene.pictures, scene.made[o, GlossKernels::PICTURE], scene.made[o, GlossKernels::PICTURE + 1],
            scene.made[o, GlossKernels::PICTURE + 2], u, v, pixel * spread(scene, t, o)
          )
        return red, green, blue, alpha
      end

      # How many of its picture's pixels a metre of a triangle holds.
      kernel scene: Picture::Scene, t: I32, o: I32, returns: F32
      def spread(scene, t, o)
        ax = scene.corners[t, 3] - scene.corners[t, 0]
        ay = scene.corners[t, 4] - scene.corners[t, 1]
        az = scene.corners[t, 5] - scene.corners[t, 2]
        bx = scene.corners[t, 6] - scene.corners[t, 0]
        by = scene.corners[t, 7] - scene.corners[t, 1]
        bz = scene.corners[t, 8] - scene.corners[t, 2]
        cx = ay * bz - az * by
        cy = az * bx - ax * bz
        cz = ax * by - ay * bx
        flat =
          (scene.places[t, 2] - scene.places[t, 0]) * (scene.places[t, 5] - scene.places[t, 1]) -
          (scene.places[t, 4] - scene.places[t, 0]) * (scene.places[t, 3] - scene.places[t, 1])
        Math.sqrt(
          flat.abs * scene.made[o, GlossKernels::PICTURE + 1] * scene.made[o, GlossKernels::PICTURE + 2] /
            [Math.sqrt(cx * cx + cy * cy + cz * cz), 1e-20].max
        )
      end
    end
  end
end
