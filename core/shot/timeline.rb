# frozen_string_literal: true

module Vumbral
  module Shot
    # What acts in time, row by row: how strong each thing is at each frame.
    class Timeline
      TINTS = {source: "smoke", chamber: "speed", force: "speed", emitter: "heat", sun: "light", lamp: "light",
               look: "heat", prop: "fog"}.freeze

      def initialize(document)
        @document = document
        @frames = (document.first_frame..document.last_frame).to_a
      end

      # @return [Array<Hash>] node, dial, name, tint, values (one a frame), peak, keys
      def rows
        @document.nodes.values.flat_map do |node|
          dials = node.kind.dials.values.select { |dial| dial.keyed && (node.curves.key?(dial.name) || (%i[source force].include?(node.kind.name) && dial.name == :strength)) }
          dials.map { |dial| row(node, dial) }
        end
      end

      private

      def value(node, dial, frame)
        return node[dial.name, frame] unless dial.name == :strength
        return Timing.strength(node, frame) if node.kind.name == :source

        (node.kind.name == :force && !Timing.on?(node, frame)) ? 0.0 : node[dial.name, frame]
      end

      # How thick the ribbon is: the number itself, or how far a place has gone from its first.
      def thickness(value, first)
        case value
        when Array then Math.sqrt(value.zip(first).sum { |a, b| (a - b)**2 }).round(5)
        when true, false then value ? 1.0 : 0.0
        else value.round(5)
        end
      end

      def row(node, dial)
        values = @frames.map { |frame| value(node, dial, frame) }
        name = (dial.name == :strength) ? node.name : "#{node.name}: #{dial.label.downcase}"
        thick = values.map { |value| thickness(value, values.first) }
        {node: node.id, dial: dial.name, name: name, tint: TINTS.fetch(node.kind.name, "liquid"), values: thick, raw: values.first.is_a?(Numeric) ? nil : values,
         peak: [thick.map(&:abs).max, 1e-9].max, off: !@document.on?(node), keys: node.curves[dial.name].to_a}
      end
    end
  end
end
