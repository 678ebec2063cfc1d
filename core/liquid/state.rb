# frozen_string_literal: true

module Vumbral
  module Liquid
    # Everything a liquid is at one moment; enough to go on from exactly: its particles, the speed and pressure on the
    # grid, how long it has gone (seconds), how many particles there ever were, its spray and how much of that there
    # ever was, and which cells lie deep, full without any particles: u8 [z, y, x], 1 or 0 (see {Band}).
    State = Struct.new(:drops, :faces, :pressure, :time, :made, :spray, :sprayed, :deep) do
      # @param size [Array<Integer>] cells along z, y, x
      # @return [State] without any liquid
      def self.empty(size) =
        new(
          Drops.of(0), Flow::Faces.still(size), Kernel::Buffer.new(:f32, *size), 0.0, 0, Spray.of(0), 0,
          Kernel::Buffer.new(:u8, *size)
        )

      # @return [Float] of the fastest particle, m/s; not a number where any is none
      def speed = drops.count.zero? ? 0.0 : FullKernels.fastest(drops)

      # Takes in further particles, with numbers of their own.
      # @param drops [Drops] @return [Drops] the same
      def pour(drops)
        numbered(drops)
        self.drops = self.drops.with(drops)
        drops
      end

      # Gives particles numbers of their own. @return [Drops] the same
      def numbered(drops)
        return drops if drops.count.zero?

        FullKernels.number(drops.id, made)
        self.made += drops.count
        drops
      end
    end

    # How fast it goes as a whole.
    class State
      # At most so many particles fly by themselves, about a drop of two cells across, and one of so many.
      LOOSE = 64
      OF = 200
      # They may go so many times further in a substep than is wished.
      FURTHER = 4.0

      # The speed by which frames are divided: that of all but a few particles, which fly freely and are held up by
      # walls all along their way, however far it is.
      # @return [Float] m/s; not a number where any is none
      def pace
        most = speed
        return most unless most.positive? && most.finite?

        [FullKernels.fast(drops, most, [LOOSE, drops.count / OF].min), most / FURTHER].max.clamp(0.0, most)
      end
    end
  end
end
