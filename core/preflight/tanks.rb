# frozen_string_literal: true

module Vumbral
  module Preflight
    # Whether the prop that a liquid is held in holds it, and its box holds the prop.
    class Tanks
      # What leaves a shape without holes, and what makes some.
      CLOSING, OPENING = %w[close remesh combine], %w[pierce]
      # A box so many times as large as the tank's own is larger than need be.
      ROOMY = 3.0
      private_constant :CLOSING, :OPENING, :ROOMY

      # @param liquid [Shot::Node]; @param plan [Liquid::Plan]; @param box [Box] of it
      def initialize(survey, liquid, plan, box)
        @survey, @liquid, @plan, @box = survey, liquid, plan, box
        @document = survey.document
      end

      # @return [Array<Finding, nil>]
      def findings
        prop = @document.nodes[@liquid[:tank]]
        return [] unless prop && @document.on?(prop)

        [hollow(prop), sticks_out(prop) || roomy(prop)]
      end

      private

      # @return [Boolean] whether what is done to a prop leaves it closed; nil where that is not told by its operations
      def closed_by_operations?(prop)
        last =
          @document
            .operations(prop.id)
            .map { |node| node[:what] }
            .reverse
            .find { |what| (CLOSING + OPENING).include?(what) }
        last && CLOSING.include?(last)
      end

      def hollow(prop)
        closed = closed_by_operations?(prop)
        return if closed.nil? ? @survey.shape(prop).closed? : closed

        Finding.new(
          code: "tank_open",
          node: @liquid.id,
          dial: :tank,
          text: "#{prop.name} is not closed, so what it holds may run out where it is open.",
          remedy: {
            label: "Close #{prop.name}",
            edits: [
              {
                "do" => "add",
                "kind" => "operation",
                "name" => "Closed",
                "dials" => {
                  "prop" => prop.id, "what" => "remesh", "edge" => (1.5 * @plan.voxel).round(4)
                }
              }
            ]
          }
        )
      end

      def sticks_out(prop)
        low, high = @survey.bounds(prop, @document.first_frame)
        return unless 3.times.any? { |a| low[a] < @box.low[a] - 1e-6 || high[a] > @box.high[a] + 1e-6 }

        Finding.new(
          code: "tank_outside", node: @liquid.id, dial: :size,
          text: "#{prop.name} stands out of the box of #{@liquid.name}, which cuts it off there.",
          remedy: tight(low, high)
        )
      end

      # Cells that no liquid can come to cost as much as others.
      def roomy(prop)
        first, last = [@document.first_frame, @document.last_frame].map { |frame| @survey.bounds(prop, frame) }
        return unless first == last

        low, high = first
        times = 3.times.map { |a| (@box.high[a] - @box.low[a]) / (high[a] - low[a] + 4 * @plan.voxel) }.reduce(:*)
        return if times < ROOMY

        Finding.new(
          code: "tank_roomy",
          node: @liquid.id,
          dial: :size,
          text:
            "The box of #{@liquid.name} is #{times.round} times as large as it need be for #{prop.name}, which " \
              "holds all of it; a tight one is quicker.",
          remedy: tight(low, high)
        )
      end

      def tight(low, high)
        middle, size =
          3.times.map { |a| 0.5 * (low[a] + high[a]) },
          3.times.map { |a| (high[a] - low[a] + 4 * @plan.voxel).round(4) }
        Finding.remedy(
          "Fit the box to it", @liquid.id,
          position: [middle[0].round(4), (low[1] - 2 * @plan.voxel).round(4), middle[2].round(4)], size: size
        )
      end
    end
  end
end
