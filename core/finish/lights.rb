# frozen_string_literal: true

module Vumbral
  module Finish
    # Effects of bright light. Each takes a {Work}.
    module Lights
      module_function

      # Light above a threshold spread about it, each time twice as wide and half as strong.
      def glow(work)
        soft = Soft.new(bright(work))
        shares = Array.new(work["octaves"]) { |n| 0.5**n }
        light = work.blank(3)
        shares.each_with_index do |share, n|
          soft.add(
            light, [work.pixels("size") * 2**n, 0.3].max,
            work["colour"].map { |c| c * work["amount"] * share / shares.sum }
          )
        end
        LightKernels.add(work.image, light)
      end

      def flare(work) = Flare.new(work).add

      # A layer's fire lights what lies below it.
      def flash(work)
        light = bright(work)
        rows = Kernel::Buffer.new(:f32, work.height, 6)
        LightKernels.sums(rows, light)
        sums = rows.to_a.each_slice(6).to_a.transpose.map(&:sum)
        return if sums[5] <= 0.0

        # Of as much light as would fill a hundredth of the frame.
        per = work["amount"] * 100.0 / (work.height * work.width)
        colour = 3.times.map { |c| sums[c] * per * work["colour"][c] }
        LightKernels.throw(
          work.behind,
          Kernel::Buffer.of(:f32, colour + [sums[3] / sums[5], sums[4] / sums[5], [work.pixels("reach"), 1.0].max])
        )
      end

      # Light from below comes round the edges of what is before it.
      def wrap(work)
        return if work.changes?

        sigma = [work.pixels("size"), 0.5].max
        LightKernels.wrap(
          work.image, Soft.new(work.below).blurred(sigma), Soft.new(work.image).blurred(sigma), work["amount"]
        )
      end

      def bright(work) = work.blank(3).tap { |light| LightKernels.bright(light, work.image, work["from"]) }

      private_class_method :bright
    end
  end
end
