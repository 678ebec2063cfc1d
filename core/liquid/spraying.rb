# frozen_string_literal: true

module Vumbral
  module Liquid
    # Throws spray where air is trapped and crests break, and carries it on: through the air, on the liquid, and up
    # through it (Ihmsen, Akinci, Akinci & Teschner 2012).
    class Spraying
      # Numbers of the dials that say how much comes of what; see {SprayKernels.potentials}.
      LIMITS = %w[trapped trapped_from trapped_to crest crest_from crest_to energy_from energy_to].freeze

      # @param size [Array<Integer>] cells along z, y, x; @param voxel [Float]; @param seed [Integer]
      def initialize(size, voxel, seed)
        @size = Kernel::Buffer.of(:i32, size)
        @voxel = voxel
        @seed = seed
      end

      # New spray of a frame.
      # @param state [State] its particles sorted; @param first [Kernel::Buffer] where each cell's begin
      # @param dials [Hash] of the liquid, with the "seconds" that the frame lasts
      # @param rate [Kernel::Buffer, nil] f32 [z, y, x], how much more is thrown at each cell
      # @return [Integer] particles that came
      def throw(state, first, full, dials, frame, rate: nil)
        seconds = dials["seconds"]
        return 0 if state.drops.count.zero? || seconds.zero?

        counts = Kernel::Buffer.new(:i32, state.drops.count)
        limits = Kernel::Buffer.of(:f32, LIMITS.map { |name| dials[name] } + [seconds, @voxel])
        SprayKernels.potentials(counts, state.drops, first, full, rate || same, @size, limits, @seed + 977 * frame)
        wanted = SprayKernels.add_up(counts, [(dials["most"] * 1e6).round - state.spray.count, 0].max)
        return 0 if wanted.zero?

        new = Spray.of(wanted)
        SprayKernels.throw(
          new, state.drops, counts, Kernel::Buffer.of(:f32, [seconds, @voxel, dials["foam_life"]]), @seed + 977 * frame,
          state.sprayed
        )
        state.sprayed += wanted
        state.spray = state.spray.with(new)
        wanted
      end

      # The same everywhere.
      def same = @same ||= Kernel::Buffer.new(:f32, *@size.to_a).fill(1.0)
      private :same

      # One substep.
      # @param walls [Walls]; @param gravity [Float] m/s²
      def carry(state, full, walls, sides, dials, dt, gravity)
        return if state.spray.count.zero?

        pace =
          Kernel::Buffer.of(
            :f32, [dt, @voxel, gravity, dials["spray_drag"], dials["bubble_rise"], dials["bubble_drag"], *sides]
          )
        SprayKernels.carry(state.spray, state.faces, full, walls, pace)
        chosen = Kernel::Buffer.new(:i32, state.spray.count)
        left = SprayKernels.living(chosen, state.spray)
        return if left == state.spray.count

        kept = Spray.of(left)
        SprayKernels.take(kept, state.spray, chosen) if left.positive?
        state.spray = kept
      end

      # Those of some kinds.
      # @param kinds [Array<Boolean>] in the air, on the liquid, within it
      # @return [Spray]
      def self.only(spray, kinds)
        return spray if kinds.all? || spray.count.zero?

        chosen = Kernel::Buffer.new(:i32, spray.count)
        count = SprayKernels.only(chosen, spray, Kernel::Buffer.of(:i32, kinds.map { |kept| kept ? 1 : 0 }))
        Spray.of(count).tap { |kept| SprayKernels.take(kept, spray, chosen) if count.positive? }
      end

      # How dense it is, as a volume. What a particle holds is the same however fine that is; some hold more than
      # others.
      # @param size [Array<Integer>] cells of the liquid along z, y, x; @param fine [Integer] cells along each of these
      # @param strength [Float]
      # @return [Grid::Bricks] of smoke alone, in whole bricks around all that there is
      def self.density(spray, size, fine, strength)
        bricks =
          Grid::Bricks.sparse(size.map { |n| n * fine }, [:smoke]) do |marks|
            SprayKernels.bricks(marks, spray, fine) if spray.count.positive?
          end
        return bricks if bricks.count.zero?

        sums = Kernel::Buffer.new(:f32, bricks.count, Grid::Bricks::EDGE**3)
        SprayKernels.density(sums, bricks.numbers, spray, fine, strength * (fine / 2.0)**3)
        Grid::BrickKernels.pack(bricks.values, sums)
        bricks.cropped
      end
    end
  end
end
