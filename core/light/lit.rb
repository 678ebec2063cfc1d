# frozen_string_literal: true

module Vumbral
  module Light
    # The light in a volume, made once for pictures of all sizes and from all sides.
    class Lit
      GLOW_EDGE = 3

      # `depths` f32 [lamp, z, y, x], smoke before each lamp (density times metres); `open` how much of each lamp
      # props leave (one cell where there are none); `soft` f32
      # [3, z, y, x], light from all around as it goes on; `skylight` what of the sky each place sees.
      attr_reader :depths, :open, :soft, :skylight

      # @param medium [Medium]; @param rig [Rig]; @param scene [PropScene]; @param fire [Fire, nil]
      # @param quick [Boolean] as {Bounces} takes it
      def initialize(medium, rig, scene, fire, quick: false)
        @medium, @rig = medium, rig
        smoke, lattice = medium.smoke, medium.lattice
        @skylight = Skylight.of(smoke, rig.soft_thickness, medium.voxel)
        count = [rig.lamps.dim(0), 1].max
        @depths = Kernel::Buffer.new(:f32, count, *smoke.shape)
        VolumeKernels.depths(@depths, smoke, near, rig.lamps, lattice, thick)
        @open = scene.empty? ? Kernel::Buffer.of(:f32, [1.0], 1, 1, 1, 1) : opened(scene, count)
        @soft = Kernel::Buffer.new(:f32, 3, *smoke.shape)
        direct = Kernel::Buffer.new(:f32, 3, *smoke.shape)
        glow(direct, fire) if fire && fire.lamps.dim(0).positive?
        @bounces = Bounces.new(medium, rig, quick: quick)
        @bounces.add(@soft, direct, self, near)
      end

      # @return [Bounces] what of the light goes on within the smoke
      attr_reader :bounces

      # @return [Kernel::Buffer] f32 [3, z, y, x]
      def whole
        rgb = Kernel::Buffer.new(:f32, *@soft.shape)
        VolumeKernels.whole(rgb, @soft, near, @depths, @open, @rig.smoke_lamps, @rig.scatter,
          @medium.lattice)
        FireKernels.dye(rgb, @medium.tint, @medium.smoke) if @medium.tint
        rgb
      end

      private

      def thick = [@rig.thickness * @rig.shadow, 1e-3].max

      # u8, 1 where light is asked for.
      def near
        @near ||= begin
          marks = Array.new(2) { Kernel::Buffer.new(:u8, *@medium.smoke.shape) }
          VolumeKernels.mark(marks[0], @medium.smoke)
          3.times.reduce(marks) { |(from, to), axis|
            VolumeKernels.widen(to, from, axis)
            [to, from]
          }[0]
        end
      end

      # What props leave of each of `count` lamps.
      def opened(scene, count)
        shape = [count, *@medium.smoke.shape]
        what = [near, @rig.lamps, scene.corners, scene.boxes, @medium.lattice]
        seen = Kernel::Buffer.new(:u8, *shape).tap { |marks| VolumeKernels.sighted(marks, *what) }
        Kernel::Buffer.new(:f32, *shape).tap { |open| VolumeKernels.opened(open, seen, *what) }
      end

      # Fire lights smoothly, so a coarse grid is enough.
      def glow(direct, fire)
        smoke = @medium.smoke
        coarse = Kernel::Buffer.new(:f32, 3, *smoke.shape.map { |n| [(n + GLOW_EDGE - 1) / GLOW_EDGE, 2].max })
        place, half = @medium.lattice, 0.5 * @medium.voxel
        # What lies between is looked at half as finely.
        FireKernels.glow(
          coarse, Grid::Coarsening.half(smoke), near, fire.near_lamps, GLOW_EDGE, thick, place,
          Grid::Lattice.new(place.x + half, place.y + half, place.z + half, 2.0 * place.voxel)
        )
        # All of it for the bounces, and what goes on of it for the eye.
        BounceKernels.spread(direct, coarse, near, Kernel::Buffer.of(:f32, [1.0, 1.0, 1.0]), GLOW_EDGE)
        BounceKernels.spread(@soft, coarse, near, @rig.scatter, GLOW_EDGE)
      end
    end
  end
end
