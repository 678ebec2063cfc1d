# frozen_string_literal: true

module Vumbral
  module Light
    # What fills a chamber at a frame, ready for light: smoke, and heat, fuel and colour where it has them.
    class Medium
      attr_reader :smoke, :voxel, :corner, :heat, :flow, :told

      # @param smoke [Kernel::Buffer] f32 [z, y, x]
      # @param corner [Array<Float>] the grid's lowest corner, metres
      # @param heat [Kernel::Buffer, nil] kelvin above the surroundings
      # @param colour [Array<Kernel::Buffer>, nil] red, green, blue: smoke times its colour
      # @param tint [Kernel::Buffer, nil] f32 [3, z, y, x], the smoke's own colour, where it is told outright
      # @param flow [Grid::VectorField, nil] velocity at centres, m/s
      # @param told [Hash{Symbol => Kernel::Buffer}] what the run tells besides: :fuel (density), :age (s) of the
      #   smoke, :burning (fuel a second)
      def initialize(smoke, voxel, corner, heat: nil, colour: nil, tint: nil, flow: nil, told: {})
        @smoke = smoke
        @voxel = voxel
        @corner = corner
        @heat = heat
        @colour = colour
        @tint = tint
        @flow = flow
        @told = told
      end

      # @param bricks [Grid::Bricks]; @param head [Hash] "voxel", "corner"
      # @param moving [Boolean] whether it shall tell how it moves
      def self.of(bricks, head, moving: false)
        colour = bricks.channel?(:red) ? %i[red green blue].map { |name| bricks.field(name) } : nil
        new(
          bricks.field(:smoke), head["voxel"], head["corner"], heat: bricks.field(:heat), colour: colour,
          flow: moving ? bricks.velocity : nil,
          told: %i[fuel age burning].select { |name| bricks.channel?(name) }.to_h { |name| [name, bricks.field(name)] }
        )
      end

      # The same with other smoke and another colour of it.
      def with(smoke:, tint:) = Medium.new(smoke, @voxel, @corner, heat: @heat, tint: tint, flow: @flow, told: @told)

      # The same at half the resolution.
      def halved
        half = ->(field) { field && Grid::Coarsening.half(field) }
        Medium.new(half.call(@smoke), 2.0 * @voxel, @corner, heat: half.call(@heat),
          colour: @colour&.map(&half), told: @told.transform_values(&half))
      end

      # @param rig [Rig] @return [Fire, nil] where something glows
      def fire(rig)
        field = burns_by(rig.fire["by"])
        return unless field

        fire = Fire.new(rig.fire, field, @voxel, @corner)
        fire if fire.any?
      end

      # @param by [String] as {Fire.settings} has it @return [Kernel::Buffer, nil] what the fire follows
      def burns_by(by)
        case by
        when "fuel_ramp"
          @told[:fuel]
        when "burning_ramp"
          @told[:burning]
          # Clean air is of no age, so it must be younger than all smoke.
        when "age_ramp"
          @told[:age]&.then do |age|
            Kernel::Buffer.new(:f32, *age.shape).tap { |out| FireKernels.held_age(out, age, @smoke) }
          end
        else
          @heat
        end
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

      # The same sooner, from half the resolution.
      # @return [Kernel::Buffer] f32 [3, z, y, x]
      def quick_light(rig, scene, fire = nil)
        coarse = Lit.new(halved, rig, scene, fire, quick: true).whole
        all = Kernel::Buffer.new(:u8, *@smoke.shape).fill(1)
        Kernel::Buffer
          .new(:f32, 3, *@smoke.shape)
          .tap { |out| BounceKernels.spread(out, coarse, all, Kernel::Buffer.of(:f32, [1.0, 1.0, 1.0]), 2) }
      end

      # @return [Kernel::Buffer, nil] f32 [3, z, y, x], the smoke's own colour where it has one
      def tint
        return @tint if @tint || !@colour

        @tint = Kernel::Buffer.new(:f32, 3, *@smoke.shape).tap { |tint| FireKernels.tint(tint, @smoke, *@colour) }
      end
    end
  end
end
