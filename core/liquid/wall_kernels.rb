# frozen_string_literal: true

module Vumbral
  module Liquid
    # Walls by the corners of cells.
    module WallKernels
      extend Kernel::Library

      # How fast walls go on each face: the mean of its four corners.
      kernel moved: Flow::Faces, walls: Liquid::Walls
      def faces(moved, walls)
        each_cell(moved.u) { |k, j, i| moved.u[k, j, i] = 0.25 * (walls.x[k, j, i] + walls.x[k, j + 1, i] + walls.x[k + 1, j, i] + walls.x[k + 1, j + 1, i]) }
        each_cell(moved.v) { |k, j, i| moved.v[k, j, i] = 0.25 * (walls.y[k, j, i] + walls.y[k, j, i + 1] + walls.y[k + 1, j, i] + walls.y[k + 1, j, i + 1]) }
        each_cell(moved.w) { |k, j, i| moved.w[k, j, i] = 0.25 * (walls.z[k, j, i] + walls.z[k, j, i + 1] + walls.z[k, j + 1, i] + walls.z[k, j + 1, i + 1]) }
      end
    end
  end
end
