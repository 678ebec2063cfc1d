# frozen_string_literal: true

module Vumbral
  module Sculpt
    # Loops of {Drift}.
    module DriftKernels
      extend Kernel::Library

      # Adds to velocities (first) and what they are weighed by (second), on the lower faces across an axis of the cells
      # of bricks. Beside its density what moves counts a little, so that edges know where they go.
      kernel sums: F32[3], places: I32[2], at: Grid::Lattice, density: Sculpt::Cells, flow: Grid::VectorField,
        from: Grid::Lattice, way: F32[1], axis: I32
      def gather(sums, places, at, density, flow, from, way, axis)
        parallel(places.dim(0)) do |n|
          per = 1.0 / from.voxel
          4096.times do |c|
            k = 16 * places[n, 0] + c / 256
            j = 16 * places[n, 1] + c / 16 % 16
            i = 16 * places[n, 2] + c % 16
            below = FieldKernels.at(density, axis == 2 ? k - 1 : k, axis == 1 ? j - 1 : j, axis == 0 ? i - 1 : i)
            x = at.x + (i - (axis == 0 ? 0.5 : 0.0)) * at.voxel
            y = at.y + (j - (axis == 1 ? 0.5 : 0.0)) * at.voxel
            z = at.z + (k - (axis == 2 ? 0.5 : 0.0)) * at.voxel
            u = way[0] * x + way[1] * y + way[2] * z + way[3]
            v = way[4] * x + way[5] * y + way[6] * z + way[7]
            w = way[8] * x + way[9] * y + way[10] * z + way[11]
            speed = way[15] * u + way[16] * v + way[17] * w + way[18]
            a = (u - from.x) * per
            b = (v - from.y) * per
            d = (w - from.z) * per
            inside = a > -1.0 && b > -1.0 && d > -1.0 && a < flow.x.dim(2) && b < flow.x.dim(1) && d < flow.x.dim(0)
            if inside
              speed +=
                way[12] * Grid::Sampling.linear(flow.x, a, b, d) + way[13] * Grid::Sampling.linear(flow.y, a, b, d) +
                way[14] * Grid::Sampling.linear(flow.z, a, b, d)
            end
            weight = 0.5 * (FieldKernels.at(density, k, j, i) + below) + (speed == 0.0 ? 0.0 : 1e-4)
            sums[n, 0, c] += weight * speed
            sums[n, 1, c] += weight
          end
        end
      end

      # Puts them into a channel of a frame's bricks from one on, held to what a half can say.
      kernel values: F16[3], sums: F32[3], from: I32, channel: I32
      def lay(values, sums, from, channel)
        parallel(sums.dim(0)) do |n|
          4096.times do |c|
            weight = sums[n, 1, c]
            values[from + n, channel, c] = weight > 1e-6 ? (sums[n, 0, c] / weight).clamp(-65_000.0, 65_000.0) : 0.0
          end
        end
      end
    end
  end
end
