# frozen_string_literal: true

module Vumbral
  module Grid
    # Diffusion of a field at centres, or of one part of the velocity on its faces, exactly by fast diagonalisation.
    # Along its own axis the value is zero on a closed wall's face; elsewhere nothing passes a wall.
    class Diffusion
      # @param shape [Array<Integer>] of the array; @param axis [Integer, nil] across which faces lie; nil at centres
      # @param open [Hash{Symbol => Boolean}]
      def initialize(shape, axis, open)
        @shape = shape
        sides = [%i[z0 z1], %i[y0 y1], %i[x0 x1]]
        @waves =
          shape.each_with_index.map do |n, a|
            (a == axis) ? along(n, *sides[a].map { |side| open[side] }) : BoxPoisson.waves(n, false, false)
          end
        @scratch, @other = Array.new(2) { Kernel::Buffer.new(:f32, *shape) }
      end

      # @param field [Kernel::Buffer] f32, changed in place; @param amount [Float] ν·dt/h²
      def diffuse(field, amount)
        (qz, lz), (qy, ly), (qx, lx) = @waves
        products = BoxProducts.new(@shape)
        products.along_x(field, qx, @scratch, false)
        products.along_y(@scratch, qy, @other, true)
        products.along_z(@other, qz, @scratch, true)
        PoissonKernels.damp(@scratch, lz, ly, lx, amount)
        products.along_z(@scratch, qz, @other, false)
        products.along_y(@other, qy, @scratch, false)
        products.along_x(@scratch, qx, field, true)
      end

      private

      # Waves on faces, the outermost two included: a closed wall holds its face at zero, so that
      # face has no part in any wave.
      def along(count, low_open, high_open)
        return BoxPoisson.waves(count, false, false) if low_open && high_open

        first, last = low_open ? 0 : 1, high_open ? count - 1 : count - 2
        inner = last - first + 1
        columns = Array.new(inner) { |m| wave(inner, m, low_open, high_open) }
        vectors =
          Array.new(count) do |i|
            Array.new(count) { |m| (m < inner && i.between?(first, last)) ? columns[m][0][i - first] : 0.0 }
          end
        [
          Kernel::Buffer.of(:f32, vectors.flatten, count, count),
          Kernel::Buffer.of(:f32, Array.new(count) { |m| (m < inner) ? columns[m][1] : 0.0 })
        ]
      end

      def wave(inner, m, low_open, high_open)
        angle = (low_open || high_open) ? Math::PI * (m + 0.5) / (inner + 0.5) : Math::PI * (m + 1) / (inner + 1)
        column = Array.new(inner) do |i|
          if low_open then Math.sin(angle * (inner - i))
          else Math.sin(angle * (i + 1))
          end
        end
        length = Math.sqrt(column.sum { |x| x * x })
        [column.map { |x| x / length }, 2.0 - 2.0 * Math.cos(angle)]
      end
    end
  end
end
