# frozen_string_literal: true

module Vumbral
  module Liquid
    # What a liquid cannot enter, at the corners of cells, so one more than there are cells along each axis: `far` is
    # how far each is outside (cells, negative inside), `x y z` how fast what stands there goes (m/s), `grip` how it
    # holds on to what slides along (0 to 1).
    Walls = Kernel::Record.of(far: Kernel::Types::F32[3], x: Kernel::Types::F32[3], y: Kernel::Types::F32[3],
      z: Kernel::Types::F32[3], grip: Kernel::Types::F32[3]) do
      # @param size [Array<Integer>] cells along z, y, x
      # @return [Walls] where there are none
      def self.none(size)
        corner = -> { Kernel::Buffer.new(:f32, *size.map { |n| n + 1 }) }
        new(corner.call.fill(Walls::OPEN), *Array.new(4) { corner.call })
      end

      # The room about each cell's centre, weighed as particles are: what there is about it is compared with that.
      # @param about [Kernel::Buffer] f32 [z, y, x], changed; @param spare [Kernel::Buffer] as large
      # @param room [Kernel::Buffer] f32 [z, y, x], from {PressureKernels.room}
      def self.about(about, spare, room)
        PressureKernels.spread(about, room, 2)
        PressureKernels.spread(spare, about, 1)
        PressureKernels.spread(about, spare, 0)
      end
    end
    # Farther than anything asks, cells.
    Walls::OPEN = 8.0
  end
end
