# frozen_string_literal: true

require "digest"
require "json"

module Vumbral
  module Sculpt
    # Carries the steps of a sculpt out, one after the other. Each is a pure function of the channels before it, so what
    # the first of them came to is kept for when only a later one changes.
    class Carving
      include Shaping
      include Sums
      include Filters
      include Moves
      include Brushing

      # Red, green and blue of what it is coloured by.
      COLOURS = %i[red green blue].freeze

      # @param recipe [Hash] from {Geometry::Recipes.of}; @param meshes [#mesh, #picture, #volume, #frame]
      def initialize(recipe, meshes)
        @recipe, @meshes = recipe, meshes
      end

      # @return [Hash{Symbol => Field}] a density, and perhaps heat, glow and colours
      # @raise [Refused] where it has too many voxels
      def channels
        upto(@recipe["steps"].size).transform_values { |field| (field.as == :density) ? field : density(field, EDGE) }
      end

      # @return [Field] what the last step was done to, for a look at it
      def shown
        step = @recipe["steps"].last
        upto(@recipe["steps"].size)[(step && step["channel"] || "density").to_sym]
      end

      # @return [Field] what goes into the last step, in the channel that it changes
      def entering
        step = @recipe["steps"].last
        channels = upto(@recipe["steps"].size - 1)
        name = (step["channel"] || "density").to_sym
        channels[name] || fresh(channels, name)
      end

      # @return [Field] its density
      def call = channels[:density]

      # Steps that ask for no more of distances than how they lie to each other near the surface.
      NEAR = %w[brush density grow open close shell combine distance blur median relax warp fray flow mirror].freeze

      # How far from a surface distances are told, metres: as deep as a step looks, and where one takes them as values,
      # as far as there is room.
      # @return [Float]
      def band
        values =
          @recipe["steps"].take_while { |step| step["what"] != "density" }.any? { |step| !NEAR.include?(step["what"]) }
        asked =
          @recipe["steps"].flat_map do |step|
            step.values_at("inside", "outside", "by", "thin", "wall", "blend", "far").compact.map(&:abs) +
              (step["strokes"] || []).map { |stroke| stroke["radius"] }
          end
        [values ? @recipe["room"] : 8.0 * @recipe["voxel"], *asked, @recipe["skin"].to_f].max +
          @recipe["steps"].sum { |step| step["by"].to_f.abs } + 4.0 * @recipe["voxel"]
      end

      # @return [Field] what the steps begin with
      def begun = upto(0)[:density]

      private

      # What it is after the first few steps.
      def upto(count)
        Kept.fetch(key(count)) { count.zero? ? Beginning.new(@recipe, @meshes, band).call : stepped(count) }
      end

      def key(count) =
        Digest::SHA256.digest(JSON.generate([@recipe.except("steps"), band, @recipe["steps"].first(count)]))

      # A step on what was before it; only where that is not as it was when the same step was done to it last.
      def stepped(count)
        channels, step = upto(count - 1), @recipe["steps"][count - 1]
        place =
          Digest::SHA256.digest(
            JSON.generate([@recipe.slice("from", "voxel", "room", "bodies", "file", "thrown"), count])
          )
        was = Kept.last(place, [key(count - 1), step, key(count)])
        before, after = was.values_at(0, 2).map { |one| Kept.peek(one) } if was && was[1] == step && Again.can?(step)
        (before && after && Again.new(before, after, channels, step).call { |some| taken(some, step) }) ||
          taken(channels, step)
      end

      # A step done to the channel that it changes, as far as its strength and its mask say.
      def taken(channels, step)
        return resampled(channels, step) if step["what"] == "resample"

        step = step.merge("channels" => channels) if step["what"] == "formula"
        names = (step["what"] == "colour") ? COLOURS : [(step["channel"] || "density").to_sym]
        names.each_with_index.reduce(channels) do |all, (name, n)|
          before = all[name] || fresh(all, name)
          after = (name == :density) ? send(step["what"], before, step) : other(before, step, n)
          all.merge(name => mixed(before, after, step))
        end
      end

      # All channels in voxels of another size from here on.
      def resampled(channels, step)
        field = channels[:density]
        voxel = step["voxel"]
        counts = field.shape.map { |n| ((n * field.voxel / voxel).ceil + 15) / 16 }
        if counts.reduce(:*) > Beginning::MOST
          raise Refused.new(
            "Finer voxels would make a sculpt of #{counts.map { |n| 16 * n }.reverse.join(" × ")}, which is " \
              "beyond what fits; make them larger.",
            code: "too_large"
          )
        end

        like = Field.even(Grid::Lattice.new(*field.corner.map { |c| c + 0.5 * voxel }, voxel), counts, 0.0)
        channels.transform_values { |one| one.laid(like) }
      end

      # A channel that no step has named before begins as the density is by then, a colour as white.
      def fresh(channels, name)
        density = channels[:density]
        return Field.even(density.lattice, density.counts, 1.0) if COLOURS.include?(name)

        (density.as == :density) ? density : density(density, EDGE)
      end

      def other(before, step, n) =
        if step["what"] == "colour"
          before.each_value { |out, _| out.fill(step["colour"][n]) }
        else
          send(step["what"], before, step)
        end

      def mixed(before, after, step)
        strength, mask = step.values_at("strength", "mask")
        return after if strength >= 1.0 && mask.nil?
        # Part of the way from a distance to a density leads nowhere: both are densities then.
        before = density(before, EDGE) if before.as != after.as
        return before.with(after) { |out, one, two| StepKernels.mix(out, one, two, strength) } unless mask

        differ = Kernel::Buffer.new(:u8, *before.counts)
        FieldKernels.differing(differ, before.cells, after.cells)
        one = before.activated(differ)
        part = mask(mask, one)
        one.replaced(differ) do |out, full|
          StepKernels.masked(out, full.places, before.cells, after.cells, part.cells, strength)
        end
      end

      # @return [Field] 0 to 1 on the same bricks
      def mask(mask, like)
        found =
          case mask["by"]
          when "prop"
            Beginning
              .distance([mask["body"]], like, mask["soft"] + 4.0 * like.voxel, @meshes)
              .each_value(as: :density) { |out, before| StepKernels.mask(out, before, mask["soft"]) }
          when "sculpt"
            Carving.new(mask["other"], @meshes).call.laid(like)
          when "painted"
            painted(like, mask["strokes"])
          else
            textured(like, mask["row"], 1.0, 0.0)
          end
        mask["inverted"] ? found.each_value { |out, before| StepKernels.inverted(out, before) } : found
      end
    end
  end
end
