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
        parts = Kernel::Buffer.new(:f32, 4, *@shape)
        BounceKernels.pass(parts, mean, @rig.soft_thickness * cell)
        light = joined(Array.new(3) { |c| solved(c, plane(first, c), parts) })
        BounceKernels.spread(soft, light, near, @rig.scatter, @edge)
      end

      private

      def endless? = @rig.bounces > ENDLESS

      # @return [Kernel::Buffer] f32 [z, y, x], the mean light from all around but straight from lamps
      def solved(colour, first, parts)
        source, light = Array.new(2) { Kernel::Buffer.new(:f32, *@shape) }
        beams = @beams ||= Kernel::Buffer.new(:f32, BounceKernels::WAYS, *@shape)
        above, below = @rig.smoke_sky[colour], @rig.smoke_sky[3 + colour]
        ends = Kernel::Buffer.of(:f32, [above, below])
        albedo = @rig.soft_albedo[colour]
        # The first round is what comes from beyond, and what lamps have begun.
        rounds = endless? ? ROUNDS : [@rig.bounces.ceil + 1, ROUNDS].min
        # What is right at once for white smoke under an even sky.
        source.fill(albedo**8 * 0.5 * (above + below)) if endless?
        most = [above, below, Flow::FlowKernels.peak(first)].max
        rounds.times do
          BounceKernels.sweep(beams, source, parts, above, below)
          change = BounceKernels.renew(source, light, beams, parts, first, albedo, ends, endless?)
          break if change < @close * most
        end
        BounceKernels.soften(source, light, skin)
        source
      end

      def plane(all, n) = Kernel::Buffer.new(:f32, *@shape, bytes: all.bytes.byteslice(n * all.bytesize / 3,
        all.bytesize / 3))

      def joined(planes) = Kernel::Buffer.new(:f32, 3, *@shape, bytes: planes.map(&:bytes).join)
    end
  end
end
