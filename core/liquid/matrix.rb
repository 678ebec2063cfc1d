# frozen_string_literal: true

module Vumbral
  module Liquid
    # Equations between cells that share a side: `own` is what each cell's value counts in its own equation (0 where
    # there is none), `x y z` how strongly it is tied to the next cell along each axis. `tie` is how strong plain ties
    # are; `kinds` and `rows` say where such are. Of the others `places` holds j and i, and `ties` what they and their
    # six neighbours count: those of a plane and a colour one after the other, from `starts` on. See {#sorted}.
    Matrix = Kernel::Record.of(own: Kernel::Types::F32[3], x: Kernel::Types::F32[3], y: Kernel::Types::F32[3],
      z: Kernel::Types::F32[3], kinds: Kernel::Types::U8[3], rows: Kernel::Types::U8[2], tie: Kernel::Types::F32,
      starts: Kernel::Types::I32[2], places: Kernel::Types::I32[2], ties: Kernel::Types::F32[2]) do
      # @param size [Array<Integer>] cells along z, y, x; @param tie [Float]
      # @return [Matrix] of nothing
      def self.none(size, tie = 1.0)
        new(
          *Array.new(4) { Kernel::Buffer.new(:f32, *size) }, Kernel::Buffer.new(:u8, *size),
          Kernel::Buffer.new(:u8, size[0], size[1]), tie, Kernel::Buffer.new(:i32, size[0] + 1, 2)
        ).room(1)
      end

      # Finds which of its equations are plain, and lists the others.
      # @return [Matrix] itself
      def sorted
        MatrixKernels.look(self)
        count = MatrixKernels.share(self)
        room(count + count / 2) if count > places.shape[0]
        MatrixKernels.gather(self)
        self
      end

      # @param count [Integer] of equations that are not plain @return [Matrix] itself, with room for them
      def room(count)
        self.places, self.ties = Kernel::Buffer.new(:i32, count, 2), Kernel::Buffer.new(:f32, count, 8)
        self
      end
    end
  end
end
