# frozen_string_literal: true

module Vumbral
  module Preflight
    # Whether a kick meets its liquid, and the liquid can follow it.
    class Kicks
      # @param liquid [Shot::Node]; @param plan [Liquid::Plan]; @param box [Box] of it
      def initialize(survey, liquid, plan, box)
        @survey, @liquid, @plan, @box = survey, liquid, plan, box
        @document = survey.document
      end

      # @return [Array<Finding, nil>]
      def findings = @document.of(:kick).flat_map { |kick| [misses(kick), fast(kick)] }

      private

      # A kick that touches nothing of the pool. Where something pours, that may still come to it.
      def misses(kick)
        return if !@liquid[:pool] || @document.of(:inflow).any?

        frame = [kick[:first], @document.first_frame].max
        low, high = kicked(kick, frame)
        return unless low
        return if low[1] < @plan.corner[1] + @liquid[:line] && @box.meets?([low, high])

        down = (low[1] - @plan.corner[1] - 0.5 * @liquid[:line]).round(3)
        why = (low[1] >= @plan.corner[1] + @liquid[:line]) ? "above the water line" : "outside of the box"
        lower = down.positive? && @box.meets?([[low[0], @box.low[1], low[2]], high])
        Finding.new(
          code: "kick_misses", node: kick.id,
          text: "#{kick.name} touches no liquid on frame #{frame}: its shape stands #{why}.",
          remedy: lower ? lowered(kick, down) : nil
        )
      end

      def lowered(kick, down)
        node = @document.nodes[kick[:prop]] || kick
        return if node.curves.key?(:position) || node[:leader]

        Finding.remedy(
          "Lower #{node.name} into it", node.id,
          position: node[:position].each_with_index.map { |c, a| (a == 1) ? (c - down).round(4) : c }
        )
      end

      def kicked(kick, frame)
        prop = @document.nodes[kick[:prop]]
        return (@document.on?(prop) ? @survey.bounds(prop, frame) : nil) if prop

        half = kick[:extent, frame].map { |c| 0.5 * c }
        [kick[:position, frame].zip(half).map { |c, h| c - h }, kick[:position, frame].zip(half).map { |c, h| c + h }]
      end

      # One that goes farther in a frame than the substeps can carry.
      def fast(kick)
        speed = kick[:velocity].then { |v| Math.sqrt(v.sum { |c| c * c }) + kick[:along].abs } * kick[:strength].abs
        wanted = (speed / @document.rate / @plan.voxel / @liquid[:cells]).ceil
        return if wanted <= @liquid[:substeps_most]

        Finding.new(
          code: "kick_fast",
          node: kick.id,
          dial: :velocity,
          text:
            "#{kick.name} throws the liquid #{(speed / @document.rate / @plan.voxel).round} voxels far in a frame, " \
              "and #{@liquid[:substeps_most]} substeps carry it #{(@liquid[:substeps_most] * @liquid[:cells]).round}.",
          remedy:
            (wanted <= 200) ? Finding.remedy("#{wanted} substeps at most", @liquid.id, substeps_most: wanted) : nil
        )
      end
    end
  end
end
