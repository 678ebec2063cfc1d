# frozen_string_literal: true

module Vumbral
  module Flow
    # Carries fields along a velocity for one step: sharp by monotone cubic interpolation, soft by
    # linear. What is carried at centres keeps its sum, but for what leaves through open sides: the
    # little that interpolation makes or loses is settled where it happened ({Budget}).
    class Transport
      SIDES = %i[x0 x1 y0 y1 z0 z1].freeze
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
        @budget = Budget.new(size)
        @spare = {}
      end

      # Colliders from here on. @param solid [Kernel::Buffer, nil] u8, 0 in gas
      attr_writer :solid

      # @return [Kernel::Buffer] of the last {#follow}; see {WayKernels}
      attr_reader :ways

      # Finds the ways of a step; what is carried next is carried along them.
      # @param velocity [Array<Kernel::Buffer>] on faces across x, y, z (m/s)
      def follow(velocity, seconds, sharp: true)
        WayKernels.public_send(sharp ? :trace : :soft_trace, @ways, *velocity, seconds / @voxel)
        WayKernels.halt(@ways, @solid) if @solid
        WayKernels.pad(@ways)
      end

      # @param velocity [Array<Kernel::Buffer>] left as it is
      # @param into [Array<Kernel::Buffer>] of the same shapes, written
      def carry_velocity(velocity, into, sharp: true)
        3.times do |axis|
          next CarryKernels.soft_faces(into[axis], velocity[axis], @ways, axis, @open) unless sharp

          CarryKernels.sharp_faces(into[axis], padded(velocity[axis]), @ways, axis, @open)
        end
      end

      # @return [Kernel::Buffer] what a field holds and where, to be kept by {#carry}
      def amounts(field) = @budget.amounts(field)

      # @param field [Kernel::Buffer] at centres; taken over
      # @param held [Kernel::Buffer, nil] amounts to keep; nil: as it comes
      # @return [Array(Kernel::Buffer, Float)] the carried field, and what has left through open sides
      #   (values times cells)
      def carry(field, sharp: true, held: amounts(field))
        field = within(field) if @solid
        moved, room = spare(:moved), spare(:room)
        blocked = @solid || @still
        if sharp
          CarryKernels.sharp_matter(moved, padded(field), room, @ways, @open, blocked)
        else
          CarryKernels.soft_matter(moved, field, room, @ways, @open, blocked)
        end
        left = held ? settle(moved, field, room, held) : @budget.left(field, @ways, @open)
        @spare[:moved] = field
        [moved, left]
      end

      private

      # One for all shapes, as large as the largest: that of the faces across the shortest axis.
      def padded(field)
        @padded ||= Kernel::Buffer.new(:f32, @size.sort.zip([3, 2, 2]).map { |n, more| n + more }.reduce(:*))
        @padded.tap { CubicKernels.pad(@padded, field) }
      end

      def spare(role) = @spare[role] ||= Kernel::Buffer.new(:f32, *@size)

      # Near where it happened, and what that leaves among all.
      # @return [Float] what has left the box
      def settle(field, before, room, held)
        sum, rooms, left = @budget.settle(field, before, room, @ways, @open, held)
        wanted = held.to_a.each_slice(2).sum(&:first) - left
        return left unless sum.finite? && wanted.finite?

        share = (rooms > 1e-12) ? (wanted - sum) / rooms : 0.0
        CarryKernels.settle(field, room, share.clamp(-1.0, 1.0)) unless share.zero?
        return left if share.abs <= 1.0

        # Only gas that swells much in one step wants more; it has just been thinned by more than this.
        settled = sum + rooms * (share <=> 0)
        CarryKernels.scale(field, (wanted / settled).clamp(1.0 - MOST_SCALE, 1.0 + MOST_SCALE)) if settled.positive?
        left
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
