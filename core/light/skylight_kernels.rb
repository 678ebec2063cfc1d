# frozen_string_literal: true

module Vumbral
  module Light
    # Loops for light from all around.
    module SkylightKernels
      extend Kernel::Library

      # One slice of a beam along an axis (0 x, 1 y, 2 z) going `way` (1 or -1): what has come through the slice
      # before, spread a little sideways, less what the smoke between takes. `thick` is the optical depth of
      # a cell of density 1.
      kernel beam: F32[3], smoke: F32[3], axis: I32, at: I32, way: I32, thick: F32
      def pass(beam, smoke, axis, at, way, thick)
        nx = smoke.dim(2)
        ny = smoke.dim(1)
        nz = smoke.dim(0)
        rows = axis == 2 ? ny : nz
        columns = axis == 0 ? ny : nx
        back = at - way
        last = (axis == 0 ? nx : (axis == 1 ? ny : nz)) - 1
        parallel(rows) do |r|
          columns.times do |c|
            k = axis == 2 ? at : r
            j = axis == 1 ? at : (axis == 2 ? r : c)
            i = axis == 0 ? at : c
            here = smoke[k, j, i]
            value = Math.exp(-0.5 * thick * here)
            if back >= 0 && back <= last
              bk = axis == 2 ? back : k
              bj = axis == 1 ? back : j
              bi = axis == 0 ? back : i
              # Two directions across the beam.
              pk = axis == 2 ? 0 : 1
              pj = axis == 2 ? 1 : 0
              qj = axis == 0 ? 1 : 0
              qi = axis == 0 ? 0 : 1
              sum = 0.5 * beam[bk, bj, bi] + 0.125 * (beam[[bk - pk, 0].max, [bj - pj, 0].max, bi] +
                beam[[bk + pk, nz - 1].min, [bj + pj, ny - 1].min, bi] +
                beam[bk, [bj - qj, 0].max, [bi - qi, 0].max] + beam[bk, [bj + qj, ny - 1].min, [bi + qi, nx - 1].min])
              value = sum * Math.exp(-0.5 * thick * (here + smoke[bk, bj, bi]))
            end
            beam[k, j, i] = value
          end
        end
      end

      # Puts six beams together: along x, y and z, each upwards and downwards.
      kernel light: Light::Skylight, xa: F32[3], xb: F32[3], ya: F32[3], yb: F32[3], za: F32[3], zb: F32[3]
      def gather(light, xa, xb, ya, yb, za, zb)
        each_cell(xa) do |k, j, i|
          across = xa[k, j, i] + xb[k, j, i] + za[k, j, i] + zb[k, j, i]
          # The beam that goes down brings the sky.
          light.up[k, j, i] = 0.16666667 * (yb[k, j, i] + 0.5 * across)
          light.down[k, j, i] = 0.16666667 * (ya[k, j, i] + 0.5 * across)
        end
      end
    end
  end
end
