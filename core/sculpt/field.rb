# frozen_string_literal: true

module Vumbral
  module Sculpt
    # So many bricks hold something at most: 82 million voxels.
    MOST_BRICKS = 20_000
    # Leads every place to itself, for {FieldKernels#placed}.
    SAME_PLACE = Kernel::Buffer.of(:f32, [1.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.0])

    # Values on a lattice of bricks of 16³ cells. Where all cells of a brick are alike, only that one number is kept, so
    # what a volume costs goes by its content. What is kept so changes no value: every step gives the same on full ones.
    # @!attribute lattice [Grid::Lattice]
    # @!attribute index [Kernel::Buffer] i32 [z, y, x] number of the brick at each place, or -1
    # @!attribute tiles [Kernel::Buffer] f32 [z, y, x] what all cells are where there is no brick
    # @!attribute places [Kernel::Buffer] i32 [n, 3] where each brick stands, counted in bricks along z, y, x
    # @!attribute values [Kernel::Buffer] f32 [16 n, 16, 16]
    # @!attribute as [Symbol] :distance or :density
    # @!attribute held [Kernel::Buffer, nil] u8 [z, y, x], where alone there shall be bricks; nothing for everywhere
    Field = Struct.new(:lattice, :index, :tiles, :places, :values, :as, :held) do
      # @param counts [Array<Integer>] bricks along z, y, x
      # @return [Field] all alike
      def self.even(lattice, counts, value, as: :density)
        new(
          lattice, Kernel::Buffer.new(:i32, *counts).fill(-1), Kernel::Buffer.new(:f32, *counts).fill(value),
          Kernel::Buffer.new(:i32, 0, 3), Kernel::Buffer.new(:f32, 0, 16, 16), as
        )
      end

      def voxel = lattice.voxel

      def count = places.dim(0)

      # @return [Array<Integer>] bricks along z, y, x
      def counts = tiles.shape

      # @return [Array<Integer>] cells along z, y, x
      def shape = counts.map { |n| 16 * n }

      # @return [Array<Float>] the lowest corner of its cells, metres
      def corner = [lattice.x, lattice.y, lattice.z].map { |c| c - 0.5 * voxel }

      def cells = Cells.new(index, tiles, values)

      # @return [Integer] bytes of what it holds
      def bytesize = values.bytesize + 2 * tiles.bytesize + places.bytesize

      # The same bricks with other values.
      # @yield [out, before] f32 arrays of three dimensions, once for the bricks and once for what is alike
      def each_value(as: self.as)
        after =
          [values, tiles].map do |before|
            before.size.zero? ? before : Kernel::Buffer.new(:f32, *before.shape).tap { |out| yield out, before }
          end
        Field.new(lattice, index, after[1], places, after[0], as, held).settled
      end

      # Two on the same lattice.
      # @yield [out, one, other]
      def with(other)
        one, two = activated(other.marks), other.activated(marks)
        after =
          [[one.values, two.values], [one.tiles, two.tiles]].map do |a, b|
            a.size.zero? ? a : Kernel::Buffer.new(:f32, *a.shape).tap { |out| yield out, a, b }
          end
        Field.new(lattice, one.index, after[1], one.places, after[0], as, held).settled
      end

      # @yield [out, field] f32 [16 n, 16, 16] to be written, of the bricks of `field`, which has more of them where
      #   `marks` says so
      # @param marks [Kernel::Buffer] u8 [z, y, x]
      def replaced(marks, as: self.as)
        full = activated(marks)
        return full if full.count.zero?

        Field.new(
          lattice, full.index, full.tiles, full.places,
          Kernel::Buffer.new(:f32, *full.values.shape).tap { |out| yield out, full }, as, held
        ).settled
      end

      # @return [Kernel::Buffer] u8 [z, y, x], 1 where there is a brick
      def marks = Kernel::Buffer.new(:u8, *counts).tap { |out| FieldKernels.marks(out, index) }

      # @return [Kernel::Buffer] u8 [z, y, x], 1 wherever not all is alike within so many cells
      def near(reach) =
        limited(Kernel::Buffer.new(:u8, *counts).tap { |out| FieldKernels.near(out, index, tiles, (reach + 15) / 16) })

      # @return [Kernel::Buffer] u8 [z, y, x], 1 wherever there is something
      def filled = limited(Kernel::Buffer.new(:u8, *counts).tap { |out| FieldKernels.filled(out, index, tiles) })

      def everywhere = held || Kernel::Buffer.new(:u8, *counts).fill(1)

      # @param marks [Kernel::Buffer] u8 [z, y, x] @return [Kernel::Buffer] those of them where bricks shall be
      def limited(marks)
        held ? Kernel::Buffer.of(:u8, marks.bytes.bytes.zip(held.bytes.bytes).map(&:min), *counts) : marks
      end

      # @return [Array<Array<Integer>>] where marks stand, counted in bricks along z, y, x
      def marked(marks) = marks.bytes.bytes.each_index.select { |n| marks.bytes.getbyte(n) == 1 }.map { |n| spot(n) }

      # @param marks [Kernel::Buffer] u8 [z, y, x] @return [Field] with a brick wherever it had one or a mark stands
      def activated(marks)
        rearranged(
          (0...marks.size)
            .zip(marks.bytes.bytes, index.to_a)
            .filter_map { |n, mark, brick| n if mark == 1 || brick >= 0 }
        )
      end

      # @param marks [Kernel::Buffer] u8 [z, y, x] @return [Field] with those bricks alone that lie at a mark, and none
      #   elsewhere whatever is done to it
      def within(marks)
        rearranged(
          (0...marks.size)
            .zip(marks.bytes.bytes, index.to_a)
            .filter_map { |n, mark, brick| n if mark == 1 && brick >= 0 }
        ).dup.tap { |field| field.held = marks }
      end

      # @param other [Field] on the same lattice @return [Field] this one, with the other's bricks where marks stand
      def joined(other, marks)
        flags, own, its = marks.bytes.bytes, index.to_a, other.index.to_a
        spots = (0...index.size).select { |n| ((flags[n] == 1) ? its[n] : own[n]) >= 0 }
        kept =
          Kernel::Buffer.of(
            :f32, flags.zip(tiles.to_a, other.tiles.to_a).map { |flag, mine, yours| (flag == 1) ? yours : mine },
            *counts
          )
        found = Kernel::Buffer.new(:i32, *counts).fill(-1)
        list = Kernel::Buffer.of(:i32, spots.flat_map { |n| spot(n) }, spots.size, 3)
        made = Kernel::Buffer.new(:f32, 16 * spots.size, 16, 16)
        AgainKernels.join(made, found, list, other.cells, cells, marks) unless spots.empty?
        Field.new(lattice, found, kept, list, made, other.as)
      end

      # @return [Field] without the bricks that are alike all through
      def settled
        return self if count.zero?

        alike = Kernel::Buffer.new(:u8, count)
        FieldKernels.alike(alike, values)
        flags = alike.bytes.bytes
        return self if flags.none?(1)

        numbers = index.to_a
        kept = tiles.copy
        FieldKernels.lay(kept, values, places, alike)
        rearranged((0...index.size).select { |n| numbers[n] >= 0 && flags[numbers[n]].zero? }, kept)
      end

      # @param like [Field] on the same lattice @return [Kernel::Buffer] f32 [16 n, 16, 16] what it is in the other's
      #   bricks
      def spots(like)
        Kernel::Buffer
          .new(:f32, *like.values.shape)
          .tap { |out| FieldKernels.move(out, Kernel::Buffer.new(:i32, *counts), like.places, cells) }
      end

      # @param like [Field] @return [Field] the same on another lattice; beyond its own it is nothing, or as far as any
      def laid(like)
        return self if like.lattice == lattice && like.counts == counts

        marks = Kernel::Buffer.new(:u8, *like.counts)
        FieldKernels.reached(marks, like.lattice, cells, lattice)
        outside = (as == :distance) ? tiles.to_a.max : 0.0
        Field
          .even(like.lattice, like.counts, outside, as: as)
          .replaced(marks) do |out, full|
            FieldKernels.placed(out, full.places, like.lattice, cells, lattice, SAME_PLACE, outside)
          end
      end

      # @return [Kernel::Buffer] f32 [z, y, x] of all cells
      def dense = Kernel::Buffer.new(:f32, *shape).tap { |out| FieldKernels.spread(out, cells) }

      # @return [Array<Integer>] how often its values come up in even parts between two; where all is alike not
      def tally(low, high, bins) =
        Kernel::Buffer.new(:i32, bins).tap { |out| FieldKernels.tally(out, values, low, high) unless count.zero? }.to_a

      # @param dense [Kernel::Buffer] f32, whole bricks along each axis
      def self.of(dense, lattice, as: :density)
        even(lattice, dense.shape.map { |n| n / 16 }, 0.0, as: as).then do |field|
          field.replaced(field.everywhere) { |out, full| FieldKernels.gather(out, dense, full.places) }
        end
      end

      # The first channel of bricks that are there, nothing elsewhere.
      # @param bricks [Grid::Bricks]; @param lattice [Grid::Lattice] of their cells
      # @return [Field]
      def self.sparse(bricks, lattice)
        index = bricks.numbers
        values = Kernel::Buffer.new(:f32, 16 * bricks.count, 16, 16)
        FieldKernels.unpack(values, bricks.values) if bricks.count.positive?
        new(lattice, index, Kernel::Buffer.new(:f32, *index.shape), bricks.places, values, :density)
      end

      private

      def spot(n) = [n / (counts[1] * counts[2]), n / counts[2] % counts[1], n % counts[2]]

      # With bricks at these places, counted along x, then y, then z.
      def rearranged(spots, kept = tiles)
        return self if spots.size == count && kept.equal?(tiles)

        if spots.size > MOST_BRICKS
          raise Refused.new(
            "A sculpt has something in #{spots.size * 4096 / 1_000_000} million voxels; " \
              "#{MOST_BRICKS * 4096 / 1_000_000} is the most. Make its voxels larger, or leave out what adds " \
              "to it everywhere.",
            code: "too_large"
          )
        end

        found = Kernel::Buffer.new(:i32, *counts).fill(-1)
        list = Kernel::Buffer.of(:i32, spots.flat_map { |n| spot(n) }, spots.size, 3)
        moved = Kernel::Buffer.new(:f32, 16 * spots.size, 16, 16)
        FieldKernels.move(moved, found, list, cells) unless spots.empty?
        Field.new(lattice, found, kept, list, moved, as, held)
      end
    end
  end
end
