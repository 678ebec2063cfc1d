# frozen_string_literal: true

module Vumbral
  module Liquid
    # The particles that a surface is made from, sorted by cells: `at` f32 [n, 3] cells from the chamber's corner,
    # `carried` f32 [n, 3 or 6] the speed of each (m/s) and perhaps its colour (linear), `first` i32 [cells + 1, or
    # more] where each cell's begin, `size` cells along z, y, x.
    Near = Struct.new(:at, :carried, :first, :size)

    # Makes them, of a skin.
    class Near
      # @param skin [Skin]; @param sheets [Float] so far apart thin parts are held together, cells; 0 leaves them
      # @return [Near]
      def self.of(skin, sheets)
        carried = Kernel::Buffer.new(:f32, skin.count, skin.dye ? 6 : 3)
        NearKernels.widen(carried, skin.speed)
        NearKernels.dye(carried, skin.dye) if skin.dye
        # They stand in order already.
        begins = Skin.begins(skin.counts)
        near = new(skin.places(begins), carried, begins, skin.size)
        return near unless sheets.positive? && near.count.positive?

        sorted(*Sheets.new(near).held(sheets), skin.size)
      end

      # @return [Near]
      def self.sorted(at, carried, size)
        count = at.dim(0)
        cells, order = Array.new(2) { Kernel::Buffer.new(:i32, count) }
        first, second = Array.new(2) { Kernel::Buffer.new(:i32, size.reduce(:*) + 2) }
        SortKernels.cells(cells, at, Kernel::Buffer.of(:i32, size), 0)
        inside = SortKernels.order(order, first, second, cells)
        near = new(Kernel::Buffer.new(:f32, inside, 3), Kernel::Buffer.new(:f32, inside, carried.dim(1)), first, size)
        NearKernels.take(near.at, near.carried, at, carried, order)
        near
      end

      # @return [Integer] particles
      def count = at.dim(0)
    end
  end
end
