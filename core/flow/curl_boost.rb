# frozen_string_literal: true

module Vumbral
  module Flow
    # Gives small rolls back the energy that carrying them took, place by place, and never more than
    # was lost in the step: vorticity confinement (Fedkiw, Stam & Jensen 2001) on a budget, so that it
    # means the same at every voxel size and cannot run away.
    class CurlBoost
      # Of all that was lost, no more than this comes back: a turbulent gas passes the rest on to rolls smaller than
      # voxels, and without that what stirs it would pile up in the smallest (its spectrum would be too flat).
      MOST_RETURNED = 0.8

      # @param size [Array<Integer>] cells along z, y, x
      def initialize(size)
        @energy, @lost, *@push = Array.new(5) { Kernel::Buffer.new(:f32, *size) }
        @curl = Kernel::Buffer.new(:f32, 4, *size)
        @padded = Kernel::Buffer.new(:f32, size.map { |n| n + 2 }.reduce(:*))
      end

      # Takes down what there is before it is carried. @param velocity [Array<Kernel::Buffer>] faces
      def before(velocity)
        BoostKernels.measure(@energy, *velocity)
        CubicKernels.pad(@padded, @energy)
      end

      # @param velocity [Array<Kernel::Buffer>] as it was carried; changed
      # @param ways [Kernel::Buffer] along which
      # @param share [Kernel::Buffer] where it acts, 0 to 1
      # @param gain [Float] up to {MOST_RETURNED} the part that is given back; more puts that where rolls are strongest
      def after(velocity, ways, share, gain)
        lost = BoostKernels.lose(@lost, @padded, ways, *velocity)
        return unless lost.positive?

        BoostKernels.curl(@curl, *velocity)
        BoostKernels.give(*@push, @curl, @lost, share, gain)
        FlowKernels.push(*velocity, *@push, scale(velocity, [gain, MOST_RETURNED].min * lost))
      end

      private

      # How much of the push the budget allows, 0 to 1.
      def scale(velocity, budget)
        along, square = BoostKernels.work(*@push, *velocity)
        return 1.0 if along + 0.5 * square <= budget

        (Math.sqrt(along * along + 2.0 * square * budget) - along) / square
      end
    end
  end
end
