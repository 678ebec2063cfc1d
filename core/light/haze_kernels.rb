# frozen_string_literal: true

module Vumbral
  module Light
    # Fogs and beams at a place: rows of `haze.veils` hold kind ({Haze::ALL} …), thickness, colour, how much light keeps
    # its way, level and one over the height over which it thins, texture and how much of it, soft edge, reach; from the
    # world to the prop (three rows of four); half sizes; where its field begins, its counts along x, y, z, cell and
    # first place; the lamp of a beam; its glow, and how much it shows of the light around.
    module HazeKernels
      extend Kernel::Library

      KIND, THICK, COLOUR, FORWARD, LEVEL, THINS, TEXTURE, TEXTURED, SOFT, REACH = 0, 1, 2, 5, 6, 7, 8, 9, 10, 11
      SPACE, HALF, BEGINS, COUNTS, CELL, FIRST, LAMP, GLOW, AROUND = 12, 24, 27, 28, 31, 32, 35, 36, 39

      # A place as a fog's prop has it.
      kernel haze: Light::HazeLight, n: I32, x: F32, y: F32, z: F32, returns: [F32, F32, F32]
      def within(haze, n, x, y, z)
        return haze.veils[n, 12] * x + haze.veils[n, 13] * y + haze.veils[n, 14] * z + haze.veils[n, 15],
          haze.veils[n, 16] * x + haze.veils[n, 17] * y + haze.veils[n, 18] * z + haze.veils[n, 19],
          haze.veils[n, 20] * x + haze.veils[n, 21] * y + haze.veils[n, 22] * z + haze.veils[n, 23]
      end

      # How thick a fog is at a place, per metre, in the mean of about so many metres.
      kernel haze: Light::HazeLight, n: I32, x: F32, y: F32, z: F32, width: F32, returns: F32
      def thick(haze, n, x, y, z, width)
        found = haze.veils[n, THICK]
        if haze.veils[n, KIND] > 0.5
          a, b, c = within(haze, n, x, y, z)
          deep = 0.0
          if haze.veils[n, KIND] < 1.5
            deep = [haze.veils[n, HALF] - a.abs, haze.veils[n, HALF + 1] - b.abs, haze.veils[n, HALF + 2] - c.abs].min
          else
            deep = -distance(haze, n, a, b, c)
          end
          if deep <= 0.0
            found = 0.0
          elsif haze.veils[n, SOFT] > 0.0
            s = [deep / haze.veils[n, SOFT], 1.0].min
            found *= s * s * (3.0 - 2.0 * s)
          end
        end
        if found > 0.0
          found *= Math.exp(-[y - haze.veils[n, LEVEL], 0.0].max * haze.veils[n, THINS]) if haze.veils[n, THINS] > 0.0
          if haze.veils[n, TEXTURE] > -0.5
            found *= 1.0 + haze.veils[n, TEXTURED] * ([Geometry::TextureKernels.value(haze.textures, haze.veils[n, TEXTURE].to_i, x, y, z, width), 0.0].max - 1.0)
          end
        end
        found
      end

      # How far a place is from a prop's surface, below nothing within: between the points of its field.
      kernel haze: Light::HazeLight, n: I32, a: F32, b: F32, c: F32, returns: F32
      def distance(haze, n, a, b, c)
        width = haze.veils[n, COUNTS].to_i
        height = haze.veils[n, COUNTS + 1].to_i
        depth = haze.veils[n, COUNTS + 2].to_i
        per = 1.0 / haze.veils[n, CELL]
        u = (a - haze.veils[n, FIRST]) * per
        v = (b - haze.veils[n, FIRST + 1]) * per
        w = (c - haze.veils[n, FIRST + 2]) * per
        found = 1e9
        if u >= 0.0 && v >= 0.0 && w >= 0.0 && u < width - 1 && v < height - 1 && w < depth - 1
          i = u.to_i
          j = v.to_i
          k = w.to_i
          at = haze.veils[n, BEGINS].to_i + (k * height + j) * width + i
          fu = u - i
          fv = v - j
          fw = w - k
          low = haze.fields[at] + fu * (haze.fields[at + 1] - haze.fields[at])
          up = haze.fields[at + width] + fu * (haze.fields[at + width + 1] - haze.fields[at + width])
          front = low + fv * (up - low)
          at += width * height
          low = haze.fields[at] + fu * (haze.fields[at + 1] - haze.fields[at])
          up = haze.fields[at + width] + fu * (haze.fields[at + width + 1] - haze.fields[at + width])
          found = front + fw * (low + fv * (up - low) - front)
        end
        found
      end

      # From where to where a ray may meet a fog or a beam, within `most`; ends before it begins where it cannot.
      kernel haze: Light::HazeLight, n: I32, lamps: F32[2], ray: Geometry::Ray, most: F32, returns: [F32, F32]
      def span(haze, n, lamps, ray, most)
        first = 0.0
        last = [haze.veils[n, REACH], most].min
        kind = haze.veils[n, KIND]
        if kind > 2.5
          first, last = cone(lamps, haze.veils[n, LAMP].to_i, ray)
          last = [last, most].min
        elsif kind > 0.5
          ox, oy, oz = within(haze, n, ray.ox, ray.oy, ray.oz)
          px, py, pz = within(haze, n, ray.ox + ray.dx, ray.oy + ray.dy, ray.oz + ray.dz)
          if kind > 1.5
            ox -= haze.veils[n, FIRST] + 0.5 * (haze.veils[n, COUNTS] - 1.0) * haze.veils[n, CELL]
            oy -= haze.veils[n, FIRST + 1] + 0.5 * (haze.veils[n, COUNTS + 1] - 1.0) * haze.veils[n, CELL]
            oz -= haze.veils[n, FIRST + 2] + 0.5 * (haze.veils[n, COUNTS + 2] - 1.0) * haze.veils[n, CELL]
            px -= haze.veils[n, FIRST] + 0.5 * (haze.veils[n, COUNTS] - 1.0) * haze.veils[n, CELL]
            py -= haze.veils[n, FIRST + 1] + 0.5 * (haze.veils[n, COUNTS + 1] - 1.0) * haze.veils[n, CELL]
            pz -= haze.veils[n, FIRST + 2] + 0.5 * (haze.veils[n, COUNTS + 2] - 1.0) * haze.veils[n, CELL]
          end
          ax, bx = slab(ox, px - ox, haze.veils[n, HALF])
          ay, by = slab(oy, py - oy, haze.veils[n, HALF + 1])
          az, bz = slab(oz, pz - oz, haze.veils[n, HALF + 2])
          first = [ax, ay, az, 0.0].max
          last = [bx, by, bz, most].min
        elsif haze.veils[n, THINS] > 0.0
          # Above eight times the height over which it thins there is nothing to see.
          top = haze.veils[n, LEVEL] + 8.0 / haze.veils[n, THINS]
          if ray.oy > top
            first = ray.dy < -1e-6 ? (top - ray.oy) / ray.dy : 1e9
          elsif ray.dy > 1e-6
            last = [last, (top - ray.oy) / ray.dy].min
          end
        end
        return first, last
      end

      kernel o: F32, d: F32, half: F32, returns: [F32, F32]
      def slab(o, d, half)
        inverse = Geometry::RayKernels.inverse(d)
        one = (-half - o) * inverse
        two = (half - o) * inverse
        return [one, two].min, [one, two].max
      end

      # Where a ray is within the cone of a spot, which may be wider than a half space.
      kernel lamps: F32[2], n: I32, ray: Geometry::Ray, returns: [F32, F32]
      def cone(lamps, n, ray)
        cosine = lamps[n, 12]
        ox = ray.ox - lamps[n, 1]
        oy = ray.oy - lamps[n, 2]
        oz = ray.oz - lamps[n, 3]
        along = ray.dx * lamps[n, 9] + ray.dy * lamps[n, 10] + ray.dz * lamps[n, 11]
        from = ox * lamps[n, 9] + oy * lamps[n, 10] + oz * lamps[n, 11]
        square = cosine * cosine
        # (o + t d)·w = cos |o + t d|
        a = along * along - square
        b = along * from - square * (ox * ray.dx + oy * ray.dy + oz * ray.dz)
        c = from * from - square * (ox * ox + oy * oy + oz * oz)
        first = 0.0
        last = 1e9
        under = b * b - a * c
        if under <= 0.0
          # It stays on one side: in, if it is in anywhere.
          last = -1.0 if c <= 0.0 || from <= 0.0
        else
          root = Math.sqrt(under)
          s = (-b - root) / (a.abs > 1e-9 ? a : 1e-9)
          t = (-b + root) / (a.abs > 1e-9 ? a : 1e-9)
          near = [s, t].min
          far = [s, t].max
          ahead = from + near * along > 0.0
          beyond = from + far * along > 0.0
          if a < 0.0
            # It goes through the cone, or through the one behind the lamp.
            first = near
            last = ahead && beyond ? far : -1.0
          elsif beyond && along > 0.0
            first = far
          elsif ahead && along < 0.0
            last = near
          else
            last = -1.0
          end
        end
        return [first, 0.0].max, last
      end

      # How much of a lamp's light fog and smoke leave at a place.
      kernel haze: Light::HazeLight, n: I32, x: F32, y: F32, z: F32, returns: F32
      def clear(haze, n, x, y, z)
        per = 1.0 / haze.voxel
        Grid::Sampling.one_of(
          haze.left, n, ((x - haze.x) * per).clamp(0.0, haze.left.dim(3) - 1.0),
          ((y - haze.y) * per).clamp(0.0, haze.left.dim(2) - 1.0),
          ((z - haze.z) * per).clamp(0.0, haze.left.dim(1) - 1.0)
        )
      end

      # The same of light from all around.
      kernel haze: Light::HazeLight, x: F32, y: F32, z: F32, returns: F32
      def around(haze, x, y, z)
        per = 1.0 / haze.voxel
        Grid::Sampling.linear(
          haze.open, ((x - haze.x) * per).clamp(0.0, haze.open.dim(2) - 1.0),
          ((y - haze.y) * per).clamp(0.0, haze.open.dim(1) - 1.0),
          ((z - haze.z) * per).clamp(0.0, haze.open.dim(0) - 1.0)
        )
      end

      # How much nearness counts in the mean of a step along a ray from `t` on: exact for light that falls off with the
      # square, however near the lamp is (Kulla & Fajardo 2012).
      kernel lamps: F32[2], n: I32, ray: Geometry::Ray, t: F32, length: F32, returns: F32
      def nearness(lamps, n, ray, t, length)
        size = [lamps[n, 0] - 1.0, 0.0].max
        ox = lamps[n, 1] - ray.ox
        oy = lamps[n, 2] - ray.oy
        oz = lamps[n, 3] - ray.oz
        middle = ox * ray.dx + oy * ray.dy + oz * ray.dz
        aside = Math.sqrt([ox * ox + oy * oy + oz * oz - middle * middle, 0.0].max + size * size + 1e-6)
        (Math.atan((t + length - middle) / aside) - Math.atan((t - middle) / aside)) / (aside * length)
      end
    end
  end
end
