# frozen_string_literal: true

module Vumbral
  module Liquid
    # Counting and filling with particles.
    module FullKernels
      extend Kernel::Library

      # Particles that are only this much denser than usual are left alone.
      LOOSE = 0.1

      # The speed of the fastest particle, m/s; not a number where one is none.
      kernel drops: Liquid::Drops, returns: F64
      def fastest(drops)
        most = parallel_max(drops.at.dim(0)) do |p|
          Math.sqrt(
            drops.speed[p, 0] * drops.speed[p, 0] + drops.speed[p, 1] * drops.speed[p, 1] +
              drops.speed[p, 2] * drops.speed[p, 2]
          )
        end
        most
      end

      # The speed that all but so many particles stay below, m/s, to a 256th of the fastest one's.
      # @param most [Float] the fastest one's
      kernel drops: Liquid::Drops, most: F32, spare: I32, returns: F32
      def fast(drops, most, spare)
        counts = local_i32(256)
        256.times { |n| counts[n] = 0 }
        per = 255.0 / most
        drops.at.dim(0).times do |p|
          speed =
            Math.sqrt(
              drops.speed[p, 0] * drops.speed[p, 0] + drops.speed[p, 1] * drops.speed[p, 1] +
                drops.speed[p, 2] * drops.speed[p, 2]
            )
          counts[(speed * per).to_i.clamp(0, 255)] += 1
        end
        n = 255
        faster = counts[255]
        while n > 0 && faster <= spare
          n -= 1
          faster += counts[n]
        end
        (n + 1) / per
      end

      # Numbers from one on.
      kernel id: I32[1], from: I32
      def number(id, from)
        parallel(id.size) { |p| id[p] = from + p }
      end

      # Which particles are kept, by their numbers. Gives how many.
      kernel chosen: I32[1], id: I32[1], share: F32, returns: I32
      def choose(chosen, id, share)
        count = 0
        id.size.times do |p|
          if share >= 1.0 || Grid::Noise.lattice(id[p], 3, 5, 7, 11) < share
            chosen[count] = p
            count += 1
          end
        end
        count
      end

      # @param frame f32 [5]: the chamber's corner, its voxel, seconds gone
      kernel places: F32[2], speeds: F32[2], ages: F32[1], ids: I32[1], drops: Liquid::Drops, chosen: I32[1],
        frame: F32[1]
      def keep(places, speeds, ages, ids, drops, chosen, frame)
        parallel(places.dim(0)) do |n|
          p = chosen[n]
          3.times do |a|
            places[n, a] = frame[a] + frame[3] * drops.at[p, a]
            speeds[n, a] = drops.speed[p, a]
          end
          ages[n] = frame[4] - drops.born[p]
          ids[n] = drops.id[p]
        end
      end

      # What presses on those that are chosen: the grid's pressure times a factor.
      kernel out: F32[1], drops: Liquid::Drops, chosen: I32[1], pressure: F32[3], factor: F32
      def pressures(out, drops, chosen, pressure, factor)
        parallel(out.size) do |n|
          p = chosen[n]
          out[n] = factor *
            [Grid::Sampling.linear(pressure, drops.at[p, 0] - 0.5, drops.at[p, 1] - 0.5, drops.at[p, 2] - 0.5), 0.0].max
        end
      end

      # From metres to cells. @param frame f32 [4]: the chamber's corner, its voxel
      kernel at: F32[2], places: F32[2], frame: F32[1]
      def cells(at, places, frame)
        parallel(places.dim(0)) { |n| 3.times { |a| at[n, a] = (places[n, a] - frame[a]) / frame[3] } }
      end

      # Particles as rows of ten numbers, from one on.
      kernel out: F32[2], places: F32[2], speeds: F32[2], ages: F32[1], ids: I32[1], kinds: U8[1], pressures: F32[1],
        from: I32
      def rows(out, places, speeds, ages, ids, kinds, pressures, from)
        parallel(places.dim(0)) do |n|
          3.times do |a|
            out[from + n, a] = places[n, a]
            out[from + n, 3 + a] = speeds[n, a]
          end
          out[from + n, 6] = ages[n]
          out[from + n, 7] = ids[n].to_f
          out[from + n, 8] = kinds[n].to_f
          out[from + n, 9] = pressures[n]
        end
      end

      # Energy of all particles, J for each kg that one weighs: of motion, and of their height at `gravity`.
      kernel drops: Liquid::Drops, gravity: F32, voxel: F32, returns: F64
      def energy(drops, gravity, voxel)
        total = parallel_sum(drops.at.dim(0)) do |p|
          u = f64(drops.speed[p, 0])
          v = f64(drops.speed[p, 1])
          w = f64(drops.speed[p, 2])
          0.5 * (u * u + v * v + w * w) + f64(gravity) * voxel * drops.at[p, 1]
        end
        total
      end

      # How far cells' centres lie above a level, cells.
      kernel far: F32[3], level: F32
      def beneath(far, level)
        each_cell(far) { |k, j, i| far[k, j, i] = j + 0.5 - level }
      end

      # From how much of a cell is covered, 0 to 1, to how far it lies outside (cells, negative inside); noise (0 to 1,
      # in patches of so many cells) bites into it.
      kernel far: F32[3], cover: F32[3], noise: F32, cells: F32, time: F32, seed: I32
      def edge(far, cover, noise, cells, time, seed)
        each_cell(far) do |k, j, i|
          value = cover[k, j, i]
          bite = 0.0
          bite = noise * (0.5 + 0.5 * Grid::Noise.value((i + 0.5) / cells, (j + 0.5) / cells, (k + 0.5) / cells, time, seed)) if noise > 0.0 && value > 0.0
          far[k, j, i] = 0.5 - value + bite * 0.7
        end
      end

      # Which eighths of cells shall have a particle: those within a shape (`far` by cells' centres, negative inside)
      # and out of walls that have none yet, and of these a share. `slots` u8 [cells, 8]; heights are taken times
      # `stretch`. Gives how many.
      kernel slots: U8[2], far: F32[3], drops: Liquid::Drops, first: I32[1], walls: F32[3], stretch: F32, share: F32,
        seed: I32, returns: I32
      def free(slots, far, drops, first, walls, stretch, share, seed)
        parallel(far.dim(0)) do |k|
          far.dim(1).times do |j|
            far.dim(2).times do |i|
              n = (k * far.dim(1) + j) * far.dim(2) + i
              8.times do |s|
                x = i + 0.25 + 0.5 * (s & 1)
                y = j + 0.25 + 0.5 * (s >> 1 & 1)
                z = k + 0.25 + 0.5 * (s >> 2)
                inside =
                  Grid::Sampling.linear(far, x - 0.5, y - 0.5, z - 0.5) < 0.0 &&
                  Grid::Sampling.linear(walls, x, y * stretch, z) > 0.02 && y * stretch < far.dim(1)
                inside = false if share < 1.0 && Grid::Noise.lattice(n, s, 7, 1, seed) > share
                slots[n, s] = inside ? 1 : 0
              end
              (first[n]...first[n + 1]).each do |p|
                s =
                  (drops.at[p, 0] - i >= 0.5 ? 1 : 0) + (drops.at[p, 1] - j >= 0.5 ? 2 : 0) +
                  (drops.at[p, 2] - k >= 0.5 ? 4 : 0)
                slots[n, s] = 0
              end
            end
          end
        end
        count = 0
        slots.dim(0).times do |n|
          8.times { |s| count += slots[n, s] }
        end
        count
      end

      # Puts a particle into each eighth that wants one, up to `loose` of the way to its edge off its middle.
      kernel drops: Liquid::Drops, slots: U8[2], speed: Grid::VectorField, stretch: F32, loose: F32, seed: I32,
        time: F32
      def put(drops, slots, speed, stretch, loose, seed, time)
        nx = speed.x.dim(2)
        ny = speed.x.dim(1)
        at = 0
        slots.dim(0).times do |n|
          8.times do |s|
            if slots[n, s] != 0
              i = n % nx
              j = (n / nx) % ny
              k = n / (nx * ny)
              drops.at[at, 0] = i + 0.25 + 0.5 * (s & 1) + 0.5 * loose * (Grid::Noise.lattice(n, s, 0, 0, seed) - 0.5)
              drops.at[at, 1] = stretch * (j + 0.25 + 0.5 * (s >> 1 & 1)) +
                0.5 * loose * (Grid::Noise.lattice(n, s, 1, 0, seed) - 0.5)
              drops.at[at, 2] = k + 0.25 + 0.5 * (s >> 2) + 0.5 * loose * (Grid::Noise.lattice(n, s, 2, 0, seed) - 0.5)
              drops.speed[at, 0] = speed.x[k, j, i]
              drops.speed[at, 1] = speed.y[k, j, i]
              drops.speed[at, 2] = speed.z[k, j, i]
              drops.born[at] = time
              at += 1
            end
          end
        end
      end

      # One colour for all. @param colour f32 [3], linear
      kernel dye: U8[2], colour: F32[1]
      def dye(dye, colour)
        parallel(dye.dim(0)) do |p|
          3.times { |a| dye[p, a] = (255.0 * Math.sqrt(colour[a].clamp(0.0, 1.0)) + 0.5).to_i }
        end
      end

      # Particles within a shape have its speed.
      kernel drops: Liquid::Drops, far: F32[3], speed: Grid::VectorField
      def hold(drops, far, speed)
        parallel(drops.at.dim(0)) do |p|
          x = drops.at[p, 0] - 0.5
          y = drops.at[p, 1] - 0.5
          z = drops.at[p, 2] - 0.5
          if Grid::Sampling.linear(far, x, y, z) < 0.0
            drops.speed[p, 0] = Grid::Sampling.linear(speed.x, x, y, z)
            drops.speed[p, 1] = Grid::Sampling.linear(speed.y, x, y, z)
            drops.speed[p, 2] = Grid::Sampling.linear(speed.z, x, y, z)
          end
        end
      end

      # Takes particles away within a shape (`far` as in {#free}): they are put outside of everything.
      kernel drops: Liquid::Drops, far: F32[3], returns: F64
      def drain(drops, far)
        total = parallel_sum(drops.at.dim(0)) do |p|
          inside = Grid::Sampling.linear(far, drops.at[p, 0] - 0.5, drops.at[p, 1] - 0.5, drops.at[p, 2] - 0.5) < 0.0
          drops.at[p, 0] = -1000.0 if inside
          inside ? f64(1.0) : f64(0.0)
        end
        total
      end

      # How much more than full each cell is, where nothing stands in the way of saying so.
      kernel b: F32[3], full: F32[3], own: F32[3], share: F32
      def crowd(b, full, own, share)
        each_cell(b) do |k, j, i|
          b[k, j, i] = own[k, j, i] > 0.0 ? share * (full[k, j, i] - 1.0 - LOOSE).clamp(0.0, 1.0) : 0.0
        end
      end
    end
  end
end
