# frozen_string_literal: true

module Vumbral
  module Flow
    # From signed distance (metres, negative inside) to what a source covers, which way it blows and
    # what a collider fills. Each looks only at the
    # region where the distance is known.
    module ShapeKernels
      extend Kernel::Library

      # Soft over one voxel. With a skin (metres, its whole thickness) only what lies around the
      # surface counts. `fade` is how far (metres) it goes on beyond that, weaker and weaker; `per` is one
      # over the voxel size.
      kernel field: F32[3], distance: F32[3], skin: F32, fade: F32, per: F32, region: Grid::Region
      def cover(field, distance, skin, fade, per, region)
        parallel(region.k1 - region.k0) do |n|
          k = region.k0 + n
          (region.j0...region.j1).each do |j|
            (region.i0...region.i1).each do |i|
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
      kernel field: F32[3], other: F32[3], region: Grid::Region
      def nearer(field, other, region)
        parallel(region.k1 - region.k0) do |n|
          k = region.k0 + n
          (region.j0...region.j1).each do |j|
            (region.i0...region.i1).each { |i| field[k, j, i] = [field[k, j, i], other[k, j, i]].min }
          end
        end
      end

      # Marks what a collider fills with `mark`; with a shell (metres, its whole thickness) only what
      # lies around its surface.
      kernel solid: U8[3], distance: F32[3], shell: F32, mark: I32, region: Grid::Region
      def mark(solid, distance, shell, mark, region)
        parallel(region.k1 - region.k0) do |n|
          k = region.k0 + n
          (region.j0...region.j1).each do |j|
            (region.i0...region.i1).each do |i|
              far = shell > 0.0 ? distance[k, j, i].abs - 0.5 * shell : distance[k, j, i]
              solid[k, j, i] = far < 0.0 ? mark : solid[k, j, i] * 1
            end
          end
        end
      end

      # The velocity of a moving collider's faces: `m` f32 [12] leads from a place to metres a second.
      kernel faces: Flow::Faces, distance: F32[3], shell: F32, m: F32[1], lattice: Grid::Lattice, region: Grid::Region
      def carry(faces, distance, shell, m, lattice, region)
        parallel(region.k1 - region.k0 + 1) do |n|
          k = region.k0 + n
          z = lattice.z + k * lattice.voxel
          layer = [k, region.k1 - 1].min
          under = [k - 1, region.k0].max
          (region.j0...region.j1).each do |j|
            y = lattice.y + j * lattice.voxel
            (region.i0...region.i1).each do |i|
              x = lattice.x + i * lattice.voxel
              here = shell > 0.0 ? distance[layer, j, i].abs - 0.5 * shell : distance[layer, j, i]
              below = shell > 0.0 ? distance[under, j, i].abs - 0.5 * shell : distance[under, j, i]
              if here < 0.0 && k < region.k1
                faces.u[k, j, i] = m[0] * (x - 0.5 * lattice.voxel) + m[1] * y + m[2] * z + m[3]
                faces.u[k, j, i + 1] = m[0] * (x + 0.5 * lattice.voxel) + m[1] * y + m[2] * z + m[3]
                faces.v[k, j, i] = m[4] * x + m[5] * (y - 0.5 * lattice.voxel) + m[6] * z + m[7]
                faces.v[k, j + 1, i] = m[4] * x + m[5] * (y + 0.5 * lattice.voxel) + m[6] * z + m[7]
              end
              if here < 0.0 || below < 0.0
                faces.w[k, j, i] = m[8] * x + m[9] * y + m[10] * (z - 0.5 * lattice.voxel) + m[11]
              end
            end
          end
        end
      end

      # Adds to the velocity of a moving collider's faces how its surface moves by itself, from centres.
      kernel faces: Flow::Faces, distance: F32[3], shell: F32, field: Grid::VectorField, region: Grid::Region
      def carry_flow(faces, distance, shell, field, region)
        parallel(region.k1 - region.k0) do |n|
          k = region.k0 + n
          (region.j0...region.j1).each do |j|
            (region.i0...region.i1).each do |i|
              here = shell > 0.0 ? distance[k, j, i].abs - 0.5 * shell : distance[k, j, i]
              if here < 0.0
                # Half from either side; the surface's own last cell gives all of it to the face.
                left = i > region.i0 && inside?(distance[k, j, i - 1], shell)
                right = i + 1 < region.i1 && inside?(distance[k, j, i + 1], shell)
                under = j > region.j0 && inside?(distance[k, j - 1, i], shell)
                over = j + 1 < region.j1 && inside?(distance[k, j + 1, i], shell)
                faces.u[k, j, i] += (left ? 0.5 * (field.x[k, j, i - 1] + field.x[k, j, i]) : field.x[k, j, i])
                faces.u[k, j, i + 1] += field.x[k, j, i] unless right
                faces.v[k, j, i] += (under ? 0.5 * (field.y[k, j - 1, i] + field.y[k, j, i]) : field.y[k, j, i])
                faces.v[k, j + 1, i] += field.y[k, j, i] unless over
              end
            end
          end
        end
        # Layers meet in the faces along z.
        parallel(region.j1 - region.j0) do |n|
          j = region.j0 + n
          (region.k0...region.k1).each do |k|
            (region.i0...region.i1).each do |i|
              if inside?(distance[k, j, i], shell)
                below = k > region.k0 && inside?(distance[k - 1, j, i], shell)
                above = k + 1 < region.k1 && inside?(distance[k + 1, j, i], shell)
                faces.w[k, j, i] += (below ? 0.5 * (field.z[k - 1, j, i] + field.z[k, j, i]) : field.z[k, j, i])
                faces.w[k + 1, j, i] += field.z[k, j, i] unless above
              end
            end
          end
        end
      end

      kernel distance: F32, shell: F32, returns: BOOL
      def inside?(distance, shell)
        (shell > 0.0 ? distance.abs - 0.5 * shell : distance) < 0.0
      end

      # Adds a share of how a source's surface moves by itself to what it blows with.
      kernel velocity: Grid::VectorField, distance: F32[3], band: F32, field: Grid::VectorField, share: F32,
        region: Grid::Region
      def blow_flow(velocity, distance, band, field, share, region)
        parallel(region.k1 - region.k0) do |n|
          k = region.k0 + n
          (region.j0...region.j1).each do |j|
            (region.i0...region.i1).each do |i|
              if distance[k, j, i] < band
                velocity.x[k, j, i] += share * field.x[k, j, i]
                velocity.y[k, j, i] += share * field.y[k, j, i]
                velocity.z[k, j, i] += share * field.z[k, j, i]
              end
            end
          end
        end
      end

      # The velocity that a source blows with at centres, added: along the normal, one of its own,
      # what it takes from its motion (`m` as in {#carry}), and rough speed in patches. `place` holds which
      # cell of the chamber the first one is (z, y, x).
      kernel velocity: Grid::VectorField, distance: F32[3], m: F32[1], band: F32, blast: Flow::Blast, place: I32[1],
        lattice: Grid::Lattice, region: Grid::Region
      def blow(velocity, distance, m, band, blast, place, lattice, region)
        parallel(region.k1 - region.k0, uneven: true) do |n|
          k = region.k0 + n
          c = lattice.z + k * lattice.voxel
          above = [k + 1, region.k1 - 1].min
          below = [k - 1, region.k0].max
          (region.j0...region.j1).each do |j|
            b = lattice.y + j * lattice.voxel
            over = [j + 1, region.j1 - 1].min
            under = [j - 1, region.j0].max
            (region.i0...region.i1).each do |i|
              if distance[k, j, i] < band
                a = lattice.x + i * lattice.voxel
                right = [i + 1, region.i1 - 1].min
                left = [i - 1, region.i0].max
                gx = distance[k, j, right] - distance[k, j, left]
                gy = distance[k, over, i] - distance[k, under, i]
                gz = distance[above, j, i] - distance[below, j, i]
                per = blast.along / [Math.sqrt(gx * gx + gy * gy + gz * gz), 1e-6].max
                p = 0.0
                q = 0.0
                r = 0.0
                if blast.rough > 0.0
                  p =
                    blast.rough *
                    Grid::Noise.value(
                      (place[2] + i) / blast.cells, (place[1] + j) / blast.cells, (place[0] + k) / blast.cells,
                      blast.time, blast.seed + 11
                    )
                  q =
                    blast.rough *
                    Grid::Noise.value(
                      (place[2] + i) / blast.cells, (place[1] + j) / blast.cells, (place[0] + k) / blast.cells,
                      blast.time, blast.seed + 12
                    )
                  r =
                    blast.rough *
                    Grid::Noise.value(
                      (place[2] + i) / blast.cells, (place[1] + j) / blast.cells, (place[0] + k) / blast.cells,
                      blast.time, blast.seed + 13
                    )
                end
                velocity.x[k, j, i] = blast.x + per * gx + m[0] * a + m[1] * b + m[2] * c + m[3] + p
                velocity.y[k, j, i] = blast.y + per * gy + m[4] * a + m[5] * b + m[6] * c + m[7] + q
                velocity.z[k, j, i] = blast.z + per * gz + m[8] * a + m[9] * b + m[10] * c + m[11] + r
              end
            end
          end
        end
      end

      # What points cover on their way: `points` f32 [n, 7], where each was, where it is, its radius.
      # `velocity` takes theirs, `per` being one over the seconds between.
      kernel cover: F32[3], velocity: Grid::VectorField, points: F32[2], per: F32, along: F32, lattice: Grid::Lattice
      def dot(cover, velocity, points, per, along, lattice)
        parallel(cover.dim(0), uneven: true) do |k|
          c = lattice.z + k * lattice.voxel
          points.dim(0).times do |n|
            r = points[n, 6]
            room = r + lattice.voxel
            if [points[n, 2], points[n, 5]].min - room <= c && [points[n, 2], points[n, 5]].max + room >= c
              ux = points[n, 3] - points[n, 0]
              uy = points[n, 4] - points[n, 1]
              uz = points[n, 5] - points[n, 2]
              length = ux * ux + uy * uy + uz * uz + 1e-12
              j0 = (([points[n, 1], points[n, 4]].min - room - lattice.y) / lattice.voxel).ceil.clamp(0, cover.dim(1))
              j1 =
                (([points[n, 1], points[n, 4]].max + room - lattice.y) / lattice.voxel).floor.clamp(
                  -1, cover.dim(1) - 1
                )
              i0 = (([points[n, 0], points[n, 3]].min - room - lattice.x) / lattice.voxel).ceil.clamp(0, cover.dim(2))
              i1 =
                (([points[n, 0], points[n, 3]].max + room - lattice.x) / lattice.voxel).floor.clamp(
                  -1, cover.dim(2) - 1
                )
              (j0..j1).each do |j|
                b = lattice.y + j * lattice.voxel
                (i0..i1).each do |i|
                  a = lattice.x + i * lattice.voxel
                  t = (((a - points[n, 0]) * ux + (b - points[n, 1]) * uy + (c - points[n, 2]) * uz) / length).clamp(
                    0.0, 1.0
                  )
                  dx = a - points[n, 0] - t * ux
                  dy = b - points[n, 1] - t * uy
                  dz = c - points[n, 2] - t * uz
                  far = Math.sqrt(dx * dx + dy * dy + dz * dz)
                  value = (0.5 + (r - far) / lattice.voxel).clamp(0.0, 1.0)
                  if value > cover[k, j, i]
                    cover[k, j, i] = value
                    out = along / [far, 0.2 * lattice.voxel].max
                    velocity.x[k, j, i] = ux * per + out * dx
                    velocity.y[k, j, i] = uy * per + out * dy
                    velocity.z[k, j, i] = uz * per + out * dz
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
