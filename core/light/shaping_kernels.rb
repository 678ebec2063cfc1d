# frozen_string_literal: true

module Vumbral
  module Light
    # Loops that change what a look shows of a volume.
    module ShapingKernels
      extend Kernel::Library

      # A column of a table f32 [count, columns] at a place, even between its entries; its ends go on.
      kernel table: F32[2], column: I32, at: F32, returns: F32
      def read(table, column, at)
        held = at.clamp(0.0, table.dim(0) - 1.0)
        n = held.to_i.clamp(0, table.dim(0) - 2)
        table[n, column] + (held - n) * (table[n + 1, column] - table[n, column])
      end

      # Puts what a table says in place of each density. Where nothing is, nothing is shown.
      kernel field: F32[3], table: F32[2], low: F32, per: F32
      def map(field, table, low, per)
        each_cell(field) do |k, j, i|
          value = field[k, j, i]
          field[k, j, i] = value > 0.0 ? read(table, 0, (value - low) * per) : 0.0
        end
      end

      # Thin smoke gets thinner (`edge` above 0) or thicker, half way at the density `at`.
      kernel field: F32[3], edge: F32, at: F32
      def sharpen(field, edge, at)
        each_cell(field) do |k, j, i|
          value = field[k, j, i]
          field[k, j, i] = value * (2.0 * value / (value + at))**(2.0 * edge) if value > 0.0 && value < at
        end
      end

      # Multiplies densities by the first of some textures where they lie, by so much of it.
      kernel field: F32[3], textures: F32[2], much: F32, lattice: Grid::Lattice
      def weave(field, textures, much, lattice)
        each_cell(field) do |k, j, i|
          if field[k, j, i] > 0.0
            value =
              Geometry::TextureKernels.value(
                textures, 0, lattice.x + i * lattice.voxel, lattice.y + j * lattice.voxel,
                lattice.z + k * lattice.voxel, lattice.voxel
              )
            field[k, j, i] *= 1.0 + much * ([value, 0.0].max - 1.0)
          end
        end
      end

      # Holds values between two ends; what is no number becomes the lower one.
      kernel field: F32[3], low: F32, high: F32
      def hold(field, low, high)
        each_cell(field) do |k, j, i|
          value = field[k, j, i]
          field[k, j, i] = value > low ? (value > high ? high : value) : low
        end
      end

      # A table's colours at each value of a field: `rgb` f32 [3, z, y, x].
      kernel rgb: F32[4], over: F32[3], table: F32[2], low: F32, per: F32
      def colour(rgb, over, table, low, per)
        each_cell(over) do |k, j, i|
          at = (over[k, j, i] - low) * per
          3.times { |c| rgb[c, k, j, i] = read(table, c, at) }
        end
      end

      kernel rgb: F32[4], by: F32[4]
      def multiply(rgb, by)
        parallel(rgb.dim(1)) do |k|
          3.times { |c| rgb.dim(2).times { |j| rgb.dim(3).times { |i| rgb[c, k, j, i] *= by[c, k, j, i] } } }
        end
      end
    end
  end
end
