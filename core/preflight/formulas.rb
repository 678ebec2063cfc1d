# frozen_string_literal: true

module Vumbral
  module Preflight
    # Formulas that divide by nothing, which gives nothing there.
    class Formulas
      def initialize(survey)
        @survey = survey
        @document = survey.document
      end

      # @return [Array<Finding>]
      def findings =
        @document.of(:source).select { |source| source[:map] == "formula" }.filter_map { |source| divided(source) }

      private

      def divided(source)
        formula = Shot::Formula.new(source[:formula])
        return unless formula.divides?

        share, frame = frames(formula).map { |at| [share(formula, at), at] }.max_by(&:first)
        return unless share.positive?

        where = if formula.spatial?
          "in #{(100 * share < 1) ? "less than 1" : (100 * share).round} % of the chamber"
        else
          "everywhere"
        end
        Finding.new(code: "divides_by_zero", node: source.id, dial: :formula,
          text: "The formula of #{source.name} divides by zero #{where} at frame #{frame}; it counts as 0 there.")
      end

      # What depends on time alone is cheap enough to be looked at on every frame.
      def frames(formula)
        return @survey.frames.first(1) unless formula.moves?

        formula.spatial? ? @survey.frames : (@document.first_frame..@document.last_frame).to_a
      end

      # The part of the draft's cells in which it happens.
      def share(formula, frame)
        plan = @survey.plan
        size = formula.spatial? ? plan.size : [1, 1, 1]
        setting =
          Shot::Formula.setting(
            frame: frame, time: (frame - @document.first_frame) / @document.rate, seed: plan.ground["seed"],
            first: plan.corner.map { |c| c + 0.5 * plan.voxel }, voxel: plan.voxel, low: plan.corner,
            size: plan.size.reverse.map { |n| n * plan.voxel }
          )
        Shot::FormulaKernels.divisions_by_nothing(formula.program, setting, Kernel::Buffer.of(:i32, size)) /
          size.reduce(:*)
      end
    end
  end
end
