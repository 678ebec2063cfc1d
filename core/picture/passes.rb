# frozen_string_literal: true

module Vumbral
  module Picture
    # What else is known of a picture's pixels, for those who go on with it: which prop, how its surface lies, how far
    # it has moved, how much hot gas lies before it.
    class Passes
      # Those that are told by name.
      NAMES = %w[masks normal motion heat].freeze

      # @param settings [Hash] from {Renderer.settings}
      # @param before [Hash] from {Camera.settings}, the camera a frame before
      # @param meshes [#mesh]
      # @param medium [Light::Medium, nil] the gas, which tells how it moves where it can
      def initialize(settings, before, meshes, width, height, medium: nil)
        @scene, @panes = %w[seen sheer].map { |which| PropScene.new(PropScene.those(settings["props"], which), meshes) }
        camera = Camera.new(settings["camera"])
        @view = camera.view(width, height)
        @before = Camera.new(before).view(width, height)
        @seen = Kernel::Buffer.new(:i32, height, width, MarchKernels::SAMPLES)
        @depth = Kernel::Buffer.new(:f32, height, width, MarchKernels::SAMPLES)
        @normal = Kernel::Buffer.new(:f32, height, width, 3)
        PassKernels.look(@seen, @depth, @normal, @view, @scene.record)
        @medium = medium
        look_at_gas(Light::Rig.new(settings["rig"], meshes), camera.gas_seconds) if medium
      end

      # World space, length one; nothing where no prop is. @return [Kernel::Buffer] f32 [h, w, 3]
      attr_reader :normal

      # Numbers of props and of the gas by how much of the pixel they cover, in pairs.
      # @param numbers [Hash{String => Float}] by the props' ids
      # @param gas [Float] the gas's own
      # @return [Kernel::Buffer] f32 [h, w, 8]
      def masks(numbers, gas: 0.0)
        size = @seen.shape.first(2)
        out = Kernel::Buffer.new(:f32, *size, 8).tap { |pairs| PassKernels.rank(pairs, @seen, list(@scene, numbers)) }
        lay_panes(out, numbers) unless @panes.empty?
        VeilKernels.lay(out, Kernel::Buffer.new(:i32, *size), @cover, Kernel::Buffer.of(:f32, [gas])) if @cover
        out
      end

      # Pixels to the right and down since the frame before, of props, gas and the camera. Gas that lies before a
      # surface counts for as much as it covers.
      # @return [Kernel::Buffer] f32 [h, w, 2]
      def motion
        ways = @scene.ways
        rows = Kernel::Buffer.of(:f32, ways.empty? ? [0.0] * 12 : ways.flatten, [ways.size, 1].max, 12)
        out = Kernel::Buffer.new(:f32, *@seen.shape.first(2), 2)
        PassKernels.motion(out, @seen, @depth, rows, @view, @before)
        VeilKernels.blend(out, @cover, @moved) if @cover
        out
      end

      # Kelvin above the surroundings times metres, up to the first surface.
      # @return [Kernel::Buffer] f32 [h, w, 1]
      def heat
        out = Kernel::Buffer.new(:f32, *@seen.shape.first(2), 1)
        PassKernels.heat(out, @depth, @view, @medium.heat, @medium.lattice) if @medium&.heat
        out
      end

      # How far the first prop is along the ray, metres; {MarchKernels::NONE} where there is none.
      # @return [Kernel::Buffer] f32 [h, w, 1]
      def depth = Kernel::Buffer.new(:f32, *@seen.shape.first(2), 1).tap { |out| PassKernels.nearest(out, @depth) }

      # How much gas before the first prop covers. @return [Kernel::Buffer] f32 [h, w, 1]
      def cover = (@cover || Kernel::Buffer.new(:f32, *@seen.shape.first(2))).reshape(*@seen.shape.first(2), 1)

      private

      # @param rig [Light::Rig] as which it shows
      def look_at_gas(rig, seconds)
        shaped = rig.shaping.call(@medium)
        flow = @medium.flow || Grid::VectorField.still(shaped.smoke.shape)
        @cover = Kernel::Buffer.new(:f32, *@seen.shape.first(2))
        @moved = Kernel::Buffer.new(:f32, *@seen.shape.first(2), 2)
        VeilKernels.gas(
          @cover, @moved, @depth, @view, @before, Drift.new(shaped.smoke, *flow.to_a, rig.thickness, seconds),
          shaped.lattice
        )
      end

      def lay_panes(out, numbers)
        who = Kernel::Buffer.new(:i32, *@seen.shape.first(2))
        cover = Kernel::Buffer.new(:f32, *who.shape)
        VeilKernels.pane(who, cover, @depth, @view, @panes.record)
        VeilKernels.lay(out, who, cover, list(@panes, numbers))
      end

      def list(scene, numbers)
        list = scene.names.map { |name| numbers.fetch(name, 0.0) }
        Kernel::Buffer.of(:f32, list.empty? ? [0.0] : list)
      end
    end
  end
end
