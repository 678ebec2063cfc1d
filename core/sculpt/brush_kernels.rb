# frozen_string_literal: true

module Vumbral
  module Sculpt
    # Loops over the places of a brush's strokes.
    module BrushKernels
      extend Kernel::Library

      ADD, TAKE, SMOOTH, PINCH = 0, 1, 2, 3

      # How far a place is from a stroke in radii (a pen that is pressed less has a smaller one), and where on it.
      # `stroke` f32 [n, 4] places and pressure.
      kernel stroke: F32[2], radius: F32, x: F32, y: F32, z: F32, returns: [F32, F32, F32, F32]
      def nearest(stroke, radius, x, y, z)
        best = 1e9
        bx = 0.0
        by = 0.0
        bz = 0.0
        [stroke.dim(0) - 1, 1].max.times do |n|
          m = [n + 1, stroke.dim(0) - 1].min
          ux = stroke[m, 0] - stroke[n, 0]
          uy = stroke[m, 1] - stroke[n, 1]
          uz = stroke[m, 2] - stroke[n, 2]
          square = ux * ux + uy * uy + uz * uz
          t = square > 0.0 ? (((x - stroke[n, 0]) * ux + (y - stroke[n, 1]) * uy + (z - stroke[n, 2]) * uz) / square).clamp(0.0, 1.0) : 0.0
          px = stroke[n, 0] + t * ux
          py = stroke[n, 1] + t * uy
          pz = stroke[n, 2] + t * uz
          own = radius * [stroke[n, 3] + t * (stroke[m, 3] - stroke[n, 3]), 0.05].max
          far = Math.sqrt((x - px) * (x - px) + (y - py) * (y - py) + (z - pz) * (z - pz)) / own
          if far < best
            best = far
            bx = px
            by = py
            bz = pz
          end
        end
        return best, bx, by, bz
      end

      # How much of a stroke there is so far from it: all up to its hard part, then softly less.
      kernel far: F32, hard: F32, returns: F32
      def share(far, hard)
        s = ((1.0 - far) / [1.0 - hard, 0.02].max).clamp(0.0, 1.0)
        s * s * (3.0 - 2.0 * s)
      end

      # One stroke. `setting` f32 [5]: the way, radius, strength, hardness, and 1 where values are distances; `smooth`
      # what it is smoothed to.
      kernel out: F32[3], places: I32[2], cells: Sculpt::Cells, smooth: Sculpt::Cells, lattice: Grid::Lattice,
        stroke: F32[2], setting: F32[1]
      def stroke(out, places, cells, smooth, lattice, stroke, setting)
        way = setting[0].to_i
        radius = setting[1]
        parallel(places.dim(0), uneven: true) do |n|
          16.times do |k|
            16.times do |j|
              16.times do |i|
                c = 16 * places[n, 0] + k
                b = 16 * places[n, 1] + j
                a = 16 * places[n, 2] + i
                x = lattice.x + a * lattice.voxel
                y = lattice.y + b * lattice.voxel
                z = lattice.z + c * lattice.voxel
                value = FieldKernels.at(cells, c, b, a)
                found = value
                far, px, py, pz = nearest(stroke, radius, x, y, z)
                if far < (setting[4] > 0.5 ? 2.0 : 1.0)
                  weight = setting[2] * share(far, setting[3])
                  if way == SMOOTH
                    found = value + weight * (FieldKernels.at(smooth, c, b, a) - value)
                  elsif way == PINCH
                    # Drawn together: each takes what lay farther off.
                    pull = 0.5 * weight / lattice.voxel
                    found = FieldKernels.linear(cells, a + pull * (x - px), b + pull * (y - py), c + pull * (z - pz))
                  elsif setting[4] > 0.5
                    # A body as wide as the stroke, joined or cut out.
                    own = (far - setting[2]) * radius
                    found = way == ADD ? StepKernels.least(value, own, (1.0 - setting[3]) * radius) : -StepKernels.least(-value, own, (1.0 - setting[3]) * radius)
                  else
                    found = way == ADD ? [value, value + weight * (1.0 - value)].max : value * (1.0 - weight)
                  end
                end
                out[16 * n + k, j, i] = found
              end
            end
          end
        end
      end

      # Marks bricks that a stroke comes near to; `reach` in radii.
      kernel marks: U8[3], lattice: Grid::Lattice, stroke: F32[2], radius: F32, reach: F32
      def near(marks, lattice, stroke, radius, reach)
        least = radius
        stroke.dim(0).times { |n| least = [least, radius * [stroke[n, 3], 0.05].max].min }
        each_cell(marks) do |k, j, i|
          half = 8.0 * lattice.voxel
          far, _x, _y, _z =
            nearest(
              stroke, radius, lattice.x + 16 * i * lattice.voxel + half, lattice.y + 16 * j * lattice.voxel + half,
              lattice.z + 16 * k * lattice.voxel + half
            )
          # In radii of its own, which no pen makes larger than it is.
          marks[k, j, i] = 1 if (far - reach) * least < 1.75 * half
        end
      end
    end
  end
end
