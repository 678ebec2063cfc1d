# frozen_string_literal: true

module Vumbral
  module Light
    # Loops for light that goes on within smoke: fourteen directions from cell to cell, along the axes and the
    # diagonals, whose weights are exact for light that varies gently with direction (Lebedev 1976).
    module BounceKernels
      extend Kernel::Library

      WAYS = 14
      # What an axis and a diagonal count.
      AXIS, DIAGONAL = 0.06666667, 0.075
      LONGER = 1.7320508
      # Square of the optical depth from which on a cell is deep.
      DEEP = 20.0

      # Which way a direction goes along x, y, z.
      kernel n: I32, returns: [I32, I32, I32]
      def way(n)
        x = n == 0 ? 1 : (n == 1 ? -1 : 0)
        y = n == 2 ? 1 : (n == 3 ? -1 : 0)
        z = n == 4 ? 1 : (n == 5 ? -1 : 0)
        if n > 5
          x = ((n - 6) & 1) * 2 - 1
          y = ((n - 6) & 2) - 1
          z = ((n - 6) & 4) / 2 - 1
        end
        return x, y, z
      end

      # How far a cell of an optical depth is too thick for the grid to say what happens in its skin, 0 to 1.
      kernel depth: F32, returns: F32
      def deep(depth)
        1.0 - Math.exp(-depth * depth / DEEP)
      end

      # Light that lamps and fire send straight into smoke, in all directions alike, on a coarser grid, in the
      # mean of the smoke. `scatter` as {Rig#scatter} has it.
      kernel light: Light::Lamplight, smoke: F32[3], lamps: F32[2], scatter: F32[1], lattice: Grid::Lattice
      def gather(light, smoke, lamps, scatter, lattice)
        parallel(light.mean.dim(0), uneven: true) do |bk|
          edge = (smoke.dim(0) + light.mean.dim(0) - 1) / light.mean.dim(0)
          edge = [edge, (smoke.dim(1) + light.mean.dim(1) - 1) / light.mean.dim(1),
            (smoke.dim(2) + light.mean.dim(2) - 1) / light.mean.dim(2)].max
          light.mean.dim(1).times do |bj|
            light.mean.dim(2).times do |bi|
              sum = 0.0
              red = 0.0
              green = 0.0
              blue = 0.0
              (edge * bk...[edge * bk + edge, smoke.dim(0)].min).each do |k|
                (edge * bj...[edge * bj + edge, smoke.dim(1)].min).each do |j|
                  (edge * bi...[edge * bi + edge, smoke.dim(2)].min).each do |i|
                    density = smoke[k, j, i]
                    if density > 0.0001
                      sum += density
                      red += density * light.direct[0, k, j, i]
                      green += density * light.direct[1, k, j, i]
                      blue += density * light.direct[2, k, j, i]
                      lamps.dim(0).times do |n|
                        _dx, _dy, _dz, _far, gain = LampKernels.towards(lamps, n, lattice.x + i * lattice.voxel,
                          lattice.y + j * lattice.voxel, lattice.z + k * lattice.voxel)
                        soft = lamps[n, 7] > 0.5 ? scatter[4] * scatter[3] * light.depths[n, k, j, i] : 0.0
                        part = density * gain * VolumeKernels::ISOTROPIC
                        part *= light.open[n, k, j, i] if lamps[n, 7] > 0.5 && light.open.dim(3) == smoke.dim(2)
                        # In the mean of the voxel and not in its middle, where it is thick.
                        half = lamps[n, 7] > 0.5 ? [0.5 * scatter[4] * scatter[3] * density * lattice.voxel,
                          soft].min : 0.0
                        part *=
                          half > 0.05 ? 0.5 * (Math.exp(half - soft) - Math.exp(-half - soft)) / half : Math.exp(-soft)
                        red += part * lamps[n, 4]
                        green += part * lamps[n, 5]
                        blue += part * lamps[n, 6]
                      end
                    end
                  end
                end
              end
              light.mean[bk, bj, bi] = sum / (edge * edge * edge)
              one = sum > 0.0 ? (1.0 - deep(scatter[3] * scatter[4] * lattice.voxel * edge * light.mean[bk, bj,
                bi])) / sum : 0.0
              light.first[0, bk, bj, bi] = red * one
              light.first[1, bk, bj, bi] = green * one
              light.first[2, bk, bj, bi] = blue * one
            end
          end
        end
      end

      # Where smoke is so thick that its skin must be told apart: each cell or any beside it. `thick` is the
      # optical depth of a cell of density 1.
      kernel skin: F32[3], mean: F32[3], thick: F32
      def skins(skin, mean, thick)
        each_cell(mean) do |k, j, i|
          most = 0.0
          (-1..1).each do |c|
            (-1..1).each do |b|
              (-1..1).each do |a|
                most = [most, mean[(k + c).clamp(0, mean.dim(0) - 1), (j + b).clamp(0, mean.dim(1) - 1),
                  (i + a).clamp(0, mean.dim(2) - 1)]].max
              end
            end
          end
          skin[k, j, i] = deep(thick * most)
        end
      end

      # What a cell lets through, and what it shows in its mean of light that comes in: `parts` f32
      # [4, z, y, 3x], both along an axis, then both along a diagonal, for each colour, as is light that comes `first`,
      # which `abreast` takes over. A row has its colours side by side, so that all three go on in one round. `thick`
      # is the optical depth of a density of 1.
      kernel parts: F32[4], abreast: F32[3], first: F32[4], mean: F32[3], thick: F32
      def pass(parts, abreast, first, mean, thick)
        each_cell(mean) do |k, j, i|
          2.times do |n|
            depth = thick * mean[k, j, i] * (n == 0 ? 1.0 : LONGER)
            kept = Math.exp(-depth)
            3.times do |c|
              parts[2 * n, k, j, 3 * i + c] = kept
              parts[2 * n + 1, k, j, 3 * i + c] = depth > 0.01 ? (1.0 - kept) / depth : 1.0 - 0.5 * depth
            end
          end
          3.times { |c| abreast[k, j, 3 * i + c] = first[c, k, j, i] }
        end
      end

      # The brightest light of each colour.
      kernel abreast: F32[3], returns: [F32, F32, F32]
      def peaks(abreast)
        most = local_f32(3)
        3.times { |c| most[c] = 0.0 }
        abreast.dim(0).times do |k|
          abreast.dim(1).times do |j|
            (abreast.dim(2) / 3).times do |i|
              3.times { |c| most[c] = [most[c], abreast[k, j, 3 * i + c]].max }
            end
          end
        end
        return most[0], most[1], most[2]
      end

      # How much of the light that comes from beyond the grid along a direction comes from above.
      kernel y: I32, returns: F32
      def above(y)
        y < 0 ? 1.0 : (y > 0 ? 0.0 : 0.5)
      end

      # Carries light through the grid in every direction: `beams` f32 [way, z, y, 3x] is what leaves each cell,
      # `source` what each cell gives of its own; `ends` f32 [4, 3x] as {Bounces} has it.
      kernel beams: F32[4], source: F32[3], parts: F32[4], ends: F32[2]
      def sweep(beams, source, parts, ends)
        parallel(WAYS) do |n|
          x, y, z = way(n)
          part = n > 5 ? 2 : 0
          up = above(y)
          nz = source.dim(0)
          ny = source.dim(1)
          nx = source.dim(2)
          nz.times do |a|
            k = z < 0 ? nz - 1 - a : a
            ny.times do |b|
              j = y < 0 ? ny - 1 - b : b
              from_k = k - z
              from_j = j - y
              within = from_k >= 0 && from_k < nz && from_j >= 0 && from_j < ny
              # The cells at the end of the row where light comes in, or all of it.
              first = within && x < 0 ? nx - 3 : 0
              last = within ? (x == 0 ? 0 : first + 3) : nx
              (first...last).each do |i|
                own = source[k, j, i]
                beyond = ends[1, i] + up * (ends[0, i] - ends[1, i])
                beams[n, k, j, i] = own + (beyond - own) * parts[part, k, j, i]
              end
              if within && y == 0 && z == 0
                (3...nx).each do |c|
                  i = x < 0 ? nx - 1 - c : c
                  own = source[k, j, i]
                  beams[n, k, j, i] = own + (beams[n, k, j, i - 3 * x] - own) * parts[part, k, j, i]
                end
              elsif within
                # What comes from another row can be worked out side by side.
                ((x > 0 ? 3 : 0)...(x < 0 ? nx - 3 : nx)).each do |i|
                  own = source[k, j, i]
                  beams[n, k, j, i] = own + (beams[n, from_k, from_j, i - 3 * x] - own) * parts[part, k, j, i]
                end
              end
            end
          end
        end
      end

      # The mean of what passes each cell from all around, `light`, and what the cell gives next: what goes on of
      # it, and of what comes `first`. Where `ahead`, what a cell gives itself again and again is summed up at
      # once (Olson, Auer & Buchler 1986).
      # @return the largest change of what a cell gives, as a part of the brightest light of its colour
      kernel source: F32[3], light: F32[3], beams: F32[4], parts: F32[4], first: F32[3], ends: F32[2], ahead: BOOL,
        returns: F64
      def renew(source, light, beams, parts, first, ends, ahead)
        most = parallel_max(source.dim(0)) do |k|
          found = 0.0
          nx = source.dim(2)
          source.dim(1).times do |j|
            nx.times { |i| light[k, j, i] = 0.0 }
            WAYS.times do |n|
              x, y, z = way(n)
              up = above(y)
              from_k = k - z
              from_j = j - y
              weight = n > 5 ? DIAGONAL : AXIS
              shown = n > 5 ? 3 : 1
              within = from_k >= 0 && from_k < source.dim(0) && from_j >= 0 && from_j < source.dim(1)
              start = within && x < 0 ? nx - 3 : 0
              last = within ? (x == 0 ? 0 : start + 3) : nx
              (start...last).each do |i|
                own = source[k, j, i]
                beyond = ends[1, i] + up * (ends[0, i] - ends[1, i])
                light[k, j, i] += weight * (own + (beyond - own) * parts[shown, k, j, i])
              end
              if within
                ((x > 0 ? 3 : 0)...(x < 0 ? nx - 3 : nx)).each do |i|
                  own = source[k, j, i]
                  light[k, j, i] += weight * (own + (beams[n, from_k, from_j, i - 3 * x] - own) * parts[shown, k, j, i])
                end
              end
            end
            nx.times do |i|
              itself = 1.0 - 0.4 * parts[1, k, j, i] - 0.6 * parts[3, k, j, i]
              change = ends[2, i] * (light[k, j, i] + first[k, j, i]) - source[k, j, i]
              change /= 1.0 - ends[2, i] * itself if ahead
              source[k, j, i] += change
              found = [found, change.abs * ends[3, i]].max
            end
          end
          found
        end
        most
      end

      # Light in deep skins, where cells differ much, in the mean of those around (weights 1, 2, 1 each way); its
      # colours one after the other, `out` f32 [3, z, y, x].
      kernel out: F32[4], light: F32[3], skin: F32[3]
      def soften(out, light, skin)
        each_cell(skin) do |k, j, i|
          3.times do |colour|
            value = light[k, j, 3 * i + colour]
            if skin[k, j, i] > 0.01
              sum = 0.0
              (-1..1).each do |c|
                (-1..1).each do |b|
                  (-1..1).each do |a|
                    weight = (2.0 - c.abs) * (2.0 - b.abs) * (2.0 - a.abs)
                    sum += weight * light[(k + c).clamp(0, skin.dim(0) - 1), (j + b).clamp(0, skin.dim(1) - 1),
                      3 * (i + a).clamp(0, skin.dim(2) - 1) + colour]
                  end
                end
              end
              value += skin[k, j, i] * (0.015625 * sum - value)
            end
            out[colour, k, j, i] = value
          end
        end
      end

      # Adds what went on of the light on a coarser grid to a finer one, where `near` says so.
      kernel soft: F32[4], light: F32[4], near: U8[3], scatter: F32[1], edge: F32
      def spread(soft, light, near, scatter, edge)
        parallel(soft.dim(1), uneven: true) do |k|
          soft.dim(2).times do |j|
            soft.dim(3).times do |i|
              if near[k, j, i] != 0
                r, g, b = Grid::Sampling.three(light, (i + 0.5) / edge - 0.5, (j + 0.5) / edge - 0.5,
                  (k + 0.5) / edge - 0.5)
                soft[0, k, j, i] += scatter[0] * r
                soft[1, k, j, i] += scatter[1] * g
                soft[2, k, j, i] += scatter[2] * b
              end
            end
          end
        end
      end
    end
  end
end
