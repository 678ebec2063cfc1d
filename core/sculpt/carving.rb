# frozen_string_literal: true

module Vumbral
  module Sculpt
    # Carries the steps of a sculpt out, one after the other. Each is a pure function of the volume before it.
    class Carving
      SUMS = %w[add subtract multiply divide difference greatest least mix].freeze
      # So many cells at most, and so many along an edge.
      MOST, LONGEST = 48_000_000, 1024

      # @param recipe [Hash] from {Recipe.of}; @param meshes [#mesh, #picture]
      def initialize(recipe, meshes)
        @recipe, @meshes = recipe, meshes
      end

      # @return [Volume] a density
      # @raise [Refused] where it has too many voxels
      def call
        volume = @recipe["steps"].reduce(begun) { |before, step| taken(before, step) }
        (volume.as == :density) ? volume : density(volume, "inside" => 0.5 * volume.voxel, "outside" => 0.5 * volume.voxel, "whole" => 1.0)
      end

      # How far from a surface distances are told: as far as there is room, and as deep as a step looks, metres.
      # @return [Float]
      def band
        asked = @recipe["steps"].flat_map { |step| step.values_at("inside", "outside", "by", "wall", "blend", "far").compact.map(&:abs) }
        [@recipe["room"], *asked].max + @recipe["steps"].sum { |step| step["by"].to_f.abs } + 4.0 * @recipe["voxel"]
      end

      # @return [Volume] what the steps begin with
      def begun
        bodies = body_parts(@recipe["bodies"])
        low, high = bodies.map { |body, rigid| body.bounds(rigid) }.then { |all| [all.map(&:first).transpose.map(&:min), all.map(&:last).transpose.map(&:max)] }
        voxel, room = @recipe["voxel"], @recipe["room"]
        first = low.map { |c| ((c - room) / voxel).floor * voxel }
        counts = first.zip(high).map { |from, to| ((to + room - from) / voxel).ceil + 1 }
        checked(counts)
        lattice = Grid::Lattice.new(*first, voxel)
        Volume.new(distance(bodies, lattice, counts.reverse), lattice, :distance)
      end

      private

      # The step as far as its strength says.
      def taken(before, step)
        after = send(step["what"], before, step)
        return after if step["strength"] >= 1.0

        StepKernels.mix(mixed = after.values.copy, before.values, after.values, step["strength"])
        after.with(mixed)
      end

      def checked(counts)
        return if counts.max <= LONGEST && counts.reduce(:*) <= MOST

        raise Refused.new("A sculpt of #{counts.join(" × ")} voxels is beyond what fits; make its voxels larger, or leave less room around.", code: "too_large")
      end

      # @return [Array<Array(Geometry::Body, Geometry::Transform)>]
      def body_parts(bodies)
        Geometry::Bodies.parts(bodies, @meshes).map do |body|
          pose = Geometry::Pose.of(body["to"])
          [Geometry::Body.new(body["outline"], pose.scale, @meshes, pose.at), pose.rigid]
        end
      end

      # Metres to the nearest of some bodies' surfaces, exact as far as any step asks for it, and no more beyond.
      def distance(bodies, lattice, shape)
        bodies.map { |body, rigid|
          Kernel::Buffer.new(:f32, *shape).fill(band).tap { |field| body.distance(field, rigid, [lattice.x, lattice.y, lattice.z], lattice.voxel, band) }
        }.reduce { |one, other| one.copy.tap { |out| StepKernels.combine(out, one, other, 1, 0.0) } }
      end

      def density(volume, step)
        out = Kernel::Buffer.new(:f32, *volume.values.shape)
        StepKernels.density(out, volume.values, step["inside"], step["outside"], step["whole"])
        volume.with(out, as: :density)
      end

      # Of a density, what lies beyond the half of it takes the place of a surface.
      def grow(volume, step) = changed(volume) { |out| StepKernels.add(out, surface(volume), -step["by"]) }.then { |grown| back(volume, grown) }

      def shell(volume, step) = changed(volume) { |out| StepKernels.shell(out, surface(volume), step["wall"]) }.then { |thin| back(volume, thin) }

      def combine(volume, step)
        other = distance(body_parts([step["body"]]), volume.lattice, volume.values.shape)
        how = %w[cut union intersect].index(step["how"])
        changed(volume) { |out| StepKernels.combine(out, surface(volume), other, how, step["blend"]) }.then { |joined| back(volume, joined) }
      end

      def texture(volume, step)
        rows = Maps::Patterns.buffer([step["row"]], @meshes)
        values = Kernel::Buffer.new(:f32, *volume.values.shape)
        StepKernels.texture(values, rows, volume.lattice, step["factor"], step["offset"])
        changed(volume) { |out| StepKernels.sum(out, volume.values, values, SUMS.index(step["sum"])) }
      end

      def number(volume, step)
        values = Kernel::Buffer.new(:f32, *volume.values.shape).fill(step["amount"])
        changed(volume) { |out| StepKernels.sum(out, volume.values, values, SUMS.index(step["sum"])) }
      end

      def formula(volume, step)
        low = volume.corner
        size = volume.values.shape.reverse.map { |n| n * volume.voxel }
        setting = Shot::Formula.setting(frame: step["frame"], time: step["time"], seed: step["seed"], first: low.map { |c| c + 0.5 * volume.voxel }, voxel: volume.voxel, low: low, size: size)
        volume.with(volume.values.copy.tap { |out| Shot::FormulaKernels.evaluate(out, Shot::Formula.new(step["formula"]).program, setting) })
      end

      def warp(volume, step)
        changed(volume) { |out| StepKernels.warp(out, volume.values, volume.lattice, step["size"], step["far"], step["time"], step["seed"]) }
      end

      def blur(volume, step)
        sigma = 0.5 * step["radius"] / volume.voxel
        return volume if sigma < 0.05

        [0, 1, 2].reduce(volume) { |before, axis| changed(before) { |out| FilterKernels.blur(out, before.values, axis, sigma) } }
      end

      def median(volume, step) = changed(volume) { |out| FilterKernels.median(out, volume.values, step["cells"]) }

      def limit(volume, step) = changed(volume) { |out| StepKernels.limit(out, volume.values, *step.values_at("low", "high").sort) }

      def changed(volume) = volume.with(Kernel::Buffer.new(:f32, *volume.values.shape).tap { |out| yield out })

      # Distances, or a density as one: 0 at its half, a voxel's length for each unit.
      def surface(volume)
        return volume.values if volume.as == :distance

        Kernel::Buffer.new(:f32, *volume.values.shape).tap { |out| StepKernels.as_distance(out, volume.values, volume.voxel) }
      end

      def back(before, after)
        return after if before.as == :distance

        changed(after) { |out| StepKernels.as_density(out, after.values, after.voxel) }
      end
    end
  end
end
