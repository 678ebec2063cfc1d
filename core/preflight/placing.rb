# frozen_string_literal: true

module Vumbral
  module Preflight
    # Whether what feeds is where it is computed: sources outside the chamber, or so fast that they leave
    # gaps.
    class Placing
      # A source may go so many of its own sizes in a substep.
      MOST_STRIDE = 1.0

      def initialize(survey)
        @survey = survey
        @document = survey.document
      end

      # @return [Array<Finding>]
      def findings
        @survey
          .feeding
          .reject { |source| source[:from] == "particles" }
          .filter_map { |source| outside(source) || beads(source) }
      end

      private

      def frames(source) = @survey.frames & @survey.active(source)

      def outside(source)
        looked = frames(source)
        if looked.empty? || looked.any? { |frame| @survey.props_of(source).any? { |prop| meets?(prop, source, frame) } }
          return
        end

        prop = @survey.props_of(source).first
        Finding.new(
          code: "outside",
          node: source.id,
          dial: :prop,
          remedy: moved(prop, looked.first),
          text:
            "#{source.name} is outside the chamber, so nothing comes of it: #{prop.name} never touches " \
              "#{(@survey.boxes.size > 1) ? "a" : "the"} box."
        )
      end

      # Whether a copy of the source touches a chamber.
      def meets?(prop, source, frame)
        low, high = @survey.bounds(prop, frame)
        places = (0...source[:copies]).map { |n| Shot::Timing.place(source, n) }
        places.product(@survey.boxes).any? do |place, (floor, ceiling)|
          3.times.all? { |a| low[a] + place[a] <= ceiling[a] && high[a] + place[a] >= floor[a] }
        end
      end

      # The chamber's floor comes to lie under the prop.
      def moved(prop, frame)
        low, high = @survey.bounds(prop, frame)
        middle = low.zip(high).map { |a, b| 0.5 * (a + b) }
        place =
          [middle[0], low[1] - 0.02 * @document.the(:chamber)[:size][1], middle[2]].map do |c|
            c.round(4).clamp(-10_000.0, 10_000.0)
          end
        {
          label: "Move the chamber to #{prop.name}",
          edits: [{"do" => "place", "node" => "chamber", "position" => place}]
        }
      end

      def beads(source)
        chamber = @document.the(:chamber)
        stride, frame = strides(source).max_by(&:first)
        return unless stride && stride / chamber[:substeps_most] > MOST_STRIDE

        wanted = stride.ceil
        Finding.new(code: "beads", node: source.id, dial: nil,
          text: "#{source.name} moves #{format("%.1f", stride)} of its own sizes at frame #{frame} and would come " \
            "out as beads; " \
            "#{wanted} substeps are needed, and there are at most #{chamber[:substeps_most]}.",
          remedy: (wanted <= 64) ? Finding.remedy("Allow #{wanted} substeps", "chamber", substeps_most: wanted, substeps_least: [chamber[:substeps_least], wanted].max) : nil)
      end

      # How far the source goes in a frame, in its own sizes along the way.
      def strides(source)
        frames(source).flat_map do |frame|
          @survey.props_of(source).select { |prop| Geometry::Bodies.goes?(@document, prop) }.map do |prop|
            now, before = [frame, frame - 1].map { |at| Geometry::Bodies.pose(prop, at, @document)["position"] }
            step = now.zip(before).map { |a, b| a - b }
            length = Math.sqrt(step.sum { |c| c * c })
            low, high = @survey.bounds(prop, frame)
            along = length.zero? ? 1.0 : step.each_with_index.sum { |c, a| (c / length).abs * (high[a] - low[a]) }
            [length / [along, @survey.plan.voxel].max, frame]
          end
        end
      end
    end
  end
end
