# frozen_string_literal: true

module Vumbral
  module Sculpt
    # Steps that look at the values around each.
    module Filters
      private

      def blur(field, step) = bell(field, 0.5 * step["radius"] / field.voxel)

      def median(field, step) =
        field.replaced(field.near(step["cells"])) do |out, full|
          FilterKernels.median(out, full.places, full.cells, step["cells"])
        end

      def sharpen(field, step)
        field.with(blur(field, step)) do |out, before, blurred|
          FilterKernels.sharpen(out, before, blurred, step["amount"])
        end
      end

      # A blur that gives the surface back what it took: it is moved until it holds as much as before.
      def relax(field, step)
        before = surface(field)
        smooth = bell(before, 0.5 * step["radius"] / field.voxel)
        wanted = held(before, 0.0)
        low, high = -step["radius"] - field.voxel, step["radius"] + field.voxel
        24.times do
          middle = 0.5 * (low + high)
          (held(smooth, middle) < wanted) ? low = middle : high = middle
        end
        back(field, smooth.each_value { |out, distance| StepKernels.add(out, distance, -0.5 * (low + high)) })
      end

      # Cells within a surface that is moved out.
      def held(field, by) =
        (field.count.zero? ? 0.0 : FilterKernels.within(field.values, by, field.voxel)) +
          field.index.to_a.zip(field.tiles.to_a).sum { |brick, tile| (brick < 0 && tile < by) ? 4096.0 : 0.0 }

      def bell(field, sigma)
        return field if sigma < 0.05

        reach = [(3.0 * sigma).ceil, FilterKernels::REACH].min
        [0, 1, 2].reduce(field) do |before, axis|
          before.replaced(before.near(reach)) do |out, full|
            FilterKernels.blur(out, full.places, full.cells, axis, sigma)
          end
        end
      end
    end
  end
end
