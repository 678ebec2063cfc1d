# frozen_string_literal: true

module Vumbral
  module Light
    # Light that goes on within smoke, from lamps, fire and sky, on a coarse grid: each cell passes on what
    # comes to it, again and again, until all is told (discrete ordinates, Chandrasekhar 1950, with
    # accelerated iteration). Smoke that sends light forwards is, for light that was scattered, thinner smoke
    # that sends it all ways (van de Hulst 1974).
    class Bounces
      # Cells of the grid at most, and how often light is passed on at most.
      MOST_CELLS = 100_000
      # The same where light shall be there at once.
      FEW_CELLS = 12_000
      ROUNDS = 60
      # A round that changes nothing by more than this share of the brightest light is the last.
      CLOSE = 0.002
      # The same where light shall be there at once.
      NEARLY = 0.03
      # Bounces from which on none is lost.
      ENDLESS = 99.5

      # @param medium [Medium]; @param rig [Rig]
      # @param quick [Boolean] rather roughly than late
      def initialize(medium, rig, quick: false)
        @medium = medium
        @rig = rig
        cells, @close = quick ? [FEW_CELLS, NEARLY] : [MOST_CELLS, CLOSE]
        shape = medium.smoke.shape
        @edge = 1
        @edge += 1 while shape.map { |n| (n + @edge - 1) / @edge }.reduce(:*) > cells
        @shape = shape.map { |n| (n + @edge - 1) / @edge }
      end

      # @return [Kernel::Buffer] f32 [z, y, x], how far a lamp's light in each cell is that of a deep skin
      def skin = @skin ||= Kernel::Buffer.new(:f32, *@shape)

      # @return [Integer] voxels that a cell is wide
      attr_reader :edge

      # @return [Float] how wide a cell is, metres
      def cell = @edge * @medium.voxel

      # Adds all of it to what is there. @param soft [Kernel::Buffer] f32 [3, z, y, x] as it goes on
      # @param direct [Kernel::Buffer] f32 [3, z, y, x], the fire's own light
      # @param lit [Lit] what stands before each lamp; @param near [Kernel::Buffer] u8, where light is asked for
      def add(soft, direct, lit, near)
        first = Kernel::Buffer.new(:f32, 3, *@shape)
        mean = Kernel::Buffer.new(:f32, *@shape)
        BounceKernels.gather(Lamplight.new(first, mean, direct, lit.depths, lit.open), @medium.smoke, @rig.smoke_lamps,
          @rig.scatter, @medium.lattice)
        BounceKernels.skins(@skin = Kernel::Buffer.new(:f32, *@shape), mean, @rig.soft_thickness * cell) if endless?
        light = Kernel::Buffer.new(:f32, 3, *@shape)
        BounceKernels.soften(light, solved(first, mean), skin)
        BounceKernels.spread(soft, light, near, @rig.scatter, @edge)
      end

      private

      def endless? = @rig.bounces > ENDLESS

      # @return [Kernel::Buffer] f32 [z, y, 3x], the mean light from all around but straight from lamps
      def solved(first, mean)
        light, abreast = Array.new(2) { Kernel::Buffer.new(:f32, *across) }
        parts = Kernel::Buffer.new(:f32, 4, *across)
        BounceKernels.pass(parts, abreast, first, mean, @rig.soft_thickness * cell)
        beams = Kernel::Buffer.new(:f32, BounceKernels::WAYS, *across)
        ends = row(*by_colour(BounceKernels.peaks(abreast)))
        # The first round is what comes from beyond, and what lamps have begun.
        source = guess
        rounds = endless? ? ROUNDS : [@rig.bounces.ceil + 1, ROUNDS].min
        rounds.times do
          BounceKernels.sweep(beams, source, parts, ends)
          break if BounceKernels.renew(source, light, beams, parts, abreast, ends, endless?) < @close
        end
        light
      end

      # Three colours side by side.
      def across = [*@shape.take(2), 3 * @shape[2]]

      # What is the same for all cells of a colour: light from above and from below, how much of it goes on, and one
      # over the brightest light.
      # @param peaks [Array<Float>] of what lamps send; @return [Array<Array<Float>>]
      def by_colour(peaks)
        above, below = @rig.smoke_sky.to_a.each_slice(3).to_a
        [above, below, @rig.soft_albedo.to_a, [above, below, peaks].transpose.map { |all| 1.0 / [*all, 1e-20].max }]
      end

      # @return [Kernel::Buffer] f32 [row, 3x]
      def row(*all) = Kernel::Buffer.of(:f32, all.flat_map { |rgb| rgb * @shape[2] }, all.size, 3 * @shape[2])

      # What is right at once for white smoke under an even sky, where light is passed on without an end.
      # @return [Kernel::Buffer] f32 [z, y, 3x]
      def guess
        return Kernel::Buffer.new(:f32, *across) unless endless?

        above, below, albedo, = by_colour([0.0] * 3)
        even = 3.times.map { |c| albedo[c]**8 * 0.5 * (above[c] + below[c]) }
        Kernel::Buffer.new(:f32, *across, bytes: row(even).bytes * @shape.take(2).reduce(:*))
      end
    end
  end
end
