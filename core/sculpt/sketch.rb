# frozen_string_literal: true

module Vumbral
  module Sculpt
    # A small picture of a field, to see at a glance what a step came to: looked at from a little above, lit from the
    # left.
    module Sketch
      # So thick is a ray through the middle of what is 1 all through.
      THICK = 14.0

      module_function

      # @param field [Field]
      # @return [Kernel::Buffer] u8 [height, width, 1]
      def of(field, width, height)
        density = (field.as == :distance) ? field.each_value(as: :density) { |out, before| StepKernels.density(out, before, field.voxel, field.voxel, 1.0) } : field
        low, high = held(density)
        size = low.zip(high).map { |a, b| b - a }
        middle = low.zip(size).map { |c, s| c + 0.5 * s }
        long = Math.sqrt(size.sum { |s| s * s })
        setting =
          Kernel::Buffer.of(
            :f32,
            [
              *middle, 0.86 * long / height, long, THICK / long,
              [0.5, *density.values.to_a.each_slice(97).map(&:first)].max
            ]
          )
        out = Kernel::Buffer.new(:u8, height, width, 1)
        SketchKernels.look(out, density.cells, density.lattice, setting)
        out
      end

      # The box around the bricks that hold something, metres.
      def held(field)
        spots = field.settled.then { |settled| settled.marked(settled.filled) }
        spots = [[0, 0, 0], field.counts.map { |n| n - 1 }] if spots.empty?
        spots
          .transpose
          .map(&:minmax)
          .reverse
          .zip(field.corner)
          .map { |(a, b), c| [c + 16 * a * field.voxel, c + 16 * (b + 1) * field.voxel] }
          .transpose
      end
      private_class_method :held
    end
  end
end
