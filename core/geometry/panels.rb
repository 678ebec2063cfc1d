# frozen_string_literal: true

module Vumbral
  module Geometry
    # Simple shapes in as many faces as are wanted.
    module Panels
      FOLD_STEPS = 16

      module_function

      # A box with so many cells along each edge, closed.
      # @param size [Array<Float>] full lengths along x, y, z
      def box(size, cells)
        points = {}
        triangles = []
        number = ->(place) { points[place] ||= points.size }
        [[0, 1, 2], [1, 2, 0], [2, 0, 1]].each do |across, u, v|
          [0, cells].each do |side|
            cells.times do |i|
              cells.times do |j|
                a, b, c, d =
                  [[i, j], [i + 1, j], [i + 1, j + 1], [i, j + 1]].map do |s, t|
                    number.call([0, 0, 0].tap { |place| place[across], place[u], place[v] = side, s, t })
                  end
                triangles.concat(side.zero? ? [a, c, b, a, d, c] : [a, b, c, a, c, d])
              end
            end
          end
        end
        Mesh.from(
          points.keys.flat_map { |place| place.zip(size).map { |n, length| (n.to_f / cells - 0.5) * length } },
          triangles
        )
      end

      # A level sheet, facing up.
      def plane(size, cells)
        sheet(Array.new(cells + 1) { |n| [0.0, (n.to_f / cells - 0.5) * size[2]] }, size[0], cells)
      end

      # An upright sheet that faces along z, with a picture's places on it.
      def card(size)
        x, y = size[0] / 2.0, size[1] / 2.0
        Mesh.from(
          [-x, -y, 0.0, x, -y, 0.0, x, y, 0.0, -x, y, 0.0], [0, 1, 2, 0, 2, 3],
          places: [0.0, 0.0, 1.0, 0.0, 1.0, 1.0, 0.0, 0.0, 1.0, 1.0, 0.0, 1.0]
        )
      end

      # Ground and wall with a rounded fold between them, open: the ground before the origin, the wall behind it.
      # @param size [Array<Float>] width, height of the wall, depth of the ground
      # @param fold [Float] radius, metres
      def backdrop(size, fold, cells)
        width, height, depth = size
        fold = [fold, height, depth].min
        ground = Array.new(cells + 1) { |n| [0.0, -0.5 * depth + fold + (depth - fold) * (cells - n) / cells] }
        corner =
          (1...FOLD_STEPS).map do |n|
            (n * Math::PI / 2 / FOLD_STEPS).then do |angle|
              [fold - fold * Math.cos(angle), -0.5 * depth + fold - fold * Math.sin(angle)]
            end
          end
        wall = Array.new(cells + 1) { |n| [fold + (height - fold) * n / cells, -0.5 * depth] }
        sheet((ground + corner + wall).uniq.reverse, width, cells)
      end

      # Lines of [y, z] from the back on, drawn out along x.
      def sheet(lines, width, cells)
        points = lines.flat_map { |y, z| Array.new(cells + 1) { |n| [(n.to_f / cells - 0.5) * width, y, z] } }
        row = cells + 1
        triangles =
          (lines.size - 1).times.flat_map do |j|
            cells.times.flat_map { |i| (j * row + i).then { |a| [a, a + row, a + row + 1, a, a + row + 1, a + 1] } }
          end
        Mesh.from(points.flatten, triangles)
      end
      private_class_method :sheet
    end
  end
end
