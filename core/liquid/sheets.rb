# frozen_string_literal: true

module Vumbral
  module Liquid
    # Keeps thin sheets and threads whole in a surface: where particles lie in a sheet or in a row, they are laid flat
    # and the gaps between neighbours are filled, up to a width (after Ando, Thürey & Tsuruno 2012, for the surface
    # alone: what the run does is left as it is, so that a gap opens and closes as particles part and meet).
    class Sheets
      # Neighbours of one particle that gaps are filled towards, at most.
      PARTNERS = 6

      # @param near [Near]
      def initialize(near)
        @near = near
        @size = Kernel::Buffer.of(:i32, near.size)
      end

      # @param apart [Float] how wide gaps are filled, cells
      # @return [Array(Kernel::Buffer, Kernel::Buffer)] places (cells) and what is carried, of all, old and new
      def held(apart)
        count = @near.count
        kind, way = Kernel::Buffer.new(:u8, count), Kernel::Buffer.new(:f32, count, 3)
        flat = @near.at.copy
        SheetKernels.look(kind, way, flat, @near.at, @near.first, @size, apart)
        partners = Kernel::Buffer.new(:i32, count, PARTNERS)
        counts, begins = Array.new(2) { Kernel::Buffer.new(:i32, count) }
        SheetKernels.pair(partners, counts, kind, way, @near.at, @near.first, @size, apart)
        all = SheetKernels.begin_at(begins, counts, partners, flat, count)
        at, carried = Kernel::Buffer.new(:f32, all, 3), Kernel::Buffer.new(:f32, all, @near.carried.dim(1))
        SheetKernels.fill(at, carried, flat, @near.carried, partners, counts, begins)
        [at, carried]
      end
    end
  end
end
