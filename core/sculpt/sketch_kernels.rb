# frozen_string_literal: true

module Vumbral
  module Sculpt
    # Loops that draw a field.
    module SketchKernels
      extend Kernel::Library

      # Rays of sight go along this way, and these lead across and up the picture.
      AX, AZ, UX, UY, UZ = 0.86, -0.51, -0.17, 0.94, -0.29
      WX, WY, WZ = -0.48, -0.34, -0.81

      # `setting` f32 [7]: the middle looked at, metres a pixel, how long rays are, how thick what is whole is by the
      # metre, and what counts as whole.
      kernel out: U8[3], cells: Sculpt::Cells, lattice: Grid::Lattice, setting: F32[1]
      def look(out, cells, lattice, setting)
        parallel(out.dim(0), uneven: true) do |row|
          v = (0.5 * out.dim(0) - row - 0.5) * setting[3]
          per = 1.0 / lattice.voxel
          steps = (setting[4] * per).to_i
          out.dim(1).times do |column|
            u = (column + 0.5 - 0.5 * out.dim(1)) * setting[3]
            x = (setting[0] + u * AX + v * UX - 0.5 * setting[4] * WX - lattice.x) * per
            y = (setting[1] + v * UY - 0.5 * setting[4] * WY - lattice.y) * per
            z = (setting[2] + u * AZ + v * UZ - 0.5 * setting[4] * WZ - lattice.z) * per
            through = 1.0
            light = 0.0
            steps.times do |n|
              inside =
                x > -0.5 && y > -0.5 && z > -0.5 && x < 16.0 * cells.tiles.dim(2) && y < 16.0 * cells.tiles.dim(1) &&
                z < 16.0 * cells.tiles.dim(0)
              if through > 0.01 && inside
                value = FieldKernels.linear(cells, x, y, z) / setting[6]
                if value > 0.002
                  # Brighter where it is thinner towards the light.
                  away = FieldKernels.linear(cells, x - 2.2, y + 2.4, z + 1.4) / setting[6]
                  lit = (0.42 + 0.58 * (value - away)).clamp(0.12, 1.0)
                  taken = 1.0 - Math.exp(-[value, 4.0].min * setting[5] * lattice.voxel)
                  light += through * taken * lit
                  through *= 1.0 - taken
                end
              end
              x += WX
              y += WY
              z += WZ
            end
            out[row, column, 0] = (255.0 * Math.sqrt((light + 0.012 * through).clamp(0.0, 1.0))).to_i
          end
        end
      end
    end
  end
end
