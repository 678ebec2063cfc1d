# frozen_string_literal: true

module Vumbral
  module Flow
    # Carries fields along a velocity for one step: sharp by monotone cubic interpolation, soft by
    # linear. What is carried at centres keeps its sum, but for what leaves through open sides: the
    # little that interpolation makes or loses is settled where it mixed, within the bounds of what
    # it mixed (after Priestley 1993 and Bermejo & Conde 2002).
    class Transport
      SIDES = %i[x0 x1 y0 y1 z0 z1].freeze
      # No way is longer than so many cells when it is told what has left.
      FARTHEST = 64
      # The largest share by which all values are changed where their room does not do.
      MOST_SCALE = 0.1

      # @param size [Array<Integer>] cells along z, y, x
      # @param voxel [Float] metres
      # @param open [Hash{Symbol => Boolean}] open sides bring in nothing but still air
      def initialize(size, voxel, open)
        @size = size
        @voxel = voxel
        @open = Kernel::Buffer.of(:f32, SIDES.map { |side| open[side] ? 1.0 : 0.0 })
        @still = Kernel::Buffer.new(:u8, *size)
        @ways = Kernel::Buffer.new(:f32, 3, *size.map { |n| n + 2 })
        @sums = Kernel::Buffer.new(:f64, size[0], 2)
        @spare = {}
      end

      # Colliders from here on. @param solid [Kernel::Buffer, nil] u8, 0 in gas
      attr_writer :solid

      # @return [Kernel::Buffer] of the last {#follow}; see {WayKernels}
      attr_reader :ways

      # Finds the ways of a step; what is carried next is carried along them.
      # @param velocity [Array<Kernel::Buffer>] on faces across x, y, z (m/s)
      def follow(velocity, seconds)
        WayKernels.trace(@ways, *velocity, seconds / @voxel)
        WayKernels.halt(@ways, @solid) if @solid
        WayKernels.pad(@ways)
      end

      # @param velocity [Array<Kernel::Buffer>] left as it is
      # @param into [Array<Kernel::Buffer>] of the same shapes, written
      def carry_velocity(velocity, into, sharp: true)
        3.times { |axis|
          CarryKernels.public_send(sharp ? :sharp_faces : :soft_faces, into[axis], velocity[axis], @ways, axis, @open)
        }
      end

      # @param field [Kernel::Buffer] at centres; taken over
      # @param held [Float, nil] the sum to keep; nil: as it comes
      # @return [Array(Kernel::Buffer, Float)] the carried field, and what has left through open sides
      #   (values times cells)
      def carry(field, sharp: true, held: MatterKernels.total(field))
        field = within(field) if @solid
        moved, room = spare(:moved), spare(:room)
        CarryKernels.public_send(sharp ? :sharp_matter : :soft_matter, moved, field, room, @sums, @ways, @open,
          @solid || @still)
        left = CarryKernels.departed(field, @ways, @open, FARTHEST)
        settle(moved, room, held - left) if held
        @spare[:moved] = field
        [moved, left]
      end

      private

      def spare(role) = @spare[role] ||= Kernel::Buffer.new(:f32, *@size)

      def settle(field, room, wanted)
        sum, rooms = @sums.to_a.each_slice(2).reduce([0.0, 0.0]) { |(a, b), (c, d)| [a + c, b + d] }
        return unless rooms > 1e-12 && sum.finite? && wanted.finite?

        share = (wanted - sum) / rooms
        CarryKernels.settle(field, room, share.clamp(-1.0, 1.0))
        return if share.abs <= 1.0

        # Only gas that swells much in one step wants more; it has just been thinned by more than this.
        settled = sum + rooms * (share <=> 0)
        CarryKernels.scale(field, (wanted / settled).clamp(1.0 - MOST_SCALE, 1.0 + MOST_SCALE)) if settled.positive?
      end

      def within(field)
        extended = spare(:within)
        ColliderKernels.extend(extended, field, @solid)
        @spare[:within] = field
        extended
      end
    end
  end
end
