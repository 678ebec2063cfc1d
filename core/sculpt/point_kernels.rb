# frozen_string_literal: true

module Vumbral
  module Sculpt
    # Loops over the points around each cell.
    module PointKernels
      extend Kernel::Library

      # Leads each place aside by noise of its own.
      kernel places: F32[2], far: F32, time: F32, loop: I32, seed: I32
      def drift(places, far, time, loop, seed)
        again = local_i32(4)
        3.times { |c| again[c] = 0 }
        again[3] = loop
        l = time.floor
        part = Grid::Noise.fade(time - l)
        places.dim(0).times do |n|
          3.times do |axis|
            places[n, axis] = places[n, axis] +
              far * (2.0 * Grid::Noise.looping(n, axis, 0, l, part, seed, again) - 1.0)
          end
        end
      end

      # Squared distance to the nearest point, or how far is looked, squared.
      kernel table: Sculpt::Points::Table, x: F32, y: F32, z: F32, returns: F32
      def nearest(table, x, y, z)
        per = 1.0 / table.frame[3]
        i = ((x - table.frame[0]) * per).floor
        j = ((y - table.frame[1]) * per).floor
        k = ((z - table.frame[2]) * per).floor
        best = table.frame[4] * table.frame[4]
        ([k - 1, 0].max..[k + 1, table.starts.dim(0) - 1].min).each do |c|
          ([j - 1, 0].max..[j + 1, table.starts.dim(1) - 1].min).each do |b|
            first = (i - 1).clamp(0, table.starts.dim(2) - 1)
            last = (i + 2).clamp(0, table.starts.dim(2) - 1)
            (table.starts[c, b, first]...table.starts[c, b, last]).each do |n|
              dx = table.places[n, 0] - x
              dy = table.places[n, 1] - y
              dz = table.places[n, 2] - z
              best = [best, dx * dx + dy * dy + dz * dz].min
            end
          end
        end
        best
      end

      # Metres to balls about points, told as far as `band`.
      kernel values: F32[3], places: I32[2], lattice: Grid::Lattice, table: Sculpt::Points::Table, radius: F32,
        band: F32
      def distance(values, places, lattice, table, radius, band)
        parallel(places.dim(0), uneven: true) do |n|
          16.times do |k|
            z = lattice.z + (16 * places[n, 0] + k) * lattice.voxel
            16.times do |j|
              y = lattice.y + (16 * places[n, 1] + j) * lattice.voxel
              16.times do |i|
                x = lattice.x + (16 * places[n, 2] + i) * lattice.voxel
                values[16 * n + k, j, i] = (Math.sqrt(nearest(table, x, y, z)) - radius).clamp(-band, band)
              end
            end
          end
        end
      end

      # Waves from points, -1 to 1 and nothing from where they no longer reach: of the nearest, or of all together.
      # `wave` f32 [5]: waves in a metre, where they are in theirs, how fast they die down (1/m), and 1 for all.
      kernel values: F32[3], places: I32[2], lattice: Grid::Lattice, table: Sculpt::Points::Table, wave: F32[1]
      def ripples(values, places, lattice, table, wave)
        parallel(places.dim(0), uneven: true) do |n|
          16.times do |k|
            z = lattice.z + (16 * places[n, 0] + k) * lattice.voxel
            16.times do |j|
              y = lattice.y + (16 * places[n, 1] + j) * lattice.voxel
              16.times do |i|
                x = lattice.x + (16 * places[n, 2] + i) * lattice.voxel
                values[16 * n + k, j, i] = wave[3] > 0.5 ? together(table, x, y, z, wave) : one(Math.sqrt(nearest(table, x, y, z)), table.frame[4], wave)
              end
            end
          end
        end
      end

      # The wave of one point so far from it.
      kernel far: F32, reach: F32, wave: F32[1], returns: F32
      def one(far, reach, wave)
        s = [1.0 - far / reach, 0.0].max
        s > 0.0 ? s * s * (3.0 - 2.0 * s) * Math.exp(-far * wave[2]) * Math.cos(6.2831853 * (far * wave[0] - wave[1])) : 0.0
      end

      kernel table: Sculpt::Points::Table, x: F32, y: F32, z: F32, wave: F32[1], returns: F32
      def together(table, x, y, z, wave)
        per = 1.0 / table.frame[3]
        i = ((x - table.frame[0]) * per).floor
        j = ((y - table.frame[1]) * per).floor
        k = ((z - table.frame[2]) * per).floor
        sum = 0.0
        ([k - 1, 0].max..[k + 1, table.starts.dim(0) - 1].min).each do |c|
          ([j - 1, 0].max..[j + 1, table.starts.dim(1) - 1].min).each do |b|
            first = (i - 1).clamp(0, table.starts.dim(2) - 1)
            last = (i + 2).clamp(0, table.starts.dim(2) - 1)
            (table.starts[c, b, first]...table.starts[c, b, last]).each do |n|
              dx = table.places[n, 0] - x
              dy = table.places[n, 1] - y
              dz = table.places[n, 2] - z
              sum += one(Math.sqrt(dx * dx + dy * dy + dz * dz), table.frame[4], wave)
            end
          end
        end
        sum
      end
    end
  end
end
