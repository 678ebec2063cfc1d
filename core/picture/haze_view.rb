# frozen_string_literal: true

module Vumbral
  module Picture
    # The fogs and beams of a shot on a lattice that a view draws by itself, without the gas.
    class HazeView
      CELLS = 90_000
      # So many lamps a view lets shine through fog by itself, with the shadows that props throw in it.
      SEEN = 8

      # @param settings [Hash] from {Renderer.settings}
      # @return [Hash] plain data: all that it depends on
      def self.needs(settings) = settings.slice("rig", "props", "haze")

      # @param settings [Hash] from {Renderer.settings}
      # @return [String, nil] see {Light::ViewVolume.fog}; nothing where there is no fog
      def self.encode(settings, meshes)
        rig = Light::Rig.new(settings["rig"], meshes)
        haze = Light::Haze.new(settings["haze"], rig, meshes)
        return if haze.empty?

        scene = PropScene.new(PropScene.those(settings["props"], "casts"), meshes)
        new(
          haze, haze.light(scene, Kernel::Buffer.new(:f32, 2, 2, 2), Grid::Lattice.new(0.0, 0.0, 0.0, 1.0)),
          rig.volume_lamps
        ).encode
      end

      # @param haze [Light::Haze]; @param light [Light::HazeLight]; @param lamps [Kernel::Buffer] as fogs show them
      def initialize(haze, light, lamps)
        @haze, @light, @lamps = haze, light, lamps
      end

      # The head tells besides how much light keeps its way; of fog without an end how far it is seen and how it thins
      # with the height; its colour, and how thick it is in the mean of where it has no end; and whether lamps that stand
      # at a place are left to the view.
      # @return [String]
      def encode
        first, cell, counts = @haze.grid(CELLS)
        thick = Kernel::Buffer.new(:f32, *counts.reverse)
        sent, straight, ways = Array.new(3) { Kernel::Buffer.new(:f32, 3, *counts.reverse) }
        HazeViewKernels.fill(thick, sent, straight, ways, @light, @lamps, many?, Grid::Lattice.new(*first, cell))
        Light::ViewVolume.fog(
          thick,
          sent,
          straight,
          ways,
          {
            voxel: cell, corner: first.map { |c| c - 0.5 * cell }, forward: @haze.forward, endless: @haze.endless,
            **@haze.even, placed: !many?
          }
        )
      end

      private

      def many? = @lamps.dim(0) > SEEN
    end
  end
end
