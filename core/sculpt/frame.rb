# frozen_string_literal: true

module Vumbral
  module Sculpt
    # Sculpts of one moment as a frame, like those of runs: one lattice, and what each channel holds in its bricks.
    class Frame
      # Channels of sculpts, and what frames call them.
      NAMES = {density: :smoke, heat: :heat, glow: :fuel, red: :red, green: :green, blue: :blue, age: :age,
               burning: :burning}.freeze

      # @return [Grid::Lattice]
      attr_reader :lattice

      # @param sculpts [Array<Hash{Symbol => Field}>] channels of each, as {Carving#channels}
      # @param run [Hash{Symbol => Field}, nil] those of a frame of a run, from {.taken}
      # @param going [Array<Drift::Source, nil>] how each sculpt goes, and last how the run does
      # @return [Frame] of all together, on the finest of their lattices
      def self.of(sculpts, run: nil, going: [])
        coloured = [*sculpts, run].compact.any? { |channels| channels[:red] }
        all = sculpts.map { |channels| coloured ? weighed(channels) : channels }
        all.unshift((coloured && !run[:red]) ? weighed(run) : run) if run
        going = run ? [going[sculpts.size], *going.first(sculpts.size)] : going
        return new(all[0], Drift.new([[all[0][:density], going[0]]])) if all.size == 1

        like = around(all.map { |channels| channels[:density] })
        all = all.map { |channels| channels.transform_values { |field| field.laid(like) } }
        drift = Drift.new(all.zip(going).map { |channels, source| [channels[:density], source] })
        new(
          all
            .flat_map(&:keys)
            .uniq
            .to_h do |name|
              [
                name,
                all
                  .filter_map { |channels| channels[name] }
                  .reduce { |one, other| sum(one, other, %i[heat age].include?(name) ? "greatest" : "add") }
              ]
            end,
          drift
        )
      end

      # Colours times the density, as frames have them; white where there is none.
      def self.weighed(channels)
        channels.merge(
          Carving::COLOURS.to_h do |name|
            [name, channels[name] ? sum(channels[name], channels[:density], "multiply") : channels[:density]]
          end
        )
      end

      # A frame of a run as channels, colours as it has them.
      # @param bricks [Grid::Bricks]; @param lattice [Grid::Lattice] of its cells
      def self.taken(bricks, lattice)
        channels = NAMES.select { |_, name| bricks.channel?(name) }
        channels.transform_values do |name|
          Field.of(
            Kernel::Buffer
              .new(:f32, *bricks.size.map { |n| (n + 15) / 16 * 16 })
              .tap { |out| StepKernels.put(out, bricks.field(name)) },
            lattice
          ).settled
        end
      end

      # A field in a cube around it.
      # @return [Array(Kernel::Buffer, Array<Float>, Float)] f32 [edge, edge, edge], its lowest corner and how long it
      #   is, metres
      def self.cube(field, edge)
        long = field.voxel * field.shape.max
        low = field.corner.zip(field.shape.reverse).map { |c, n| c + 0.5 * (n * field.voxel - long) }
        out = Kernel::Buffer.new(:f32, edge, edge, edge)
        FieldKernels.cube(
          out,
          field.cells,
          Kernel::Buffer.of(
            :f32, low.zip(field.corner).map { |a, b| (a - b) / field.voxel } + [long / field.voxel / edge]
          )
        )
        [out, low, long]
      end

      # Bricks of nothing around some fields; cells of the finest stay where they are.
      def self.around(fields)
        finest = fields.min_by(&:voxel)
        voxel = finest.voxel
        low =
          fields
            .map(&:corner)
            .transpose
            .map(&:min)
            .zip(finest.corner)
            .map { |a, b| b - ((b - a) / voxel - 1e-4).ceil * voxel }
        high =
          fields
            .map { |field| field.corner.zip(field.shape.reverse).map { |c, n| c + n * field.voxel } }
            .transpose
            .map(&:max)
        Field.even(
          Grid::Lattice.new(*low.map { |c| c + 0.5 * voxel }, voxel),
          low.zip(high).map { |a, b| ((b - a) / voxel / 16 - 1e-6).ceil }.reverse, 0.0
        )
      end

      def self.sum(one, other, way) = one.with(other) { |out, a, b| StepKernels.sum(out, a, b, Sums::NAMES.index(way)) }
      private_class_method :weighed, :sum

      # @param channels [Hash{Symbol => Field}] on one lattice
      # @param drift [Drift, nil] how what they hold goes along
      def initialize(channels, drift = nil)
        @drift = drift if drift&.any?
        @fields = channels.transform_keys(NAMES)
        @lattice = @fields[:smoke].lattice
      end

      # @return [Array<Integer>] cells along z, y, x
      def size = @fields[:smoke].shape

      # @return [Array<Float>] its lowest corner, metres
      def corner = @fields[:smoke].corner

      # @return [Hash] :most, the greatest density, and :filled, the share of its box in which there is any
      def facts
        most, filled = FieldKernels.held(@fields[:smoke].values)
        tiles =
          @fields[:smoke].index.to_a.zip(@fields[:smoke].tiles.to_a).select { |brick, _| brick.negative? }.map(&:last)
        {
          most: [most, *tiles].max.round(4),
          filled: ((filled + 4096.0 * tiles.count { |value| value > 0.01 }) / size.reduce(:*)).round(4)
        }
      end

      # @return [Grid::Bricks] those in which there is anything
      def bricks
        marks =
          @fields
            .values
            .map { |field| field.settled.filled }
            .reduce { |one, other| one.tap { FieldKernels.either(one, other) } }
        full = @fields.transform_values { |field| field.settled.activated(marks) }
        places = full[:smoke].marked(marks)
        ways = @drift ? Grid::Bricks::FACES.keys : []
        values = Kernel::Buffer.new(:f16, places.size, full.size + ways.size, Grid::Bricks::EDGE**3)
        list = Kernel::Buffer.of(:i32, places.flatten, places.size, 3)
        full.each_value.with_index { |field, n| FieldKernels.pack(values, list, field.cells, n) } unless places.empty?
        @drift&.write(values, list, full.size) unless places.empty?
        Grid::Bricks.new(size, list, values, channels: full.keys + ways)
      end
    end
  end
end
