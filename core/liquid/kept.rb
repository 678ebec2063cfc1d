# frozen_string_literal: true

module Vumbral
  module Liquid
    # The part of a liquid's particles that a frame keeps, always the same ones: `places` f32 [n, 3] metres, `speeds`
    # f32 [n, 3] m/s, `ages` f32 [n] seconds, `ids` i32 [n], `kinds` u8 [n] 0 the liquid's own, 1 spray, 2 foam, 3
    # bubbles; `gone` f32 [n] which share of its life each has had; `pressures` f32 [n] Pa, as of water.
    Kept = Struct.new(:places, :speeds, :ages, :ids, :kinds, :gone, :pressures, keyword_init: true) do
      # @param state [State]; @param plan [Plan]; @param step [Float] seconds of its last substep
      # @return [Kept]
      def self.of(state, plan, step = 0.0)
        share = plan.ground["kept"]
        chosen = Kernel::Buffer.new(:i32, [state.drops.count, 1].max)
        count = (share.positive? && state.drops.count.positive?) ? FullKernels.choose(chosen, state.drops.id, share) : 0
        kept = blank(count)
        if count.positive?
          FullKernels.keep(
            kept.places, kept.speeds, kept.ages, kept.ids, state.drops, chosen,
            Kernel::Buffer.of(:f32, [*plan.corner, plan.voxel, state.time])
          )
        end
        # The solver's own is what it takes from the speed in a step from one cell to the next.
        if count.positive? && step.positive?
          FullKernels.pressures(
            kept.pressures, state.drops, chosen, state.pressure, Tension::DENSITY * plan.voxel / step
          )
        end
        kept
      end

      # @param spray [Spray] of a liquid; @param plan [Plan]
      # @return [Kept] all of it
      def self.spray(spray, plan)
        kept = blank(spray.count)
        if kept.count.positive?
          SprayKernels.keep(
            kept.places, kept.speeds, kept.ages, kept.ids, kept.kinds, kept.gone, spray,
            Kernel::Buffer.of(:f32, [*plan.corner, plan.voxel])
          )
        end
        kept
      end

      def self.blank(count)
        new(
          places: Kernel::Buffer.new(:f32, count, 3), speeds: Kernel::Buffer.new(:f32, count, 3),
          ages: Kernel::Buffer.new(:f32, count), ids: Kernel::Buffer.new(:i32, count),
          kinds: Kernel::Buffer.new(:u8, count), gone: Kernel::Buffer.new(:f32, count),
          pressures: Kernel::Buffer.new(:f32, count)
        )
      end
      private_class_method :blank

      # @return [Integer]
      def count = places.dim(0)
    end
  end
end
