# frozen_string_literal: true

module Vumbral
  module Sculpt
    # Loops of moments between two frames.
    module BetweenKernels
      extend Kernel::Library

      # What a field comes to when it goes along its own velocities, m/s at its cells, for some seconds: at the cells of
      # another lattice, by how far back each has come in short steps (Stam 1999), read smoothly and held within what
      # lies around. Taken times a factor and added to what is there.
      kernel out: F32[3], at: Grid::Lattice, field: F32[3], smooth: F32[3], flow: Grid::VectorField,
        from: Grid::Lattice, setting: F32[1]
      def led(out, at, field, smooth, flow, from, setting)
        steps = setting[1].to_i
        step = setting[0] / steps
        parallel(out.dim(0), uneven: true) do |k|
          per = 1.0 / from.voxel
          out.dim(1).times do |j|
            out.dim(2).times do |i|
              a = (at.x + i * at.voxel - from.x) * per
              b = (at.y + j * at.voxel - from.y) * per
              c = (at.z + k * at.voxel - from.z) * per
              steps.times do |_step|
                inside = a > -1.0 && b > -1.0 && c > -1.0 && a < flow.x.dim(2) && b < flow.x.dim(1) && c < flow.x.dim(0)
                if inside
                  u = Grid::Sampling.linear(flow.x, a, b, c)
                  v = Grid::Sampling.linear(flow.y, a, b, c)
                  w = Grid::Sampling.linear(flow.z, a, b, c)
                  a -= step * per * u
                  b -= step * per * v
                  c -= step * per * w
                end
              end
              holds =
                a > -0.5 && b > -0.5 && c > -0.5 && a < field.dim(2) - 0.5 && b < field.dim(1) - 0.5 &&
                c < field.dim(0) - 0.5
              if holds
                low, high = Grid::Sampling.bounds(field, a, b, c)
                out[k, j, i] = out[k, j, i] + setting[2] * Grid::Spline.read(smooth, a, b, c).clamp(low, high)
              end
            end
          end
        end
      end
    end
  end
end
