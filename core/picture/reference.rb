# frozen_string_literal: true

module Vumbral
  module Picture
    # A picture of a volume alone that is right in the mean, to hold the everyday one against: every bounce,
    # between points, without props. Many paths for each pixel, and minutes.
    class Reference
      # @param settings [Hash] from {Renderer.settings}
      def initialize(settings)
        @rig = Light::Rig.new(settings["rig"])
        @camera = Camera.new(settings["camera"])
      end

      # @param paths [Integer] for each pixel; four times as many halve the grain
      # @return [Kernel::Buffer] f32 [height, width, 4] as {Renderer#image} gives it
      def image(medium, width, height, paths:, seed: 1)
        medium = @rig.shaping.call(medium)
        fire = medium.fire(@rig)
        most = [@rig.thickness * Flow::MatterKernels.highest(medium.smoke), 1e-3, (fire ? 1.0 / medium.voxel : 0.0)].max
        tracked = Tracked.new(medium.smoke, fire ? fire.field : medium.smoke,
          fire ? fire.table : Kernel::Buffer.new(:f32, 2, 3), most, paths,
          (@rig.bounces > 99.5) ? 100_000 : @rig.bounces.round, seed)
        paint = Paint.new(@rig.thickness, @rig.thickness, *@rig.albedo, @rig.forward, @rig.back, @rig.back_share,
          1.0, 0.0,
          *@rig.albedo, fire ? fire.low : 0.0, fire ? fire.per : 0.0, 0.0, 0.0)
        Kernel::Buffer.new(:f32, height, width, 4).tap { |image|
          TrackingKernels.track(image, @camera.view(width, height), tracked, paint, @rig.smoke_lamps, @rig.smoke_sky,
            medium.lattice)
        }
      end
    end
  end
end
