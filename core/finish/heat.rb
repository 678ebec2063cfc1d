# frozen_string_literal: true

module Vumbral
  module Finish
    # Heat that bends what is seen through it.
    module Heat
      # Waves are smooth: they are made so many times smaller.
      SMALL = 4

      module_function

      # @param work [Work]
      def shimmer(work)
        strong = strong(work) or return
        angle = work["angle"] * Math::PI / 180.0
        seconds = work["frame"] / work["rate"]
        bend = Kernel::Buffer.new(:f32, (work.height + SMALL - 1) / SMALL, (work.width + SMALL - 1) / SMALL, 2)
        WarpKernels.waves(
          bend, [work.pixels("waves") / SMALL, 0.8].max, Math.cos(angle), -Math.sin(angle),
          work.pixels("rise") * seconds / SMALL, 1.5 * seconds, work["seed"]
        )
        out = work.blank
        WarpKernels.bend(out, work.behind, bend, strong, work.pixels("far") * work["amount"])
        work.behind = out
      end

      def strong(work)
        out = work.blank(1)
        case work["by"]
        when "heat"
          heat = work.pass("heat") or return
          WarpKernels.strong(out, heat, work["kelvins"])
          # Bent light does not show where each bit of gas is.
          Soft.new(out).blurred(0.008 * work.height)
        when "cover"
          out.tap { WarpKernels.channel(out, work.image, 3) }
        else
          out.tap do
            SoftKernels.spread(out, Kernel::Buffer.of(:f32, [1.0], 1, 1, 1), 1.0, 0.0, Kernel::Buffer.of(:f32, [1.0]))
          end
        end
      end
      private_class_method :strong
    end
  end
end
