# frozen_string_literal: true

module Vumbral
  module Flow
    # Loops for arrays that follow the content.
    module CropKernels
      extend Kernel::Library

      # Copies what both hold; `dst[k, j, i]` stands where `src[k + dk, j + dj, i + di]` does.
      kernel dst: F32[3], src: F32[3], dk: I32, dj: I32, di: I32
      def paste(dst, src, dk, dj, di)
        parallel(dst.dim(0)) do |k|
          dst.dim(1).times do |j|
            c = k + dk
            b = j + dj
            if c >= 0 && c < src.dim(0) && b >= 0 && b < src.dim(1)
              ([0, -di].max...[dst.dim(2), src.dim(2) - di].min).each { |i| dst[k, j, i] = src[c, b, i + di] }
            end
          end
        end
      end

      # Makes a part of a mask one value.
      kernel mask: U8[3], region: Grid::Region, value: I32
      def paint(mask, region, value)
        parallel(region.k1 - region.k0) do |n|
          (region.j0...region.j1).each do |j|
            (region.i0...region.i1).each { |i| mask[region.k0 + n, j, i] = value }
          end
        end
      end

      # Marks the walls of a mask ({Gas::Domain}) as what gas slides along.
      kernel solid: U8[3], mask: U8[3]
      def wall(solid, mask)
        each_cell(solid) do |k, j, i|
          solid[k, j, i] = mask[k, j, i] == 2 && solid[k, j, i] == 0 ? 1 : solid[k, j, i] * 1
        end
      end

      # Takes away what is not inside.
      kernel field: F32[3], mask: U8[3]
      def clear(field, mask)
        each_cell(field) { |k, j, i| field[k, j, i] = mask[k, j, i] == 0 ? field[k, j, i] : 0.0 }
      end

      # Where something is, layer by layer: lowest and highest x and y of each z, for {Crop}.
      # What is above `least` counts, and with `speed` above 0 what moves faster along an axis.
      kernel found: I32[2], field: F32[3], least: F32
      def extent(found, field, least)
        parallel(field.dim(0)) do |k|
          field.dim(1).times do |j|
            low = field.dim(2)
            high = -1
            field.dim(2).times do |i|
              here = field[k, j, i].abs > least
              low = here && i < low ? i : low
              high = here ? i : high
            end
            if high >= 0
              found[k, 0] = [found[k, 0], low].min
              found[k, 1] = [found[k, 1], high].max
              found[k, 2] = [found[k, 2], j].min
              found[k, 3] = [found[k, 3], j].max
            end
          end
        end
      end
    end
  end
end
