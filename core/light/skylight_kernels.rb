# frozen_string_literal: true

module Vumbral
  module Light
    # Loops for light from all around.
    module SkylightKernels
      extend Kernel::Library

      # Six beams through the smoke, `beams` f32 [6, z, y, x]: along x, y and z, each upwards and then downwards. In
      # each slice of one is what has come through the slice before, spread a little sideways, less what the smoke
      # between takes. `thick` is the optical depth of a cell of density 1.
      kernel beams: F32[4], smoke: F32[3], thick: F32
      def pass(beams, smoke, thick)
        # Beams know nothing of each other: all of one is one piece of work, as handing slices out would take longer
        # than them.
        parallel(6) do |n|
          axis = n / 2
          way = 1 - 2 * (n & 1)
          nx = smoke.dim(2)
          ny = smoke.dim(1)
          nz = smoke.dim(0)
          count = axis == 0 ? nx : (axis == 1 ? ny : nz)
          rows = axis == 2 ? ny : nz
          columns = axis == 0 ? ny : nx
          # Two directions across the beam.
          pk = axis == 2 ? 0 : 1
          pj = axis == 2 ? 1 : 0
          qj = axis == 0 ? 1 : 0
          qi = axis == 0 ? 0 : 1
          count.times do |s|
            at = way > 0 ? s : count - 1 - s
            back = at - way
            rows.times do |r|
              columns.times do |c|
                k = axis == 2 ? at : r
                j = axis == 1 ? at : (axis == 2 ? r : c)
                i = axis == 0 ? at : c
                here = smoke[k, j, i]
                value = 0.0
                if s == 0
                  value = Math.exp(-0.5 * thick * here)
                else
                  bk = axis == 2 ? back : k
                  bj = axis == 1 ? back : j
                  bi = axis == 0 ? back : i
                  sum = 0.5 * beams[n, bk, bj, bi] + 0.125 * (beams[n, [bk - pk, 0].max, [bj - pj, 0].max, bi] +
                    beams[n, [bk + pk, nz - 1].min, [bj + pj, ny - 1].min, bi] +
                    beams[n, bk, [bj - qj, 0].max, [bi - qi, 0].max] + beams[n, bk, [bj + qj, ny - 1].min, [bi + qi, nx - 1].min])
                  value = sum * Math.exp(-0.5 * thick * (here + smoke[bk, bj, bi]))
                end
                beams[n, k, j, i] = value
              end
            end
          end
        end
      end

      # Puts six beams together.
      kernel light: Light::Skylight, beams: F32[4]
      def gather(light, beams)
        each_cell(light.up) do |k, j, i|
          across = beams[0, k, j, i] + beams[1, k, j, i] + beams[4, k, j, i] + beams[5, k, j, i]
          # The beam that goes down brings the sky.
          light.up[k, j, i] = 0.16666667 * (beams[3, k, j, i] + 0.5 * across)
          light.down[k, j, i] = 0.16666667 * (beams[2, k, j, i] + 0.5 * across)
        end
      end
    end
  end
end
