# frozen_string_literal: true

module Vumbral
  module Gas
    # From signed distance (metres, negative inside) to what a source covers, which way it blows and
    # what a collider fills. `x0 y0 z0` is the centre of the first cell, metres. Each looks only at
    # the region `k0...k1, j0...j1, i0...i1`, where the distance is known.
    module ShapeKernels
      extend Kernel::Library

      # Soft over one voxel. With a skin (metres, its whole thickness) only what lies around the
      # surface counts. `fade` is how far (metres) it goes on beyond that, weaker and weaker; `per` is one
      # over the voxel size, `region` i32 [6] holds k0 k1 j0 j1 i0 i1.
      kernel field: F32[3], distance: F32[3], skin: F32, fade: F32, per: F32, region: I32[1]
      def cover(field, distance, skin, fade, per, region)
        parallel(region[1] - region[0]) do |n|
          k = region[0] + n
          (region[2]...region[3]).each do |j|
            (region[4]...region[5]).each do |i|
              beyond = skin > 0.0 ? distance[k, j, i].abs - 0.5 * skin : distance[k, j, i]
              value = (0.5 - beyond * per).clamp(0.0, 1.0)
              if fade > 0.0
                near = (1.0 - beyond / fade).clamp(0.0, 1.0)
                value = [value, near * near].max
              end
              field[k, j, i] = value > field[k, j, i] ? value : field[k, j, i]
            end
          end
        end
      end

      # A cover times weights, none of which counts below nothing.
      kernel cover: F32[3], weight: F32[3]
      def multiply(cover, weight)
        parallel(cover.dim(0)) do |k|
          cover.dim(1).times { |j|
            cover.dim(2).times { |i|
              cover[k, j, i] = cover[k, j, i] * [weight[k, j, i], 0.0].max
            }
          }
        end
      end

      # The smaller of two distances.
      kernel field: F32[3], other: F32[3], k0: I32, k1: I32, j0: I32, j1: I32, i0: I32, i1: I32
      def nearer(field, other, k0, k1, j0, j1, i0, i1)
        parallel(k1 - k0) do |n|
          k = k0 + n
          (j0...j1).each { |j| (i0...i1).each { |i| field[k, j, i] = [field[k, j, i], other[k, j, i]].min } }
        end
      end

      # Marks what a collider fills with `mark`; with a shell (metres, its whole thickness) only what
      # lies around its surface.
      kernel solid: U8[3], distance: F32[3], shell: F32, mark: I32, k0: I32, k1: I32, j0: I32, j1: I32, i0: I32, i1: I32
      def mark(solid, distance, shell, mark, k0, k1, j0, j1, i0, i1)
        parallel(k1 - k0) do |n|
          k = k0 + n
          (j0...j1).each do |j|
            (i0...i1).each do |i|
              far = shell > 0.0 ? distance[k, j, i].abs - 0.5 * shell : distance[k, j, i]
              solid[k, j, i] = far < 0.0 ? mark : solid[k, j, i] * 1
            end
          end
        end
      end

      # The velocity of a moving collider's faces: `m` f32 [12] leads from a place to metres a second.
      kernel su: F32[3], sv: F32[3], sw: F32[3], distance: F32[3], shell: F32, m: F32[1], x0: F32, y0: F32, z0: F32,
        voxel: F32, k0: I32, k1: I32, j0: I32, j1: I32, i0: I32, i1: I32
      def carry(su, sv, sw, distance, shell, m, x0, y0, z0, voxel, k0, k1, j0, j1, i0, i1)
        parallel(k1 - k0 + 1) do |n|
          k = k0 + n
          z = z0 + k * voxel
          layer = [k, k1 - 1].min
          under = [k - 1, k0].max
          (j0...j1).each do |j|
            y = y0 + j * voxel
            (i0...i1).each do |i|
              x = x0 + i * voxel
              here = shell > 0.0 ? distance[layer, j, i].abs - 0.5 * shell : distance[layer, j, i]
              below = shell > 0.0 ? distance[under, j, i].abs - 0.5 * shell : distance[under, j, i]
              if here < 0.0 && k < k1
                su[k, j, i] = m[0] * (x - 0.5 * voxel) + m[1] * y + m[2] * z + m[3]
                su[k, j, i + 1] = m[0] * (x + 0.5 * voxel) + m[1] * y + m[2] * z + m[3]
                sv[k, j, i] = m[4] * x + m[5] * (y - 0.5 * voxel) + m[6] * z + m[7]
                sv[k, j + 1, i] = m[4] * x + m[5] * (y + 0.5 * voxel) + m[6] * z + m[7]
              end
              if here < 0.0 || below < 0.0
                sw[k, j, i] = m[8] * x + m[9] * y + m[10] * (z - 0.5 * voxel) + m[11]
              end
            end
          end
        end
      end

      # The velocity that a source blows with at centres, added: `along` the normal (m/s), one of its
      # own `vx vy vz`, what it takes from its motion (`m` as in {#carry}), and rough speed in patches
      # of `cells` cells. The first cell is `oz oy ox` of the chamber.
      kernel x: F32[3], y: F32[3], z: F32[3], distance: F32[3], along: F32, vx: F32, vy: F32, vz: F32, m: F32[1],
        x0: F32, y0: F32, z0: F32, voxel: F32, band: F32, rough: F32, cells: F32, time: F32, seed: I32, oz: I32, oy: I32, ox: I32,
        k0: I32, k1: I32, j0: I32, j1: I32, i0: I32, i1: I32
      def blow(x, y, z, distance, along, vx, vy, vz, m, x0, y0, z0, voxel, band, rough, cells, time, seed, oz, oy, ox,
        k0, k1, j0, j1, i0, i1)
        parallel(k1 - k0, uneven: true) do |n|
          k = k0 + n
          c = z0 + k * voxel
          above = [k + 1, k1 - 1].min
          below = [k - 1, k0].max
          (j0...j1).each do |j|
            b = y0 + j * voxel
            over = [j + 1, j1 - 1].min
            under = [j - 1, j0].max
            (i0...i1).each do |i|
              if distance[k, j, i] < band
                a = x0 + i * voxel
                right = [i + 1, i1 - 1].min
                left = [i - 1, i0].max
                gx = distance[k, j, right] - distance[k, j, left]
                gy = distance[k, over, i] - distance[k, under, i]
                gz = distance[above, j, i] - distance[below, j, i]
                per = along / [Math.sqrt(gx * gx + gy * gy + gz * gz), 1e-6].max
                p = 0.0
                q = 0.0
                r = 0.0
                if rough > 0.0
                  p = rough * Grid::Noise.value((ox + i) / cells, (oy + j) / cells, (oz + k) / cells, time, seed + 11)
                  q = rough * Grid::Noise.value((ox + i) / cells, (oy + j) / cells, (oz + k) / cells, time, seed + 12)
                  r = rough * Grid::Noise.value((ox + i) / cells, (oy + j) / cells, (oz + k) / cells, time, seed + 13)
                end
                x[k, j, i] = vx + per * gx + m[0] * a + m[1] * b + m[2] * c + m[3] + p
                y[k, j, i] = vy + per * gy + m[4] * a + m[5] * b + m[6] * c + m[7] + q
                z[k, j, i] = vz + per * gz + m[8] * a + m[9] * b + m[10] * c + m[11] + r
              end
            end
          end
        end
      end

      # What points cover on their way: `points` f32 [n, 7], where each was, where it is, its radius.
      # `x y z` take their velocity, `per` being one over the seconds between.
      kernel cover: F32[3], x: F32[3], y: F32[3], z: F32[3], points: F32[2], x0: F32, y0: F32, z0: F32, voxel: F32,
        per: F32, along: F32
      def dot(cover, x, y, z, points, x0, y0, z0, voxel, per, along)
        parallel(cover.dim(0), uneven: true) do |k|
          c = z0 + k * voxel
          points.dim(0).times do |n|
            r = points[n, 6]
            room = r + voxel
            if [points[n, 2], points[n, 5]].min - room <= c && [points[n, 2], points[n, 5]].max + room >= c
              ux = points[n, 3] - points[n, 0]
              uy = points[n, 4] - points[n, 1]
              uz = points[n, 5] - points[n, 2]
              length = ux * ux + uy * uy + uz * uz + 1e-12
              j0 = (([points[n, 1], points[n, 4]].min - room - y0) / voxel).ceil.clamp(0, cover.dim(1))
              j1 = (([points[n, 1], points[n, 4]].max + room - y0) / voxel).floor.clamp(-1, cover.dim(1) - 1)
              i0 = (([points[n, 0], points[n, 3]].min - room - x0) / voxel).ceil.clamp(0, cover.dim(2))
              i1 = (([points[n, 0], points[n, 3]].max + room - x0) / voxel).floor.clamp(-1, cover.dim(2) - 1)
              (j0..j1).each do |j|
                b = y0 + j * voxel
                (i0..i1).each do |i|
                  a = x0 + i * voxel
                  t = (((a - points[n, 0]) * ux + (b - points[n, 1]) * uy + (c - points[n, 2]) * uz) / length).clamp(
                    0.0, 1.0
                  )
                  dx = a - points[n, 0] - t * ux
                  dy = b - points[n, 1] - t * uy
                  dz = c - points[n, 2] - t * uz
                  far = Math.sqrt(dx * dx + dy * dy + dz * dz)
                  value = (0.5 + (r - far) / voxel).clamp(0.0, 1.0)
                  if value > cover[k, j, i]
                    cover[k, j, i] = value
                    out = along / [far, 0.2 * voxel].max
                    x[k, j, i] = ux * per + out * dx
                    y[k, j, i] = uy * per + out * dy
                    z[k, j, i] = uz * per + out * dz
                  end
                end
              end
            end
          end
        end
      end
    end
  end
end
