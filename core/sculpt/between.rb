# frozen_string_literal: true

module Vumbral
  module Sculpt
    # A moment between two frames of a run: what the first holds is led on along its own velocities, what the second
    # holds is led back along its own, and both are blended by how near they are.
    class Between
      # Steps are at most so many cells long.
      PACE = 1.5
      MOST_STEPS = 32

      # @param before [#channels, #lattice, #flow]; @param after [#channels, #lattice, #flow] frames of one run
      # @param part [Float] 0 at the first, 1 at the second
      # @param seconds [Float] how long it is from the one to the other
      def initialize(before, after, part, seconds)
        @before, @after, @part, @seconds = before, after, part, seconds
      end

      # @return [Grid::Lattice] that covers both
      def lattice = @lattice ||= Grid::Lattice.new(*low, @before.lattice.voxel)

      # @return [Found, nil] the frame that is nearer, whose velocities are those of the moment
      def nearer = (@part < 0.5) ? @before : @after

      # @return [Boolean] whether its density is a distance
      def distance = false

      # It is told in full.
      def sparse = nil

      # @return [Hash{Symbol => Kernel::Buffer}] f32 [z, y, x]
      def channels
        @channels ||= (@before.channels.keys | @after.channels.keys).to_h { |name| [name, blended(name)] }
      end

      private

      def blended(name)
        out = Kernel::Buffer.new(:f32, *size.reverse)
        # The nearer one counts for more than its part, for two that are mixed are softer than either.
        share = @part * @part * (3.0 - 2.0 * @part)
        led(out, @before, name, @part * @seconds, 1.0 - share)
        led(out, @after, name, (@part - 1.0) * @seconds, share)
        out
      end

      def led(out, frame, name, seconds, share)
        field = frame.channels[name] or return
        flow = frame.flow || Grid::VectorField.new(*Array.new(3) { Kernel::Buffer.new(:f32, *field.shape) })
        far = flow.to_a.map { |part| Flow::FlowKernels.peak(part) }.max * seconds.abs
        steps = (far / frame.lattice.voxel / PACE).ceil.clamp(1, MOST_STEPS)
        BetweenKernels.led(
          out, lattice, field, Grid::Spline.of(field), flow, frame.lattice,
          Kernel::Buffer.of(:f32, [seconds, steps, share])
        )
      end

      def lattices = [@before, @after].map(&:lattice)

      def low = @low ||= lattices.map { |one| [one.x, one.y, one.z] }.transpose.map(&:min)

      # Cells along x, y and z.
      def size
        high =
          [@before, @after].map do |frame|
            [frame.lattice.x, frame.lattice.y, frame.lattice.z].zip(frame.channels.values[0].shape.reverse)
              .map { |c, n| c + n * frame.lattice.voxel }
          end
        low.zip(high.transpose.map(&:max)).map { |from, to| [((to - from) / lattice.voxel).round, 2].max }
      end
    end
  end
end
