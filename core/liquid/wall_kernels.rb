# frozen_string_literal: true

module Vumbral
  module Liquid
    # Walls by the corners of cells.
    module WallKernels
      extend Kernel::Library

      # How fast walls go on each face: the mean of its four corners.
      kernel moved: Flow::Faces, walls: Liquid::Walls
      def faces(moved, walls)
        each_cell(moved.u) do |k, j, i|
          moved.u[k, j, i] = 0.25 *
            (walls.x[k, j, i] + walls.x[k, j + 1, i] + walls.x[k + 1, j, i] + walls.x[k + 1, j + 1, i])
        end
        each_cell(moved.v) do |k, j, i|
          moved.v[k, j, i] = 0.25 *
            (walls.y[k, j, i] + walls.y[k, j, i + 1] + walls.y[k + 1, j, i] + walls.y[k + 1, j, i + 1])
        end
        each_cell(moved.w) do |k, j, i|
          moved.w[k, j, i] = 0.25 *
            (walls.z[k, j, i] + walls.z[k, j, i + 1] + walls.z[k, j + 1, i] + walls.z[k, j + 1, i + 1])
        end
      end

      # Outside of a region there is nothing but wall.
      kernel far: F32[3], region: Grid::Region
      def hollow(far, region)
        each_cell(far) do |k, j, i|
          within = k >= region.k0 && k < region.k1 && j >= region.j0 && j < region.j1 && i >= region.i0 && i < region.i1
          far[k, j, i] = within ? far[k, j, i] : -8.0
        end
      end

      # A body's part in the walls, by its distance at the corners (metres). `shell` is the whole thickness of one that
      # blocks around its surface only. `m` f32 [14]: the twelve numbers that make its velocity from a place, its grip,
      # and whether it is a tank, which holds what is inside.
      kernel walls: Liquid::Walls, distance: F32[3], shell: F32, m: F32[1], lattice: Grid::Lattice, region: Grid::Region
      def stand(walls, distance, shell, m, lattice, region)
        parallel(region.k1 - region.k0) do |n|
          k = region.k0 + n
          z = lattice.z + k * lattice.voxel
          (region.j0...region.j1).each do |j|
            y = lattice.y + j * lattice.voxel
            (region.i0...region.i1).each do |i|
              x = lattice.x + i * lattice.voxel
              far = outside(distance[k, j, i], shell, m[13] > 0.5) / lattice.voxel
              if far < walls.far[k, j, i]
                walls.far[k, j, i] = far
                if far < 3.0
                  walls.x[k, j, i] = m[0] * x + m[1] * y + m[2] * z + m[3]
                  walls.y[k, j, i] = m[4] * x + m[5] * y + m[6] * z + m[7]
                  walls.z[k, j, i] = m[8] * x + m[9] * y + m[10] * z + m[11]
                  walls.grip[k, j, i] = m[12]
                end
              end
            end
          end
        end
      end

      # How far outside a wall a place is, metres, by its distance from the body.
      kernel distance: F32, shell: F32, tank: BOOL, returns: F32
      def outside(distance, shell, tank)
        tank ? -distance : (shell > 0.0 ? distance.abs - 0.5 * shell : distance)
      end

      # Adds how a body's surface moves by itself, where that body is the nearest.
      kernel walls: Liquid::Walls, distance: F32[3], shell: F32, tank: BOOL, field: Grid::VectorField,
        region: Grid::Region, voxel: F32
      def stir(walls, distance, shell, tank, field, region, voxel)
        parallel(region.k1 - region.k0) do |n|
          k = region.k0 + n
          (region.j0...region.j1).each do |j|
            (region.i0...region.i1).each do |i|
              far = outside(distance[k, j, i], shell, tank) / voxel
              if far < 3.0 && far <= walls.far[k, j, i]
                walls.x[k, j, i] += field.x[k, j, i]
                walls.y[k, j, i] += field.y[k, j, i]
                walls.z[k, j, i] += field.z[k, j, i]
              end
            end
          end
        end
      end
    end
  end
end
