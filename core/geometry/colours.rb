# frozen_string_literal: true

module Vumbral
  module Geometry
    # Colours that come with a mesh, as its corners have them.
    module Colours
      # What a triangle without a material looks like.
      PLAIN = [0.8, 0.8, 0.8].freeze

      module_function

      # @param tints [Kernel::Buffer] f32 [n, 3], a colour for each point
      # @return [Kernel::Buffer] f32 [m, 9]
      def corners(triangles, tints)
        Kernel::Buffer.new(:f32, triangles.dim(0), 9).tap { |out| MeshKernels.corner_colours(out, triangles, tints) }
      end

      # @param mesh [Mesh] one that has colours
      # @return [Kernel::Buffer] f32 [n, 3], one for each point
      def points(mesh)
        Kernel::Buffer
          .new(:f32, mesh.points.dim(0), 3)
          .tap { |tints| MeshKernels.point_colours(tints, mesh.triangles, mesh.colours) }
      end

      # @return [Kernel::Buffer] f32 [n], how bright each point is
      def brightness(tints) = Kernel::Buffer.of(:f32, tints.to_a.each_slice(3).map { |colour| colour.sum / 3.0 })

      # Materials that go on from a triangle to the next.
      # @param rows [Array(Integer, Array<Float>)] first triangle and colour, in order; nil for none
      # @return [Kernel::Buffer, nil] f32 [m, 9]; nil where no triangle has a colour
      def runs(rows, count)
        return if rows.none? { |_, colour| colour }

        rows = [[0, nil]] + rows
        bytes =
          rows
            .each_with_index
            .map { |(first, colour), n| ((colour || PLAIN) * 3).pack("e9") * ((rows[n + 1]&.first || count) - first) }
            .join
        Kernel::Buffer.new(:f32, count, 9, bytes: bytes)
      end

      # From the curve that files and screens use to light (IEC 61966-2-1).
      # @param value [Float] 0 to 1
      def linear(value) = (value <= 0.04045) ? value / 12.92 : ((value + 0.055) / 1.055)**2.4

      # The other way.
      def encoded(value) = (value <= 0.0031308) ? value * 12.92 : 1.055 * value**(1 / 2.4) - 0.055
    end
  end
end
