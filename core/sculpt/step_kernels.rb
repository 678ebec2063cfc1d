# frozen_string_literal: true

module Vumbral
  module Sculpt
    # Loops of the steps that change each value by itself.
    module StepKernels
      extend Kernel::Library

      # Below this nothing is divided by.
      LEAST = 1e-4

      # From distances (below 0 within) to densities: nothing `outside` the surface, `whole` from `inside` of it on.
      kernel out: F32[3], distance: F32[3], inside: F32, outside: F32, whole: F32
      def density(out, distance, inside, outside, whole)
        each_cell(out) do |k, j, i|
          s = ((outside - distance[k, j, i]) / [inside + outside, 1e-6].max).clamp(0.0, 1.0)
          out[k, j, i] = whole * s * s * (3.0 - 2.0 * s)
        end
      end

      # A density as a distance and back, a voxel's length for each unit about its half.
      kernel out: F32[3], density: F32[3], voxel: F32
      def as_distance(out, density, voxel)
        each_cell(out) { |k, j, i| out[k, j, i] = 2.0 * voxel * (0.5 - density[k, j, i]) }
      end

      kernel out: F32[3], distance: F32[3], voxel: F32
      def as_density(out, distance, voxel)
        each_cell(out) { |k, j, i| out[k, j, i] = [0.5 - distance[k, j, i] / (2.0 * voxel), 0.0].max }
      end

      kernel out: F32[3], before: F32[3], by: F32
      def add(out, before, by)
        each_cell(out) { |k, j, i| out[k, j, i] = before[k, j, i] + by }
      end

      kernel out: F32[3], before: F32[3], after: F32[3], part: F32
      def mix(out, before, after, part)
        each_cell(out) { |k, j, i| out[k, j, i] = before[k, j, i] + part * (after[k, j, i] - before[k, j, i]) }
      end

      # A wall of some thickness, half of it to either side of the surface.
      kernel out: F32[3], distance: F32[3], wall: F32
      def shell(out, distance, wall)
        each_cell(out) { |k, j, i| out[k, j, i] = distance[k, j, i].abs - 0.5 * wall }
      end

      # The lesser of two distances, rounded over where they are nearly alike (after Quilez' quadratic blend).
      kernel a: F32, b: F32, blend: F32, returns: F32
      def least(a, b, blend)
        near = blend > 0.0 ? [blend - (a - b).abs, 0.0].max / blend : 0.0
        [a, b].min - 0.25 * near * near * blend
      end

      # Two bodies by their distances: cut (0), union (1), intersection (2).
      kernel out: F32[3], one: F32[3], other: F32[3], how: I32, blend: F32
      def combine(out, one, other, how, blend)
        each_cell(out) do |k, j, i|
          a = one[k, j, i]
          b = other[k, j, i]
          out[k, j, i] = how == 1 ? least(a, b, blend) : -least(-a, how == 0 ? b : -b, blend)
        end
      end

      # A texture's values at each place.
      kernel out: F32[3], rows: F32[2], lattice: Grid::Lattice, factor: F32, offset: F32
      def texture(out, rows, lattice, factor, offset)
        each_cell(out) do |k, j, i|
          out[k, j, i] = offset + factor * Geometry::TextureKernels.value(rows, 0, lattice.x + i * lattice.voxel, lattice.y + j * lattice.voxel, lattice.z + k * lattice.voxel, lattice.voxel)
        end
      end

      # Two values by the sum with this number ({Carving::SUMS}).
      kernel out: F32[3], before: F32[3], other: F32[3], sum: I32
      def sum(out, before, other, sum)
        each_cell(out) do |k, j, i|
          a = before[k, j, i]
          b = other[k, j, i]
          found = b
          found = a + b if sum == 0
          found = a - b if sum == 1
          found = a * b if sum == 2
          found = a / (b.abs > LEAST ? b : (b < 0.0 ? -LEAST : LEAST)) if sum == 3
          found = (a - b).abs if sum == 4
          found = [a, b].max if sum == 5
          found = [a, b].min if sum == 6
          out[k, j, i] = found
        end
      end

      # What lies between two values, from 0 to 1; nothing between them cuts.
      kernel out: F32[3], before: F32[3], low: F32, high: F32
      def limit(out, before, low, high)
        each_cell(out) do |k, j, i|
          value = before[k, j, i]
          out[k, j, i] = high - low > 1e-6 ? ((value - low) / (high - low)).clamp(0.0, 1.0) : (value >= low ? 1.0 : 0.0)
        end
      end

      # Three octaves of noise, from about -1 to 1.
      kernel x: F32, y: F32, z: F32, time: F32, seed: I32, returns: F32
      def bend(x, y, z, time, seed)
        sum = 0.0
        part = 1.0
        scale = 1.0
        3.times do |n|
          sum += part * Grid::Noise.value(scale * x, scale * y, scale * z, time, seed + n)
          part *= 0.5
          scale *= 2.0
        end
        sum
      end

      # Adds a volume to one on another lattice.
      kernel out: F32[3], lattice: Grid::Lattice, values: F32[3], from: Grid::Lattice
      def lay(out, lattice, values, from)
        each_cell(out) do |k, j, i|
          per = 1.0 / from.voxel
          a = (lattice.x + i * lattice.voxel - from.x) * per
          b = (lattice.y + j * lattice.voxel - from.y) * per
          c = (lattice.z + k * lattice.voxel - from.z) * per
          if a > -0.5 && b > -0.5 && c > -0.5 && a < values.dim(2) - 0.5 && b < values.dim(1) - 0.5 && c < values.dim(0) - 0.5
            out[k, j, i] += Grid::Sampling.linear(values, a.clamp(0.0, values.dim(2) - 1.0), b.clamp(0.0, values.dim(1) - 1.0), c.clamp(0.0, values.dim(0) - 1.0))
          end
        end
      end

      # Each place takes the value of one that noise leads to.
      kernel out: F32[3], before: F32[3], lattice: Grid::Lattice, size: F32, far: F32, time: F32, seed: I32
      def warp(out, before, lattice, size, far, time, seed)
        each_cell(out) do |k, j, i|
          x = (lattice.x + i * lattice.voxel) / size
          y = (lattice.y + j * lattice.voxel) / size
          z = (lattice.z + k * lattice.voxel) / size
          per = far / lattice.voxel
          a = i + per * bend(x, y, z, time, seed)
          b = j + per * bend(x + 31.7, y, z, time, seed)
          c = k + per * bend(x, y + 47.3, z, time, seed)
          out[k, j, i] = Grid::Sampling.linear(before, a.clamp(0.0, before.dim(2) - 1.0), b.clamp(0.0, before.dim(1) - 1.0), c.clamp(0.0, before.dim(0) - 1.0))
        end
      end
    end
  end
end
