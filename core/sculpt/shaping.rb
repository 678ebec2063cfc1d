# frozen_string_literal: true

module Vumbral
  module Sculpt
    # Steps by distances to surfaces.
    module Shaping
      # A density as thin as its voxels, of distances that no step made one of; by halves of a voxel.
      EDGE = {"edge" => 0.5, "whole" => 1.0}.freeze

      private

      def density(field, step)
        inside, outside = step["edge"] ? [field.voxel * step["edge"]] * 2 : step.values_at("inside", "outside")
        field.each_value(as: :density) do |out, before|
          StepKernels.density(out, before, inside, outside, step["whole"])
        end
      end

      # Of a density, what lies beyond the half of it takes the place of a surface.
      def grow(field, step) = shaped(field) { |out, before| StepKernels.add(out, before, -step["by"]) }

      # In by half of what is thin, and out again from what is left.
      def open(field, step) = offset(field, 0.5 * step["thin"])

      # Out and in again.
      def close(field, step) = offset(field, -0.5 * step["thin"])

      # @param by [Float] metres, below 0 out first
      def offset(field, by)
        moved = surface(field).each_value { |out, before| StepKernels.add(out, before, by) }
        mesh = Skin.of(moved, 0.0)
        # Nothing is left that could grow again.
        return back(field, moved) if mesh.count.zero?

        anew = Beginning.distance([Skin.body(mesh)], field, band, Skin::Only.new(mesh))
        back(field, anew.each_value { |out, before| StepKernels.add(out, before, -by) })
      end

      def shell(field, step) = shaped(field) { |out, before| StepKernels.shell(out, before, step["wall"]) }

      def combine(field, step)
        other = step["body"] ? Beginning.distance([step["body"]], field, band, @meshes) : surface(Carving.new(step["sculpt"], @meshes).call.laid(field))
        joined =
          surface(field).with(other) do |out, one, two|
            StepKernels.combine(out, one, two, %w[cut union intersect].index(step["how"]), step["blend"])
          end
        back(field, joined)
      end

      # Distances from scratch, to where its values come to one.
      def distance(field, step)
        level = (field.as == :distance) ? 0.0 : step["level"]
        mesh = Skin.of(field, level)
        Beginning.distance([Skin.body(mesh)], field, band, Skin::Only.new(mesh))
      end

      def shaped(field, &change) = back(field, surface(field).each_value(&change))

      # Distances, or a density as one: 0 at its half, a voxel's length for each unit.
      def surface(field)
        return field if field.as == :distance

        field.each_value(as: :distance) { |out, before| StepKernels.as_distance(out, before, field.voxel) }
      end

      def back(before, after)
        return after if before.as == :distance

        after.each_value(as: :density) { |out, distance| StepKernels.as_density(out, distance, after.voxel) }
      end
    end
  end
end
