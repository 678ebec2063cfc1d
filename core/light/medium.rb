# frozen_string_literal: true

module Vumbral
  module Light
    # What fills a chamber at a frame, ready for light: smoke, and heat and colour where it has them.
    class Medium
      attr_reader :smoke, :voxel, :corner, :heat

      # @param smoke [Kernel::Buffer] f32 [z, y, x]
      # @param corner [Array<Float>] the grid's lowest corner, metres
      # @param heat [Kernel::Buffer, nil] kelvin above the surroundings
      # @param colour [Array<Kernel::Buffer>, nil] red, green, blue: smoke times its colour
      def initialize(smoke, voxel, corner, heat: nil, colour: nil)
        @smoke = smoke
        @voxel = voxel
        @corner = corner
        @heat = heat
        @colour = colour
      end

      # @param bricks [Grid::Bricks]; @param head [Hash] "voxel", "corner"
      def self.of(bricks, head)
        colour = bricks.channel?(:red) ? %i[red green blue].map { |name| bricks.field(name) } : nil
        new(bricks.field(:smoke), head["voxel"], head["corner"], heat: bricks.field(:heat), colour: colour)
      end

      # The same at half the resolution.
      def halved
        half = ->(field) { field && Grid::Coarsening.half(field) }
        Medium.new(half.call(@smoke), 2.0 * @voxel, @corner, heat: half.call(@heat), colour: @colour&.map(&half))
      end

      # @param rig [Rig] @return [Fire, nil] where something glows
      def fire(rig)
        return unless @heat

        fire = Fire.new(rig.fire, @heat, @voxel, @corner)
        fire if fire.any?
      end

      # @return [Grid::Lattice]
      def lattice = Grid::Lattice.new(*@corner.map { |c| c + 0.5 * @voxel }, @voxel)

      # The light in it. @param scene [PropScene] props throw shadows into the smoke
      # @param fire [Fire, nil]
      # @return [Lit]
      def lit(rig, scene, fire = nil) = Lit.new(self, rig, scene, fire)

      # What each voxel sends to the eye, before the look's own colour, for views.
      # @return [Kernel::Buffer] f32 [3, z, y, x]
      def light(rig, scene, fire = nil) = lit(rig, scene, fire).whole

      # @return [Kernel::Buffer, nil] f32 [3, z, y, x], the smoke's own colour where it has one
      def tint
        return unless @colour

        @tint ||= Kernel::Buffer.new(:f32, 3, *@smoke.shape).tap { |tint| FireKernels.tint(tint, @smoke, *@colour) }
      end
    end
  end
end
