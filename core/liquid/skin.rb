# frozen_string_literal: true

module Vumbral
  module Liquid
    # The particles near a liquid's surface, packed: all that its surface is made of, so that it can be made anew in
    # another way without a run. `counts` u16 [z, y, x] tells how many there are in each cell, or that the liquid goes
    # on there; `at` u8 [n, 3] where in their cells, in 256 steps, `speed` f16 [n, 3] m/s, `dye` u8 [n, 3] as {Drops}
    # have it, or nothing; `walls` f16 [z + 1, y + 1, x + 1] how far cells' corners lie within what the liquid may fill,
    # cells, or nothing where there are no walls.
    Skin = Struct.new(:counts, :at, :speed, :dye, :walls)

    # Packs it, and takes it apart again.
    class Skin
      # Cells with liquid all around as far as this are left out.
      DEEP = 2

      # @param state [State] its particles sorted; @param first [Kernel::Buffer] where each cell's begin
      # @param dyed [Boolean] whether colours are kept
      # @param walls [Walls, nil]; @param clear [Float] how far off them its surface ends, cells; less than nothing
      #   within them
      # @return [Skin]
      def self.of(state, first, dyed: false, walls: nil, clear: 0.0)
        drops, deep = state.drops, state.deep
        counts = Kernel::Buffer.new(:u16, *deep.shape)
        count = SkinKernels.count(counts, within(first, deep, DEEP), deep, first)
        skin =
          new(
            counts, Kernel::Buffer.new(:u8, count, 3), Kernel::Buffer.new(:f16, count, 3),
            dyed ? Kernel::Buffer.new(:u8, count, 3) : nil
          )
        return skin unless count.positive?

        skin.walls = held(walls.far, clear) if walls

        begins = begins(counts)
        SkinKernels.pack(skin.at, skin.speed, begins, drops, first)
        SkinKernels.dye(skin.dye, begins, drops, first) if dyed
        skin
      end

      def self.held(far, clear) =
        Kernel::Buffer.new(:f16, *far.shape).tap { |walls| SkinKernels.held(walls, far, clear) }
      private_class_method :held

      # @return [Kernel::Buffer] u8 [z, y, x], 1 where there is liquid so many cells around
      def self.within(first, deep, cells)
        marks, other = Array.new(2) { Kernel::Buffer.new(:u8, *deep.shape) }
        SkinKernels.full(marks, deep, first)
        spread(marks, other, cells, false)
      end

      # @return [Kernel::Buffer] i32 [cells + 1], where each cell's particles begin
      def self.begins(counts) =
        Kernel::Buffer.new(:i32, counts.size + 1).tap { |begins| SkinKernels.begin_at(begins, counts) }

      # The least, or the most, within so many cells along each axis. @return [Kernel::Buffer]
      def self.spread(marks, other, cells, most)
        3.times do |axis|
          SkinKernels.spread(other, marks, axis, cells, most)
          marks, other = other, marks
        end
        marks
      end

      # @return [Array<Integer>] cells along z, y, x
      def size = counts.shape

      # @return [Integer] particles
      def count = at.dim(0)

      # @return [Kernel::Buffer] f32 [n, 3], cells from the chamber's corner
      def places(begins = Skin.begins(counts)) =
        Kernel::Buffer
          .new(:f32, count, 3)
          .tap { |places| SkinKernels.unpack(places, at, begins, counts) if count.positive? }

      # @return [Kernel::Buffer] u8 [z, y, x], 1 where all is liquid, particles or not
      def inner
        marks, other = Array.new(2) { Kernel::Buffer.new(:u8, *size) }
        SkinKernels.left_out(marks, counts)
        Skin.spread(marks, other, 1, true)
      end
    end
  end
end
