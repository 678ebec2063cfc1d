# frozen_string_literal: true

module Vumbral
  module Picture
    # What else is known of a picture's pixels, for those who go on with it: which prop, how its surface lies, how far it
    # has moved, how much hot gas lies before it.
    class Passes
      # What each is, as a person reads it.
      NAMES = {"masks" => "a mask of each prop", "normal" => "how surfaces lie", "motion" => "how far things moved since the frame before", "heat" => "how much hot gas lies before them"}.freeze

      # @param settings [Hash] from {Renderer.settings}
      # @param before [Hash] from {Camera.settings}, the camera a frame before
      # @param meshes [#mesh]
      def initialize(settings, before, meshes, width, height)
        @scene = PropScene.new(PropScene.those(settings["props"], "seen"), meshes)
        @view = Camera.new(settings["camera"]).view(width, height)
        @before = Camera.new(before).view(width, height)
        @seen = Kernel::Buffer.new(:i32, height, width, MarchKernels::SAMPLES)
        @depth = Kernel::Buffer.new(:f32, height, width, MarchKernels::SAMPLES)
        @normal = Kernel::Buffer.new(:f32, height, width, 3)
        PassKernels.look(@seen, @depth, @normal, @view, @scene.record)
      end

      # World space, length one; nothing where no prop is. @return [Kernel::Buffer] f32 [h, w, 3]
      attr_reader :normal

      # Numbers of props by how much of the pixel they cover, in pairs.
      # @param numbers [Hash{String => Float}] by the props' ids
      # @return [Kernel::Buffer] f32 [h, w, 8]
      def masks(numbers)
        list = @scene.names.map { |name| numbers.fetch(name, 0.0) }
        Kernel::Buffer.new(:f32, *@seen.shape.first(2), 8).tap { |out| PassKernels.rank(out, @seen, Kernel::Buffer.of(:f32, list.empty? ? [0.0] : list)) }
      end

      # Pixels to the right and down since the frame before, of props and the camera.
      # @return [Kernel::Buffer] f32 [h, w, 2]
      def motion
        ways = @scene.ways
        rows = Kernel::Buffer.of(:f32, ways.empty? ? [0.0] * 12 : ways.flatten, [ways.size, 1].max, 12)
        Kernel::Buffer.new(:f32, *@seen.shape.first(2), 2).tap { |out| PassKernels.motion(out, @seen, @depth, rows, @view, @before) }
      end

      # Kelvin above the surroundings times metres, up to the first surface.
      # @param medium [Light::Medium, nil]
      # @return [Kernel::Buffer] f32 [h, w, 1]
      def heat(medium)
        out = Kernel::Buffer.new(:f32, *@seen.shape.first(2), 1)
        PassKernels.heat(out, @depth, @view, medium.heat, medium.lattice) if medium&.heat
        out
      end
    end
  end
end
