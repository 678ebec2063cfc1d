# frozen_string_literal: true

module Vumbral
  module Light
    # Makes pictures: props and smoke through the shot's camera, as linear light.
    class Renderer
      SENSOR = 36.0
      PACE = 0.8
      # A box that no ray enters.
      NOWHERE = [1.0, 1.0, 1.0, -1.0, -1.0, -1.0].freeze

      # @param settings [Hash] from {.settings}
      # @param meshes [#mesh]
      def initialize(settings, meshes)
        @settings = settings
        @rig = Rig.new(settings["rig"])
        @scene = PropScene.new(settings["props"], meshes)
      end

      # @return [Hash] plain data: all that a picture of a frame depends on besides the volume
      def self.settings(document, frame)
        camera, picture = document.the(:camera), document.the(:picture)
        {"rig" => Rig.settings(document, frame), "props" => PropScene.settings(document, frame),
         "camera" => %i[position target focal].to_h { |dial| [dial.to_s, camera[dial, frame]] },
         "picture" => %i[background exposure tone].to_h { |dial| [dial.to_s, picture[dial, frame]] }}
      end

      # @param medium [Medium, nil] the smoke, where there is some
      # @param without_props [Boolean] leave the props out of sight; they still shade
      # @param sparks [Kernel::Buffer, nil] from {Sparks#at}
      # @return [Kernel::Buffer] f32 [height, width, 4]: red, green, blue, alpha over nothing
      def image(medium, width, height, without_props: false, sparks: nil)
        medium ||= Medium.new(Kernel::Buffer.new(:f32, 2, 2, 2), 1.0, [0.0, 0.0, 0.0])
        view = view(width, height)
        fire = medium.fire(@rig)
        hits = surfaces(medium, fire, view, width, height, without_props)
        image = Kernel::Buffer.new(:f32, height, width, 4)
        bounds = medium.bounds(fire)
        light = bounds ? medium.light(@rig, @scene, fire) : Kernel::Buffer.new(:f32, 3, 2, 2, 2)
        PictureKernels.march(image, hits, view, medium.smoke, light, fire ? fire.emission : light, !fire.nil?, Kernel::Buffer.of(:f32, bounds || NOWHERE), @rig.albedo,
          medium.voxel, *medium.corner, @rig.thickness, PACE)
        if sparks&.dim(0)&.positive?
          SparkKernels.sparks(image, hits, view, sparks, medium.smoke, medium.voxel, *medium.corner,
            @rig.thickness)
        end
        image
      end

      # @return [Kernel::Buffer] u8 [height, width, 3], ready for a screen
      def develop(image)
        out = Kernel::Buffer.new(:u8, image.dim(0), image.dim(1), 3)
        DevelopKernels.develop(out, image, Kernel::Buffer.of(:f32, @settings["picture"]["background"]), gain, soft?)
        out
      end

      # @return [Kernel::Buffer] u8 [height, width, 4], with alpha and no background
      def cut_out(image)
        out = Kernel::Buffer.new(:u8, image.dim(0), image.dim(1), 4)
        DevelopKernels.cut_out(out, image, gain, soft?)
        out
      end

      private

      def gain = 2.0**@settings["picture"]["exposure"]

      def soft? = @settings["picture"]["tone"] == "soft"

      def surfaces(medium, fire, view, width, height, without_props)
        hits = Kernel::Buffer.new(:f32, height, width, 16)
        if without_props || @scene.owner.size.zero?
          return hits.fill(PictureKernels::NONE)
        end
        depth = Kernel::Buffer.new(:f32, height, width)
        seen = Kernel::Buffer.new(:i32, height, width)
        PictureKernels.look(depth, seen, view, @scene.corners, @scene.boxes)
        PictureKernels.surfaces(hits, depth, seen, @scene.owner, view, @scene.corners, @scene.boxes, @scene.normals, @scene.colours,
          lamps(fire), @rig.sky, medium.smoke, medium.voxel, *medium.corner, @rig.thickness)
        hits
      end

      # The shot's lamps and those that stand for the fire, which throw no shadows of props.
      def lamps(fire)
        return @rig.lamps unless fire && fire.lamps.dim(0).positive?

        rows = fire.lamps.to_a.each_slice(8).map { |row| [1.0 + 1.5 * row[7], *row[1, 6], 0.0] }
        Kernel::Buffer.of(:f32, @rig.lamps.to_a + rows.flatten, @rig.lamps.dim(0) + rows.size, 8)
      end

      # Place, forward, right and up of the camera, the last two as long as half the picture.
      def view(width, height)
        position, target = @settings["camera"]["position"], @settings["camera"]["target"]
        forward = unit(target.zip(position).map { |a, b| a - b }, [0.0, 0.0, -1.0])
        right = unit(cross(forward, [0.0, 1.0, 0.0]), [1.0, 0.0, 0.0])
        up = cross(right, forward)
        half = 0.5 * SENSOR / @settings["camera"]["focal"]
        Kernel::Buffer.of(:f32, position + forward + right.map { |c| c * half } + up.map { |c| c * half * height / width } + [width.to_f, height.to_f])
      end

      def unit(vector, otherwise)
        length = Math.sqrt(vector.sum { |c| c * c })
        (length < 1e-9) ? otherwise : vector.map { |c| c / length }
      end

      def cross(a, b) = [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]]
    end
  end
end
