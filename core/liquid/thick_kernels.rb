# frozen_string_literal: true

module Vumbral
  module Liquid
    # What thick liquids hold back.
    module ThickKernels
      extend Kernel::Library

      # Equations of one part of the speed (0 x, 1 y, 2 z) that is thick: each face is drawn to its neighbours, `much`
      # being viscosity times the step by the square of a cell. Walls hold on as they grip; across them nothing passes.
      kernel m: Liquid::Matrix, b: F32[3], field: F32[3], known: U8[3], open: F32[3], walls: Liquid::Walls, axis: I32,
        much: F32
      def thick(m, b, field, known, open, walls, axis, much)
        each_cell(field) do |k, j, i|
          own = 0.0
          given = 0.0
          tx = 0.0
          ty = 0.0
          tz = 0.0
          if known[k, j, i] > 0 && open[k, j, i] > 0.0
            own = 1.0
            given = field[k, j, i]
            6.times do |side|
              way = side / 2
              step = side % 2 == 0 ? -1 : 1
              c = k + (way == 2 ? step : 0)
              d = j + (way == 1 ? step : 0)
              a = i + (way == 0 ? step : 0)
              inside = c >= 0 && d >= 0 && a >= 0 && c < field.dim(0) && d < field.dim(1) && a < field.dim(2)
              closed = !inside
              flows = false
              if inside
                closed = open[c, d, a] <= 0.0
                flows = !closed && known[c, d, a] > 0
              end
              if flows
                own += much
                tx = much if way == 0 && step == 1
                ty = much if way == 1 && step == 1
                tz = much if way == 2 && step == 1
              elsif closed
                x = a + (axis == 0 ? 0.0 : 0.5)
                y = d + (axis == 1 ? 0.0 : 0.5)
                z = c + (axis == 2 ? 0.0 : 0.5)
                grip = way == axis ? 1.0 : Grid::Sampling.linear(walls.grip, x, y, z)
                speed = axis == 0 ? Grid::Sampling.linear(walls.x, x, y, z) : (axis == 1 ? Grid::Sampling.linear(walls.y, x, y, z) : Grid::Sampling.linear(walls.z, x, y, z))
                # Along it a wall is half a cell away.
                hold = much * (way == axis ? 1.0 : 2.0) * grip
                own += hold
                given += hold * speed
              end
            end
          end
          m.own[k, j, i] = own
          m.x[k, j, i] = tx
          m.y[k, j, i] = ty
          m.z[k, j, i] = tz
          b[k, j, i] = given
        end
      end
    end
  end
end
