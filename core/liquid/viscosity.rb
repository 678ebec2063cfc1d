# frozen_string_literal: true

module Vumbral
  module Liquid
    # Thick liquids: each part of the speed is drawn to its neighbours, implicitly, so that any viscosity holds.
    class Viscosity
      # Left over in the end, as a part of the top speed.
      ACCURACY = 1e-3

      # @param size [Array<Integer>] cells along z, y, x
      def initialize(size)
        @size = size
      end

      # @param faces [Flow::Faces] changed; @param known [Marks]; @param open [Flow::Faces]; @param walls [Walls]
      # @param much [Float] viscosity times seconds, by the square of a cell
      # @return [Integer] iterations
      def slow(faces, known, open, walls, much)
        @grids ||= faces.to_a.map { |field| Multigrid.new(field.shape) }
        most = faces.to_a.map { |field| Flow::FlowKernels.peak(field) }.max
        return 0 unless most.positive? && most.finite?

        faces.to_a.each_with_index.sum do |field, axis|
          grid = @grids[axis]
          b = Kernel::Buffer.new(:f32, *field.shape)
          ThickKernels.thick(grid.matrix, b, field, known.to_a[axis], open.to_a[axis], walls, axis, much)
          grid.solve(field, b, ACCURACY * most)[0]
        end
      end
    end
  end
end
