# frozen_string_literal: true

module Vumbral
  module Sculpt
    # Steps that change each value by itself, by a texture, a number, another sculpt, waves, a formula or a curve.
    module Sums
      NAMES = %w[add subtract multiply divide difference greatest least mix exclude].freeze
      # In the order of {Shot::Formula::CHANNELS}.
      CHANNELS = %i[density heat glow].freeze
      NONE = Kernel::Buffer.new(:f32, 0, 16, 16)
      # Where there is nothing, these leave nothing, whatever is done.
      EMPTY = %w[multiply divide].freeze

      private

      def texture(field, step) =
        summed(field, step) { |like| textured(like, step["row"], step["factor"], step["offset"]) }

      def number(field, step) = summed(field, step) { |like| Field.even(like.lattice, like.counts, step["amount"]) }

      def sculpt(field, step)
        summed(field, step) do |like|
          Carving
            .new(step["sculpt"], @meshes)
            .call
            .laid(like)
            .each_value { |out, before| StepKernels.scaled(out, before, step["factor"], step["offset"]) }
        end
      end

      def ripples(field, step)
        points = if step["bodies"] then Points.corners(step["bodies"], @meshes)
        elsif step["thrown"] then Points.flying(step["thrown"], @meshes)
        else
          Points.within(*bounds(field), step)
        end
        table = Points.new(points, step["reach"]).table
        wave = Kernel::Buffer.of(:f32, [step["waves"], step["phase"], step["decay"], step["together"] ? 1.0 : 0.0])
        summed(field, step) do |like|
          made =
            like.replaced(like.marks, as: :density) do |out, full|
              PointKernels.ripples(out, full.places, full.lattice, table, wave)
            end
          made.each_value { |out, before| StepKernels.scaled(out, before, step["factor"], step["offset"]) }
        end
      end

      def formula(field, step)
        size = field.shape.reverse.map { |n| n * field.voxel }
        setting =
          Shot::Formula.setting(
            frame: step["frame"], time: step["time"], seed: step["seed"],
            first: field.corner.map { |c| c + 0.5 * field.voxel }, voxel: field.voxel, low: field.corner, size: size
          )
        formula = Shot::Formula.new(step["formula"], channels: true, own: step["given"].size).with(step["given"])
        program = formula.program
        # What is alike stays alike where the place does not matter.
        told = field.tiles.to_a.uniq.to_h { |value| [value, Emptiness.new(program, setting).of(value)] }
        tiles = field.tiles.to_a
        marks = Kernel::Buffer.of(:u8, tiles.map { |value| told[value] ? 0 : 1 }, *field.counts)
        alike =
          Field.new(
            field.lattice, field.index,
            Kernel::Buffer.of(:f32, tiles.map { |value| told[value] || value }, *field.counts), field.places,
            field.values, field.as, field.held
          )
        alike.replaced(field.limited(marks)) do |out, full|
          out.replace(full.values)
          Shot::FormulaRows.evaluate(
            out, full.places, program, setting, formula.channels? ? others(step["channels"], full) : NONE
          )
        end
      end

      # What a formula's channels are in bricks, one behind the other; nothing where there is none.
      def others(channels, full)
        bytes =
          CHANNELS.map { |name| (channels[name]&.spots(full) || Kernel::Buffer.new(:f32, *full.values.shape)).bytes }
        Kernel::Buffer.new(:f32, 3 * full.values.dim(0), 16, 16, bytes: bytes.join)
      end

      def limit(field, step) =
        field.each_value { |out, before| StepKernels.limit(out, before, *step.values_at("low", "high").sort) }

      def remap(field, step)
        low, high = step.values_at("low", "high").sort
        return field if high - low < 1e-6 || step["table"].empty?

        table = Kernel::Buffer.of(:f32, step["table"])
        field.each_value { |out, before| StepKernels.remap(out, before, table, low, high) }
      end

      def erode(field, step)
        noise = blank(field, field.filled)
        noise =
          noise.replaced(noise.marks) do |out, full|
            MoveKernels.noise(
              out, full.places, full.lattice,
              Kernel::Buffer.of(:f32, step.values_at("size", "octaves", "time", "loop")), step["seed"]
            )
          end
        field.with(noise) do |out, before, made|
          StepKernels.erode(out, before, made, step["amount"], [step["soft"], 1e-3].max)
        end
      end

      # The sum of a step with what the block makes on as many bricks as matter.
      def summed(field, step)
        sum = NAMES.index(step["sum"])
        marks = (EMPTY.include?(step["sum"]) && field.as == :density) ? field.filled : field.everywhere
        field.with(yield(blank(field, marks))) { |out, one, two| StepKernels.sum(out, one, two, sum) }
      end

      # Bricks at marks, of nothing.
      def blank(field, marks) = Field.even(field.lattice, field.counts, 0.0).activated(marks)

      def textured(like, row, factor, offset)
        rows = Maps::Patterns.buffer([row], @meshes)
        like = blank(like, like.everywhere) if like.count.zero?
        like.replaced(like.marks, as: :density) do |out, full|
          StepKernels.texture(out, full.places, rows, full.lattice, factor, offset)
        end
      end

      # The box around what it holds, metres.
      def bounds(field)
        low = field.corner.map { |c| c + @recipe["room"] }
        high = field.corner.zip(field.shape.reverse).map { |c, n| c + n * field.voxel - @recipe["room"] }
        low.zip(high).map { |a, b| (a < b) ? [a, b] : [0.5 * (a + b)] * 2 }.transpose
      end
    end
  end
end
