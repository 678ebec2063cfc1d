# frozen_string_literal: true

module Vumbral
  module Finish
    # Effects of lens, shutter, film and air. Each takes a {Work}.
    module Lens
      # Places looked at along a blur at most, and in the disc of one that goes by distance.
      ALONG, DISC = 40, 40
      NO_MOTION = Kernel::Buffer.new(:f32, 1, 1, 2)

      module_function

      def blur(work) = work.image = Soft.new(work.image).blurred([work.pixels("size"), 0.1].max)

      def smear(work)
        angle = work["angle"] * Math::PI / 180.0
        along(work, [Math.cos(angle) * work.pixels("length"), -Math.sin(angle) * work.pixels("length")])
      end

      # As long as asked for at the frame's upper and lower edge, from its middle.
      def zoom(work) =
        along(
          work, [0.0, 0.0], [work["x"] / 100.0 * work.width, work["y"] / 100.0 * work.height], work["length"] / 50.0
        )

      def motion(work)
        motion = work.pass("motion") or return
        along(work, [0.0, 0.0], [0.0, 0.0], 0.0, motion, work["shutter"] / 360.0)
      end

      def along(work, way, point = [0.0, 0.0], away = 0.0, motion = NO_MOTION, share = 0.0)
        out = work.blank
        LensKernels.along(out, work.image, Kernel::Buffer.of(:f32, way + point + [away, share]), motion, ALONG)
        work.image = out
      end

      def defocus(work)
        depth = work.pass("depth") or return
        out = work.blank
        LensKernels.defocus(out, work.image, depth, work.pixels("size"), work["sharp_at"], DISC)
        work.image = out
      end

      def sharpen(work) =
        LensKernels.sharpen(work.image, Soft.new(work.image).blurred([work.pixels("size"), 0.4].max), work["amount"])

      def denoise(work)
        return unless work["amount"].positive?

        out = work.blank
        LensKernels.denoise(out, work.image, 0.1 * work["amount"])
        work.image = out
      end

      # Grains of less than a pixel are weaker by as much, as if they were seen from farther away.
      def grain(work)
        size = work.pixels("grain_size")
        LensKernels.grain(
          work.image, 0.25 * work["amount"] * [size, 1.0].min, [size, 1.0].max, work["coloured"], work["frame"],
          work["seed"]
        )
      end

      def vignette(work) = LensKernels.vignette(work.image, work["amount"], work["inner"] / 100.0, work["roundness"])

      def fringes(work)
        out = work.blank
        LensKernels.fringes(out, work.image, 0.01 * work["amount"])
        work.image = out
      end

      def dust(work)
        rows =
          Specks.new(work["count"], work["seed"]).at(
            work["frame"] / work["rate"], size: work["size"], drift: work["drift"], sink: work["sink"],
            shape: work.width.fdiv(work.height)
          )
        return if rows.empty?

        rows =
          rows.map do |x, y, radius, light|
            [x * work.height, y * work.height, [radius * work.height, 0.4].max, light * work["amount"]]
          end
        LensKernels.dust(
          work.image, Kernel::Buffer.of(:f32, rows.flatten, rows.size, 4), Kernel::Buffer.of(:f32, work["colour"])
        )
      end

      def bars(work) = LensKernels.bars(work.image, work["shape"])

      def crop(work)
        edges = [
          work["left"] * work.width, work["top"] * work.height, (100.0 - work["right"]) * work.width,
          (100.0 - work["bottom"]) * work.height
        ]
        LensKernels.crop(work.image, Kernel::Buffer.of(:f32, edges.map { |edge| edge / 100.0 }))
      end

      # The camera's own lens bends (Brown 1966, about the frame's middle).
      def straight(work) = bend(work, false)

      def bent(work) = bend(work, true)

      def bend(work, back)
        return if work["bend"].all?(&:zero?)

        out = work.blank
        WarpKernels.lens(out, work.image, *work["bend"], back)
        work.image = out
      end
      private_class_method :along, :bend
    end
  end
end
