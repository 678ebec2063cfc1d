# frozen_string_literal: true

module Vumbral
  module Sculpt
    # The step that holds strokes of a brush, and masks that are painted.
    module Brushing
      private

      def brush(field, step) = step["strokes"].reduce(field) { |before, stroke| stroked(before, stroke) }

      def stroked(field, stroke)
        distance = field.as == :distance
        places = Kernel::Buffer.of(:f32, stroke["places"].flatten, stroke["places"].size, 4)
        marks = Kernel::Buffer.new(:u8, *field.counts)
        BrushKernels.near(marks, field.lattice, places, stroke["radius"], distance ? 2.0 : 1.0)
        return field unless marks.bytes.bytes.include?(1)

        smooth = (stroke["way"] == "smooth") ? bell(field, 0.5 * stroke["radius"] / field.voxel) : field
        setting =
          Kernel::Buffer.of(
            :f32,
            [
              Shot::Strokes::WAYS.index(stroke["way"]), *stroke.values_at("radius", "strength", "hard"),
              distance ? 1.0 : 0.0
            ].map(&:to_f)
          )
        field.replaced(marks) do |out, full|
          BrushKernels.stroke(out, full.places, full.cells, smooth.cells, full.lattice, places, setting)
        end
      end

      # From 0 to 1, as strokes have painted it.
      def painted(like, strokes)
        strokes.reduce(Field.even(like.lattice, like.counts, 0.0)) { |before, stroke| stroked(before, stroke) }
      end
    end
  end
end
