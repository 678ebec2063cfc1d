# frozen_string_literal: true

module Vumbral
  module Preflight
    # What changes over time and may not come out as meant: a last frame that doubles the first, formulas that leave
    # what a dial can be, keys that lie outside the shot.
    class Timing
      TURN = 360.0

      def initialize(survey)
        @survey = survey
        @document = survey.document
        @first, @last = @document.first_frame, @document.last_frame
      end

      # @return [Array<Finding>]
      def findings
        @document.nodes.each_value.flat_map do |node|
          node.curves.each_key.flat_map { |name| dial(node, node.kind.dials[name]) }
        end
      end

      private

      def dial(node, dial)
        [doubled(node, dial), outside(node, dial), beyond(node, dial)].compact
      end

      # In a loop the last frame must not show what the first shows, or it stands still for a frame.
      def doubled(node, dial)
        curve = node.keyed(dial.name)
        return unless curve && dial.keyed && curve.keys.size > 1 && @last > @first && comes_round?(dial, curve)

        Finding.new(
          code: "last_doubles_first",
          node: node.id,
          dial: dial.name,
          text:
            "#{dial.label} of #{node.name} is on the last frame what it is on the first, so a loop stands still " \
              "there for a frame; end the shot a frame earlier.",
          remedy: Finding.remedy("End at frame #{@last - 1}", "general", last: @last - 1)
        )
      end

      def comes_round?(dial, curve)
        from, to = [@first, @last].map { |frame| Array(curve.at(frame)) }
        return false if from.any? { |value| [true, false].include?(value) }

        rises = to.zip(from).map { |a, b| a - b }
        around =
          dial.name == :turn && rises.any? { |rise| rise.abs >= TURN - 1e-6 } &&
          rises.all? { |rise| (rise / TURN - (rise / TURN).round).abs < 1e-6 }
        around || (%w[again back].include?(curve.after) &&
          (curve.after == "again" || curve.length * 2 <= @last - @first) && rises.all? { |rise| rise.abs < 1e-9 })
      end

      def outside(node, dial)
        curve = node.keyed(dial.name)
        return unless curve&.holds? && curve.keys.size > 1

        out = curve.keys.map(&:frame).reject { |frame| frame.between?(@first, @last) }
        return if out.size < curve.keys.size

        Finding.new(
          code: "keys_outside",
          node: node.id,
          dial: dial.name,
          text:
            "All keys of #{dial.label} of #{node.name} lie outside the shot (#{@first} to #{@last}), so it never " \
              "changes; move them, or make the shot longer."
        )
      end

      def beyond(node, dial)
        rule = node.rule(dial.name)
        return unless rule

        frames = dial.keyed ? @survey.frames : [@first]
        frame = frames.find { |at| rule.beyond?(at) }
        frame &&
          Finding.new(
            code: "formula_beyond",
            node: node.id,
            dial: dial.name,
            text:
              "The formula of #{dial.label} of #{node.name} leaves what it can be at frame #{frame} " \
                "(#{dial.show(dial.range.begin)} to #{dial.show(dial.range.end)}) and is held there."
          )
      end
    end
  end
end
