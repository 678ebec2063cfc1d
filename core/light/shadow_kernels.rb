# frozen_string_literal: true

module Vumbral
  module Light
    # Pictures of depth from a lamp: a face is a row of lamp, place, the ways across and up (by one over how wide it
    # sees), ahead, whether its rays are parallel, pixels along an edge, and where its pixels begin in `maps`. A pixel
    # holds how near the nearest prop is: one over its depth, or less its depth where rays are parallel.
    module ShadowKernels
      extend Kernel::Library

      BAND = 64
      NEAR = 0.02
      # How much nearer something must be to hide a place.
      SLACK, STEP = 1.004, 0.003

      # A place as a face sees it: across, up (-1 to 1), and nearness; nearness is nothing behind it.
      kernel faces: F32[2], n: I32, x: F32, y: F32, z: F32, returns: [F32, F32, F32]
      def seen(faces, n, x, y, z)
        a = x - faces[n, 1]
        b = y - faces[n, 2]
        c = z - faces[n, 3]
        u = a * faces[n, 4] + b * faces[n, 5] + c * faces[n, 6]
        v = a * faces[n, 7] + b * faces[n, 8] + c * faces[n, 9]
        far = a * faces[n, 10] + b * faces[n, 11] + c * faces[n, 12]
        near = -far
        if faces[n, 13] < 0.5
          near = far > 1e-4 ? 1.0 / far : 0.0
          u *= near
          v *= near
        end
        return u, v, near
      end

      # Draws all triangles into a face.
      kernel maps: F32[1], faces: F32[2], n: I32, corners: F32[2]
      def draw(maps, faces, n, corners)
        size = faces[n, 14].to_i
        parallel((size + BAND - 1) / BAND, uneven: true) do |band|
          corners.dim(0).times do |t|
            if faces[n, 13] > 0.5
              one(maps, faces, n, band, corners, t)
            else
              far = local_f32(3)
              3.times do |k|
                far[k] = (corners[t, 3 * k] - faces[n, 1]) * faces[n, 10] +
                  (corners[t, 3 * k + 1] - faces[n, 2]) * faces[n, 11] +
                  (corners[t, 3 * k + 2] - faces[n, 3]) * faces[n, 12]
              end
              count = 0
              3.times { |k| count += 1 if far[k] > NEAR }
              if count == 3
                one(maps, faces, n, band, corners, t)
              elsif count > 0
                cut(maps, faces, n, band, corners, t, far)
              end
            end
          end
        end
      end

      kernel maps: F32[1], faces: F32[2], n: I32, band: I32, corners: F32[2], t: I32
      def one(maps, faces, n, band, corners, t)
        place = local_f32(9)
        3.times do |k|
          u, v, near = seen(faces, n, corners[t, 3 * k], corners[t, 3 * k + 1], corners[t, 3 * k + 2])
          place[3 * k] = u
          place[3 * k + 1] = v
          place[3 * k + 2] = near
        end
        paint(maps, faces, n, band, place)
      end

      # A triangle that is partly behind, without that part.
      kernel maps: F32[1], faces: F32[2], n: I32, band: I32, corners: F32[2], t: I32, far: F32[1]
      def cut(maps, faces, n, band, corners, t, far)
        ring = local_f32(12)
        count = 0
        3.times do |k|
          m = (k + 1) % 3
          if far[k] > NEAR
            u, v, near = seen(faces, n, corners[t, 3 * k], corners[t, 3 * k + 1], corners[t, 3 * k + 2])
            ring[3 * count] = u
            ring[3 * count + 1] = v
            ring[3 * count + 2] = near
            count += 1
          end
          if (far[k] > NEAR) != (far[m] > NEAR)
            s = (far[k] - NEAR) / (far[k] - far[m])
            u, v, near =
              seen(
                faces, n, corners[t, 3 * k] + s * (corners[t, 3 * m] - corners[t, 3 * k]),
                corners[t, 3 * k + 1] + s * (corners[t, 3 * m + 1] - corners[t, 3 * k + 1]),
                corners[t, 3 * k + 2] + s * (corners[t, 3 * m + 2] - corners[t, 3 * k + 2])
              )
            ring[3 * count] = u
            ring[3 * count + 1] = v
            ring[3 * count + 2] = near
            count += 1
          end
        end
        place = local_f32(9)
        (count - 2).times do |m|
          3.times do |c|
            place[c] = ring[c]
            place[3 + c] = ring[3 * (m + 1) + c]
            place[6 + c] = ring[3 * (m + 2) + c]
          end
          paint(maps, faces, n, band, place)
        end
      end

      # Fills the pixels of a triangle that lie in a band of rows.
      kernel maps: F32[1], faces: F32[2], n: I32, band: I32, place: F32[1]
      def paint(maps, faces, n, band, place)
        size = faces[n, 14].to_i
        start = faces[n, 15].to_i
        half = 0.5 * size
        ax = (place[0] + 1.0) * half - 0.5
        ay = (place[1] + 1.0) * half - 0.5
        bx = (place[3] + 1.0) * half - 0.5
        by = (place[4] + 1.0) * half - 0.5
        cx = (place[6] + 1.0) * half - 0.5
        cy = (place[7] + 1.0) * half - 0.5
        low = [[[ay, by, cy].min, -1.0].max.ceil, band * BAND].max
        high = [[[ay, by, cy].max, size.to_f].min.floor, band * BAND + BAND - 1, size - 1].min
        area = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax)
        if low <= high && area.abs > 1e-9
          per = 1.0 / area
          left = [[[ax, bx, cx].min, -1.0].max.ceil, 0].max
          right = [[[ax, bx, cx].max, size.to_f].min.floor, size - 1].min
          (low..high).each do |y|
            (left..right).each do |x|
              q = ((x - ax) * (cy - ay) - (y - ay) * (cx - ax)) * per
              r = ((bx - ax) * (y - ay) - (by - ay) * (x - ax)) * per
              if q >= -1e-4 && r >= -1e-4 && q + r <= 1.0001
                near = place[2] + q * (place[5] - place[2]) + r * (place[8] - place[2])
                at = start + y * size + x
                maps[at] = near if near > maps[at]
              end
            end
          end
        end
      end

      # How much of a lamp props leave to a place, 0 to 1.
      kernel haze: Light::HazeLight, lamps: F32[2], n: I32, x: F32, y: F32, z: F32, returns: F32
      def lit(haze, lamps, n, x, y, z)
        left = 1.0
        found = 0
        haze.faces.dim(0).times do |f|
          if found == 0 && haze.faces[f, 0].to_i == n
            u, v, near = seen(haze.faces, f, x, y, z)
            if u > -1.0 && u < 1.0 && v > -1.0 && v < 1.0 && (haze.faces[f, 13] > 0.5 || near > 0.0)
              found = 1
              left = looked(haze, f, u, v, near)
            end
          end
        end
        left
      end

      # Between the four pixels around a place.
      kernel haze: Light::HazeLight, f: I32, u: F32, v: F32, near: F32, returns: F32
      def looked(haze, f, u, v, near)
        size = haze.faces[f, 14].to_i
        start = haze.faces[f, 15].to_i
        x = ((u + 1.0) * 0.5 * size - 0.5).clamp(0.0, size - 1.001)
        y = ((v + 1.0) * 0.5 * size - 0.5).clamp(0.0, size - 1.001)
        i = x.to_i
        j = y.to_i
        hides = haze.faces[f, 13] > 0.5 ? near + STEP : near * SLACK
        a = haze.maps[start + j * size + i] > hides ? 0.0 : 1.0
        b = haze.maps[start + j * size + i + 1] > hides ? 0.0 : 1.0
        c = haze.maps[start + (j + 1) * size + i] > hides ? 0.0 : 1.0
        d = haze.maps[start + (j + 1) * size + i + 1] > hides ? 0.0 : 1.0
        low = a + (x - i) * (b - a)
        low + (y - j) * (c + (x - i) * (d - c) - low)
      end
    end
  end
end
