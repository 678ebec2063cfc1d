# frozen_string_literal: true

module Vumbral
  module Liquid
    # Speeds given to the liquid within a shape.
    module KickKernels
      extend Kernel::Library

      # Signed distance from a box, metres. `box` f32 [6]: its middle and half lengths.
      kernel distance: F32[3], box: F32[1], lattice: Grid::Lattice
      def box(distance, box, lattice)
        each_cell(distance) do |k, j, i|
          x = (lattice.x + i * lattice.voxel - box[0]).abs - box[3]
          y = (lattice.y + j * lattice.voxel - box[1]).abs - box[4]
          z = (lattice.z + k * lattice.voxel - box[2]).abs - box[5]
          a = [x, 0.0].max
          b = [y, 0.0].max
          c = [z, 0.0].max
          distance[k, j, i] = Math.sqrt(a * a + b * b + c * c) + [[x, [y, z].max].max, 0.0].min
        end
      end

      # How much cells take part, fading over `soft` metres outside of the shape, and which speed they are given there:
      # `q` f32 [5] is one in a direction, one out of the shape, and what they are multiplied by.
      kernel weight: F32[3], velocity: Grid::VectorField, distance: F32[3], soft: F32, q: F32[1], region: Grid::Region,
        voxel: F32
      def kick(weight, velocity, distance, soft, q, region, voxel)
        parallel(region.k1 - region.k0) do |n|
          k = region.k0 + n
          above = [k + 1, region.k1 - 1].min
          below = [k - 1, region.k0].max
          (region.j0...region.j1).each do |j|
            over = [j + 1, region.j1 - 1].min
            under = [j - 1, region.j0].max
            (region.i0...region.i1).each do |i|
              far = distance[k, j, i]
              share = (0.5 - far / voxel).clamp(0.0, 1.0)
              share = [share, (1.0 - far / [soft, 1e-6].max).clamp(0.0, 1.0)].max if soft > 0.0
              if share > weight[k, j, i]
                right = [i + 1, region.i1 - 1].min
                left = [i - 1, region.i0].max
                gx = distance[k, j, right] - distance[k, j, left]
                gy = distance[k, over, i] - distance[k, under, i]
                gz = distance[above, j, i] - distance[below, j, i]
                per = q[3] / [Math.sqrt(gx * gx + gy * gy + gz * gz), 1e-6].max
                weight[k, j, i] = share
                velocity.x[k, j, i] = q[4] * (q[0] + per * gx)
                velocity.y[k, j, i] = q[4] * (q[1] + per * gy)
                velocity.z[k, j, i] = q[4] * (q[2] + per * gz)
              end
            end
          end
        end
      end

      kernel field: F32[3], other: F32[3], factor: F32
      def add(field, other, factor)
        each_cell(field) { |k, j, i| field[k, j, i] += factor * other[k, j, i] }
      end

      # Gives particles that share of the speed where they are; either it is added, or they go over to it.
      kernel drops: Liquid::Drops, weight: F32[3], velocity: Grid::VectorField, share: F32, add: BOOL
      def give(drops, weight, velocity, share, add)
        parallel(drops.at.dim(0)) do |p|
          x = drops.at[p, 0] - 0.5
          y = drops.at[p, 1] - 0.5
          z = drops.at[p, 2] - 0.5
          much = share * Grid::Sampling.linear(weight, x, y, z)
          if much > 0.0
            u = Grid::Sampling.linear(velocity.x, x, y, z)
            v = Grid::Sampling.linear(velocity.y, x, y, z)
            w = Grid::Sampling.linear(velocity.z, x, y, z)
            kept = add ? 1.0 : 1.0 - [much, 1.0].min
            drops.speed[p, 0] = kept * drops.speed[p, 0] + much * u
            drops.speed[p, 1] = kept * drops.speed[p, 1] + much * v
            drops.speed[p, 2] = kept * drops.speed[p, 2] + much * w
          end
        end
      end

      # How many particles' worth of deep cells takes part.
      kernel deep: U8[3], weight: F32[3], returns: F64
      def caught_deep(deep, weight)
        total = parallel_sum(deep.dim(0)) do |k|
          count = f64(0.0)
          deep
            .dim(1)
            .times do |j|
              deep.dim(2).times { |i| count += deep[k, j, i] == 1 && weight[k, j, i] > 0.5 ? f64(8.0) : f64(0.0) }
            end
          count
        end
        total
      end

      # How many particles take part.
      kernel drops: Liquid::Drops, weight: F32[3], returns: F64
      def caught(drops, weight)
        total = parallel_sum(drops.at.dim(0)) do |p|
          Grid::Sampling.linear(weight, drops.at[p, 0] - 0.5, drops.at[p, 1] - 0.5, drops.at[p, 2] - 0.5) > 0.5 ? f64(1.0) : f64(0.0)
        end
        total
      end
    end
  end
end
