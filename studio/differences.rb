# frozen_string_literal: true

module Vumbral
  module Studio
    # What differs between two states of a shot, in words and numbers.
    module Differences
      # Switches that change what is computed or seen.
      SWITCHED = {off: "switched off", only: "alone"}.freeze

      module_function

      # @param before [Shot::Document, nil]
      # @param after [Shot::Document]
      # @return [Array<Hash>] node, name, dial, label, before, after (as people read them), text
      def between(before, after)
        return [] unless before

        gone = (before.nodes.keys - after.nodes.keys).map { |id| whole(before.nodes[id], "taken away") }
        come = (after.nodes.keys - before.nodes.keys).map { |id| whole(after.nodes[id], "added") }
        changed = (after.nodes.keys & before.nodes.keys).flat_map { |id| of_node(before.nodes[id], after.nodes[id]) }
        changed + come + gone
      end

      # All that is not as it comes.
      # @return [Array<Hash>] as {between}; of a node with nothing set there is none
      def set(document)
        document
          .nodes
          .values
          .flat_map { |node| of_node(node.with(values: {}, curves: {}, switches: []), node) }
          .reject { |row| row[:dial] && document.nodes[row[:node]].kind.dials[row[:dial]].reference? }
      end

      # @return [String] one line
      def line(before, after)
        return "First print" unless before

        texts = between(before, after).map { |row| row[:text] }
        return "Same settings" if texts.empty?

        (texts.size > 2) ? "#{texts.first(2).join(", ")} and #{texts.size - 2} more" : texts.join(", ")
      end

      def whole(node, word) = {node: node.id, name: node.name, text: "#{node.name} #{word}"}

      def of_node(before, after)
        return [whole(after, "replaced")] unless before.kind.equal?(after.kind)

        switched(before, after) + after.kind.dials.values.filter_map do |dial|
          was, is = before[dial.name], after[dial.name]
          old, new = before.curves[dial.name], after.curves[dial.name]
          next if was == is && old == new

          was_shown, is_shown = shown(dial, was, old), shown(dial, is, new)
          {node: after.id, name: after.name, dial: dial.name, label: dial.label, before: was_shown, after: is_shown,
           text: "#{dial.label} #{was_shown} → #{is_shown}"}
        end
      end

      def switched(before, after)
        was, is = [before, after].map { |node| node.switches & SWITCHED.keys }
        return [] if was == is

        words = is.map { |name| SWITCHED.fetch(name) }
        [whole(after, words.empty? ? "switched on" : words.join(" and "))]
      end

      # @return [String] a dial's value as people read it, or its course over time
      def shown(dial, value, curve)
        return dial.show(value) unless curve
        return [curve.texts].flatten.compact.map { |text| "= #{text}" }.join("; ") if curve.is_a?(Shot::Rule)

        values = curve.keys.map(&:value)
        "#{curve.keys.size} keys, #{dial.show(values.min)} to #{dial.show(values.max)}"
      end
      private_class_method :whole, :of_node, :switched
    end
  end
end
