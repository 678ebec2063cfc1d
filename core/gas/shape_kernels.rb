# frozen_string_literal: true

module Vumbral
  module Gas
    # From signed distance (metres, negative inside) to what a source covers and a collider fills.
    module ShapeKernels
      extend Kernel::Library

      # Soft over one voxel. With a skin (metres, its whole thickness) only what lies around the
      # surface counts. `per` is one over the voxel size.
      kernel field: F32[3], distance: F32[3], skin: F32, per: F32
      def cover(field, distance, skin, per)
        parallel(field.dim(0)) do |k|
          field.dim(1).times do |j|
            field.dim(2).times do |i|
              inside = 0.5 - distance[k, j, i] * per
              around = 0.5 + (0.5 * skin - distance[k, j, i].abs) * per
              field[k, j, i] = (skin > 0.0 ? around : inside).clamp(0.0, 1.0)
            end
          end
        end
      end

      kernel solid: U8[3], distance: F32[3]
      def mark(solid, distance)
        parallel(solid.dim(0)) do |k|
          solid.dim(1).times { |j| solid.dim(2).times { |i| solid[k, j, i] = distance[k, j, i] < 0.0 ? 1 : solid[k, j, i].to_i } }
        end
      end
    end
  end
end
