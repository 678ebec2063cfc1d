# frozen_string_literal: true

module Vumbral
  module Liquid
    # Loops over spray, foam and bubbles.
    module SprayKernels
      extend Kernel::Library

      # How much of the liquid must be about a place that spray becomes foam, and foam bubbles.
      FOAM, BUBBLE = 0.2, 0.85

      # How many particles come of each of the liquid's: where they run into each other (trapped air), and where a crest
      # goes the way it points. `limits` f32 [10]: of each how many a second, from and to where that rises; the energy
      # that it needs (m²/s²), from and to; seconds; voxel. `rate` is how much more come at each cell.
      kernel counts: I32[1], drops: Liquid::Drops, first: I32[1], full: F32[3], rate: F32[3], size: I32[1],
        limits: F32[1], seed: I32
      def potentials(counts, drops, first, full, rate, size, limits, seed)
        parallel((counts.size + 255) / 256, uneven: true) do |block|
          (256 * block...[256 * block + 256, counts.size].min).each do |p|
            counts[p] = 0
            x = drops.at[p, 0]
            y = drops.at[p, 1]
            z = drops.at[p, 2]
            u = drops.speed[p, 0]
            v = drops.speed[p, 1]
            w = drops.speed[p, 2]
            energy = 0.5 * (u * u + v * v + w * w)
            share = ((energy - limits[6]) / [limits[7] - limits[6], 1e-6].max).clamp(0.0, 1.0)
            about = Grid::Sampling.linear(full, x - 0.5, y - 0.5, z - 0.5)
            if share > 0.0 && about < 0.97
              trapped, crest = met(drops, first, size, p)
              a = ((trapped - limits[1]) / [limits[2] - limits[1], 1e-6].max).clamp(0.0, 1.0)
              b = ((crest - limits[4]) / [limits[5] - limits[4], 1e-6].max).clamp(0.0, 1.0)
              wanted =
                share * (limits[0] * a + limits[3] * b) * limits[8] *
                rate[
                  z.to_i.clamp(0, rate.dim(0) - 1), y.to_i.clamp(0, rate.dim(1) - 1), x.to_i.clamp(0, rate.dim(2) - 1)
                ]
              whole = wanted.floor
              counts[p] = whole.to_i + (Grid::Noise.lattice(drops.id[p], 1, 2, 3, seed) < wanted - whole ? 1 : 0)
            end
          end
        end
      end

      # Those of the kinds that are marked. Gives how many there are.
      kernel chosen: I32[1], spray: Liquid::Spray, marked: I32[1], returns: I32
      def only(chosen, spray, marked)
        count = 0
        spray.kind.size.times do |n|
          if marked[spray.kind[n]] == 1
            chosen[count] = n
            count += 1
          end
        end
        count
      end

      # Takes what is thrown near a body so many times, less and less as far as `reach` from it (metres).
      kernel rate: F32[3], distance: F32[3], times: F32, reach: F32, region: Grid::Region
      def more(rate, distance, times, reach, region)
        parallel(region.k1 - region.k0) do |n|
          k = region.k0 + n
          (region.j0...region.j1).each do |j|
            (region.i0...region.i1).each do |i|
              near = (2.0 * (1.0 - distance[k, j, i] / reach)).clamp(0.0, 1.0)
              rate[k, j, i] *= 1.0 + near * (times - 1.0)
            end
          end
        end
      end

      # How hard a particle runs into those around it (m/s), and how far it stands out of them the way it goes (0 to 1).
      kernel drops: Liquid::Drops, first: I32[1], size: I32[1], p: I32, returns: [F32, F32]
      def met(drops, first, size, p)
        x = drops.at[p, 0]
        y = drops.at[p, 1]
        z = drops.at[p, 2]
        i0 = (x - 1.0).floor.to_i.clamp(0, size[2] - 1)
        i1 = (x + 1.0).floor.to_i.clamp(0, size[2] - 1)
        j0 = (y - 1.0).floor.to_i.clamp(0, size[1] - 1)
        j1 = (y + 1.0).floor.to_i.clamp(0, size[1] - 1)
        k0 = (z - 1.0).floor.to_i.clamp(0, size[0] - 1)
        k1 = (z + 1.0).floor.to_i.clamp(0, size[0] - 1)
        trapped = 0.0
        all = 0.0
        mx = 0.0
        my = 0.0
        mz = 0.0
        (k0..k1).each do |k|
          (j0..j1).each do |j|
            row = (k * size[1] + j) * size[2]
            (first[row + i0]...first[row + i1 + 1]).each do |q|
              dx = x - drops.at[q, 0]
              dy = y - drops.at[q, 1]
              dz = z - drops.at[q, 2]
              far = Math.sqrt(dx * dx + dy * dy + dz * dz)
              if far < 1.0 && far > 1e-5
                weight = 1.0 - far
                a = drops.speed[p, 0] - drops.speed[q, 0]
                b = drops.speed[p, 1] - drops.speed[q, 1]
                c = drops.speed[p, 2] - drops.speed[q, 2]
                speed = Math.sqrt(a * a + b * b + c * c)
                trapped += weight * (speed - (a * dx + b * dy + c * dz) / far)
                all += weight
                mx += weight * dx
                my += weight * dy
                mz += weight * dz
              end
            end
          end
        end
        crest = 0.0
        if all > 0.0
          out = Math.sqrt(mx * mx + my * my + mz * mz)
          speed =
            Math.sqrt(
              drops.speed[p, 0] * drops.speed[p, 0] + drops.speed[p, 1] * drops.speed[p, 1] +
                drops.speed[p, 2] * drops.speed[p, 2]
            )
          along = (mx * drops.speed[p, 0] + my * drops.speed[p, 1] + mz * drops.speed[p, 2]) / [out * speed, 1e-9].max
          crest = along > 0.6 ? out / all : 0.0
        end
        return trapped / [all, 1.0].max, crest
      end

      # Where each one's new particles begin in the list; no more than `most`. Gives how many there are.
      kernel counts: I32[1], most: I32, returns: I32
      def add_up(counts, most)
        sum = 0
        counts.size.times do |p|
          here = [counts[p], most - sum].min
          counts[p] = sum
          sum += here
        end
        sum
      end

      # New particles about the ways of those that they come of, within the frame. `counts` as {#add_up} left it; `f`
      # f32 [3]: seconds, voxel, life as foam.
      kernel spray: Liquid::Spray, drops: Liquid::Drops, counts: I32[1], f: F32[1], seed: I32, number: I32
      def throw(spray, drops, counts, f, seed, number)
        parallel((counts.size + 255) / 256) do |block|
          (256 * block...[256 * block + 256, counts.size].min).each do |p|
            last = spray.id.size
            last = counts[p + 1] if p + 1 < counts.size
            (counts[p]...last).each do |n|
              a = Grid::Noise.lattice(number + n, 0, 1, 0, seed)
              3.times do |c|
                off = Grid::Noise.lattice(number + n, 1 + c, 1, 0, seed) - 0.5
                spray.at[n, c] = drops.at[p, c] + 0.7 * off - a * f[0] * drops.speed[p, c] / f[1]
                spray.speed[n, c] = drops.speed[p, c] * (1.0 + 0.15 * off) + 0.6 * off
              end
              spray.life[n, 0] = 0.0
              spray.life[n, 1] = f[2] * (0.4 + 1.2 * Grid::Noise.lattice(number + n, 5, 1, 0, seed))
              spray.kind[n] = 0
              spray.id[n] = number + n
            end
          end
        end
      end

      # Carries all on for a step. `f` f32 [12]: seconds, voxel, gravity, drag in the air (per s), how bubbles rise
      # (times gravity) and how the liquid takes them along (per s), the open sides.
      kernel spray: Liquid::Spray, faces: Flow::Faces, full: F32[3], walls: Liquid::Walls, f: F32[1]
      def carry(spray, faces, full, walls, f)
        step = f[0] / f[1]
        parallel((spray.id.size + 255) / 256) do |block|
          (256 * block...[256 * block + 256, spray.id.size].min).each do |n|
            x = spray.at[n, 0]
            y = spray.at[n, 1]
            z = spray.at[n, 2]
            about = Grid::Sampling.linear(full, x - 0.5, y - 0.5, z - 0.5)
            u, v, w = Grid::Sampling.velocity(faces.u, faces.v, faces.w, x, y, z)
            spray.life[n, 0] += f[0]
            if about < FOAM
              spray.kind[n] = 0
              kept = Math.exp(-f[3] * f[0])
              spray.speed[n, 0] *= kept
              spray.speed[n, 1] = kept * spray.speed[n, 1] - f[2] * f[0]
              spray.speed[n, 2] *= kept
            elsif about < BUBBLE
              spray.kind[n] = 1
              spray.life[n, 1] -= f[0]
              spray.speed[n, 0] = u
              spray.speed[n, 1] = v
              spray.speed[n, 2] = w
            else
              spray.kind[n] = 2
              spray.life[n, 1] -= 0.5 * f[0]
              drawn = 1.0 - Math.exp(-f[5] * f[0])
              spray.speed[n, 0] += drawn * (u - spray.speed[n, 0])
              spray.speed[n, 1] += drawn * (v - spray.speed[n, 1]) + f[4] * f[2] * f[0]
              spray.speed[n, 2] += drawn * (w - spray.speed[n, 2])
            end
            ex = MoveKernels.held(x + step * spray.speed[n, 0], (walls.far.dim(2) - 1).to_f, f[6], f[7])
            ey = MoveKernels.held(y + step * spray.speed[n, 1], (walls.far.dim(1) - 1).to_f, f[8], f[9])
            ez = MoveKernels.held(z + step * spray.speed[n, 2], (walls.far.dim(0) - 1).to_f, f[10], f[11])
            far = Grid::Sampling.linear(walls.far, ex, ey, ez)
            if far < MoveKernels::APART
              nx, ny, nz = MoveKernels.outward(walls.far, ex, ey, ez)
              ex += (MoveKernels::APART - far) * nx
              ey += (MoveKernels::APART - far) * ny
              ez += (MoveKernels::APART - far) * nz
              into = [nx * spray.speed[n, 0] + ny * spray.speed[n, 1] + nz * spray.speed[n, 2], 0.0].min
              spray.speed[n, 0] = 0.7 * (spray.speed[n, 0] - 1.2 * into * nx)
              spray.speed[n, 1] = 0.7 * (spray.speed[n, 1] - 1.2 * into * ny)
              spray.speed[n, 2] = 0.7 * (spray.speed[n, 2] - 1.2 * into * nz)
              # On a wall it dries.
              spray.life[n, 1] -= f[0]
            end
            spray.at[n, 0] = ex
            spray.at[n, 1] = ey
            spray.at[n, 2] = ez
            outside =
              ex < 0.0 || ey < 0.0 || ez < 0.0 || ex > walls.far.dim(2) - 1.0 || ey > walls.far.dim(1) - 1.0 ||
              ez > walls.far.dim(0) - 1.0
            spray.life[n, 1] = -1.0 if outside
          end
        end
      end

      # Those that are still there. Gives how many.
      kernel chosen: I32[1], spray: Liquid::Spray, returns: I32
      def living(chosen, spray)
        count = 0
        chosen.size.times do |n|
          if spray.life[n, 1] > 0.0
            chosen[count] = n
            count += 1
          end
        end
        count
      end

      kernel kept: Liquid::Spray, spray: Liquid::Spray, chosen: I32[1]
      def take(kept, spray, chosen)
        parallel(kept.id.size) do |n|
          p = chosen[n]
          3.times do |c|
            kept.at[n, c] = spray.at[p, c]
            kept.speed[n, c] = spray.speed[p, c]
          end
          kept.life[n, 0] = spray.life[p, 0]
          kept.life[n, 1] = spray.life[p, 1]
          kept.kind[n] = spray.kind[p]
          kept.id[n] = spray.id[p]
        end
      end

      # All of it in metres. @param frame f32 [4]: the chamber's corner, its voxel
      kernel places: F32[2], speeds: F32[2], ages: F32[1], ids: I32[1], kinds: U8[1], gone: F32[1],
        spray: Liquid::Spray, frame: F32[1]
      def keep(places, speeds, ages, ids, kinds, gone, spray, frame)
        parallel(places.dim(0)) do |n|
          3.times do |a|
            places[n, a] = frame[a] + frame[3] * spray.at[n, a]
            speeds[n, a] = spray.speed[n, a]
          end
          ages[n] = spray.life[n, 0]
          ids[n] = spray.id[n]
          kinds[n] = 1 + spray.kind[n]
          gone[n] = spray.life[n, 0] / [spray.life[n, 0] + spray.life[n, 1], 1e-4].max
        end
      end

      # Marks the bricks that hold any of the eight points around each. @param marks u8 [bricks along z, y, x]
      kernel marks: U8[3], spray: Liquid::Spray, fine: F32
      def bricks(marks, spray, fine)
        spray.id.size.times do |n|
          8.times do |corner|
            i = ((spray.at[n, 0] * fine - 0.5).floor.to_i + (corner & 1)) >> 4
            j = ((spray.at[n, 1] * fine - 0.5).floor.to_i + (corner >> 1 & 1)) >> 4
            k = ((spray.at[n, 2] * fine - 0.5).floor.to_i + (corner >> 2)) >> 4
            marks[k, j, i] = 1 if k >= 0 && j >= 0 && i >= 0 && k < marks.dim(0) && j < marks.dim(1) && i < marks.dim(2)
          end
        end
      end

      # Adds each to the eight points around it, weaker as its life ends; bubbles are hardly seen.
      # @param sums f32 [n, 4096] of each brick; @param numbers i32 [bricks along z, y, x], which of them, -1 none
      kernel sums: F32[2], numbers: I32[3], spray: Liquid::Spray, fine: F32, strength: F32
      def density(sums, numbers, spray, fine, strength)
        spray.id.size.times do |n|
          x = spray.at[n, 0] * fine - 0.5
          y = spray.at[n, 1] * fine - 0.5
          z = spray.at[n, 2] * fine - 0.5
          i = x.floor.to_i
          j = y.floor.to_i
          k = z.floor.to_i
          fx = x - i
          fy = y - j
          fz = z - k
          # Three times the square of an even number is one on the whole.
          share = Grid::Noise.lattice(spray.id[n], 5, 1, 4, 23)
          amount =
            strength * 3.0 * share * share * (spray.life[n, 1] / 0.3).clamp(0.0, 1.0) *
            (spray.kind[n] == 2 ? 0.25 : 1.0)
          8.times do |corner|
            a = i + (corner & 1)
            b = j + (corner >> 1 & 1)
            c = k + (corner >> 2)
            if c >= 0 && b >= 0 && a >= 0 && (c >> 4) < numbers.dim(0) && (b >> 4) < numbers.dim(1) && (a >> 4) < numbers.dim(2)
              near =
                ((corner & 1) == 0 ? 1.0 - fx : fx) * ((corner >> 1 & 1) == 0 ? 1.0 - fy : fy) *
                ((corner >> 2) == 0 ? 1.0 - fz : fz)
              at = ((c & 15) * 16 + (b & 15)) * 16 + (a & 15)
              sums[numbers[c >> 4, b >> 4, a >> 4], at] += near * amount
            end
          end
        end
      end
    end
  end
end
