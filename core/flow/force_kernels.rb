# frozen_string_literal: true

module Vumbral
  module Flow
    # Forces that an artist places. A force's falloff is a field of weights, 0 to 1.
    module ForceKernels
      extend Kernel::Library

      # Weights at cell centres. `shape` 0 is everywhere, 1 a sphere, 2 a box, 3 around a line;
      # `p` f32 [10]: middle (or the line's beginning) x y z, half lengths x y z (or the line's end
      # x y z), radius, soft part of it (0 to 1), all in metres.
      kernel weight: F32[3], shape: I32, p: F32[1], lattice: Grid::Lattice
      def falloff(weight, shape, p, lattice)
        parallel(weight.dim(0)) do |k|
          z = lattice.z + k * lattice.voxel
          soft = [p[7], 0.001].max
          weight.dim(1).times do |j|
            y = lattice.y + j * lattice.voxel
            weight.dim(2).times do |i|
              x = lattice.x + i * lattice.voxel
              far = 0.0
              if shape == 1
                dx = x - p[0]
                dy = y - p[1]
                dz = z - p[2]
                far = Math.sqrt(dx * dx + dy * dy + dz * dz) / p[6]
              elsif shape == 2
                far = [(x - p[0]).abs / p[3], (y - p[1]).abs / p[4], (z - p[2]).abs / p[5]].max
              elsif shape == 3
                ux = p[3] - p[0]
                uy = p[4] - p[1]
                uz = p[5] - p[2]
                t =
                  (((x - p[0]) * ux + (y - p[1]) * uy + (z - p[2]) * uz) / (ux * ux + uy * uy + uz * uz + 1e-9)).clamp(
                    0.0, 1.0
                  )
                dx = x - p[0] - t * ux
                dy = y - p[1] - t * uy
                dz = z - p[2] - t * uz
                far = Math.sqrt(dx * dx + dy * dy + dz * dz) / p[6]
              end
              s = ((1.0 - far) / soft).clamp(0.0, 1.0)
              weight[k, j, i] = s * s * (3.0 - 2.0 * s)
            end
          end
        end
      end

      # Weights that differ from place to place: `amount` 0 to 1, in patches of `size` metres.
      kernel weight: F32[3], amount: F32, size: F32, lattice: Grid::Lattice
      def unevenly(weight, amount, size, lattice)
        parallel(weight.dim(0)) do |k|
          z = (lattice.z + k * lattice.voxel) / size
          weight.dim(1).times do |j|
            y = (lattice.y + j * lattice.voxel) / size
            weight.dim(2).times do |i|
              x = (lattice.x + i * lattice.voxel) / size
              n = Grid::Noise.value(x, y, z, 0.5, 71) + 0.5 * Grid::Noise.value(2.0 * x, 2.0 * y, 2.0 * z, 0.5, 72)
              weight[k, j, i] *= (1.0 + amount * (1.6 * n - 0.6)).clamp(0.0, 2.0)
            end
          end
        end
      end

      # Weights by a texture, rows as {Maps::Patterns} has them: none at 0, all at 1.
      kernel weight: F32[3], rows: F32[2], lattice: Grid::Lattice
      def textured(weight, rows, lattice)
        parallel(weight.dim(0), uneven: true) do |k|
          weight.dim(1).times do |j|
            weight.dim(2).times do |i|
              if weight[k, j, i] > 0.0
                part =
                  Geometry::TextureKernels.value(
                    rows, 0, lattice.x + i * lattice.voxel, lattice.y + j * lattice.voxel,
                    lattice.z + k * lattice.voxel, lattice.voxel
                  )
                weight[k, j, i] *= part.clamp(0.0, 1.0)
              end
            end
          end
        end
      end

      # A rate that comes as far in one step as its own does in many small ones; also where there is next to nothing of
      # either.
      kernel rate: F32, dt: F32, returns: F32
      def steady(rate, dt)
        x = rate * dt
        x < 1e-3 ? rate * (1.0 - 0.5 * x) : (1.0 - Math.exp(-x)) / dt
      end

      # Adds to the acceleration at centres (m/s²). `kind` 0 pushes along `q[0..2]`; 1 draws the gas
      # to the velocity `q[0..2]` at `q[6]` a second (wind); 2 pulls to the place `q[0..2]`, `q[6]` m/s²;
      # 3 swirls about the axis `q[3..5]` through `q[0..2]`, `q[6]` m/s² at a metre and beyond;
      # 4 slows down, `q[6]` a second. What goes by a rate comes as far in `dt` as it does in small steps.
      kernel push: Grid::VectorField, faces: Flow::Faces, weight: F32[3], kind: I32, q: F32[1], lattice: Grid::Lattice,
        dt: F32
      def push(push, faces, weight, kind, q, lattice, dt)
        parallel(push.x.dim(0)) do |k|
          z = lattice.z + k * lattice.voxel
          push.x.dim(1).times do |j|
            y = lattice.y + j * lattice.voxel
            push.x.dim(2).times do |i|
              share = weight[k, j, i]
              if share > 0.0
                x = lattice.x + i * lattice.voxel
                a = 0.0
                b = 0.0
                c = 0.0
                if kind == 0
                  a = q[0]
                  b = q[1]
                  c = q[2]
                elsif kind == 1
                  a = q[0] - 0.5 * (faces.u[k, j, i] + faces.u[k, j, i + 1])
                  b = q[1] - 0.5 * (faces.v[k, j, i] + faces.v[k, j + 1, i])
                  c = q[2] - 0.5 * (faces.w[k, j, i] + faces.w[k + 1, j, i])
                  share = steady(q[6] * share, dt)
                elsif kind == 2
                  dx = q[0] - x
                  dy = q[1] - y
                  dz = q[2] - z
                  far = Math.sqrt(dx * dx + dy * dy + dz * dz)
                  # Softer within two cells, so that nothing shakes about the place itself.
                  per = q[6] / [far, 2.0 * lattice.voxel].max
                  a = per * dx
                  b = per * dy
                  c = per * dz
                elsif kind == 3
                  dx = x - q[0]
                  dy = y - q[1]
                  dz = z - q[2]
                  a = q[4] * dz - q[5] * dy
                  b = q[5] * dx - q[3] * dz
                  c = q[3] * dy - q[4] * dx
                  per = q[6] / [Math.sqrt(a * a + b * b + c * c), 1.0].max
                  a *= per
                  b *= per
                  c *= per
                else
                  a = -0.5 * (faces.u[k, j, i] + faces.u[k, j, i + 1])
                  b = -0.5 * (faces.v[k, j, i] + faces.v[k, j + 1, i])
                  c = -0.5 * (faces.w[k, j, i] + faces.w[k + 1, j, i])
                  share = steady(q[6] * share, dt)
                end
                push.x[k, j, i] += share * a
                push.y[k, j, i] += share * b
                push.z[k, j, i] += share * c
              end
            end
          end
        end
      end

      # Pulls towards a surface, given its signed distance (metres): `strength` m/s² within `reach`.
      kernel push: Grid::VectorField, distance: F32[3], weight: F32[3], strength: F32, reach: F32
      def cling(push, distance, weight, strength, reach)
        parallel(push.x.dim(0) - 2) do |n|
          k = n + 1
          (1...(push.x.dim(1) - 1)).each do |j|
            (1...(push.x.dim(2) - 1)).each do |i|
              here = distance[k, j, i]
              gx = distance[k, j, i + 1] - distance[k, j, i - 1]
              gy = distance[k, j + 1, i] - distance[k, j - 1, i]
              gz = distance[k + 1, j, i] - distance[k - 1, j, i]
              length = Math.sqrt(gx * gx + gy * gy + gz * gz)
              near = (1.0 - here.abs / reach).clamp(0.0, 1.0)
              if length > 0.0 && near > 0.0
                # Weakest on the surface itself, where there is nowhere to go.
                per = -strength * weight[k, j, i] * (here / (0.25 * reach)).clamp(-1.0, 1.0) * near / length
                push.x[k, j, i] += per * gx
                push.y[k, j, i] += per * gy
                push.z[k, j, i] += per * gz
              end
            end
          end
        end
      end

      # Adds up what flies about each centre: speeds (m/s), and how many there are.
      # @param kinds as {Liquid::Kept} tells them
      kernel sums: F32[4], places: F32[2], speeds: F32[2], kinds: U8[1], lattice: Grid::Lattice
      def gather(sums, places, speeds, kinds, lattice)
        kinds.size.times do |n|
          if kinds[n] == 1
            x = (places[n, 0] - lattice.x) / lattice.voxel
            y = (places[n, 1] - lattice.y) / lattice.voxel
            z = (places[n, 2] - lattice.z) / lattice.voxel
            i = x.floor.to_i
            j = y.floor.to_i
            k = z.floor.to_i
            if i >= 0 && j >= 0 && k >= 0 && i < sums.dim(2) - 1 && j < sums.dim(1) - 1 && k < sums.dim(0) - 1
              8.times do |c|
                a = c & 1
                b = c >> 1 & 1
                d = c >> 2
                share = (a == 1 ? x - i : 1.0 - x + i) * (b == 1 ? y - j : 1.0 - y + j) * (d == 1 ? z - k : 1.0 - z + k)
                3.times { |axis| sums[k + d, j + b, i + a, axis] += share * speeds[n, axis] }
                sums[k + d, j + b, i + a, 3] += share
              end
            end
          end
        end
      end

      # Draws the gas to the speed of what flies there, `rate` a second where there is one in each cell or more.
      # @param sums from {#gather}
      kernel push: Grid::VectorField, faces: Flow::Faces, weight: F32[3], sums: F32[4], rate: F32, dt: F32
      def along(push, faces, weight, sums, rate, dt)
        each_cell(weight) do |k, j, i|
          count = sums[k, j, i, 3]
          if count > 1e-4
            share = steady(rate * weight[k, j, i] * [count, 1.0].min, dt)
            push.x[k, j, i] += share * (sums[k, j, i, 0] / count - 0.5 * (faces.u[k, j, i] + faces.u[k, j, i + 1]))
            push.y[k, j, i] += share * (sums[k, j, i, 1] / count - 0.5 * (faces.v[k, j, i] + faces.v[k, j + 1, i]))
            push.z[k, j, i] += share * (sums[k, j, i, 2] / count - 0.5 * (faces.w[k, j, i] + faces.w[k + 1, j, i]))
          end
        end
      end
    end
  end
end
