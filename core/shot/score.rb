# frozen_string_literal: true

module Vumbral
  module Shot
    # What acts in time, row by row: how strong each thing is at each frame.
    class Score
      TINTS = {source: "smoke", chamber: "speed", sun: "light", lamp: "light"}.freeze

      def initialize(document)
        @document = document
        @frames = (document.first_frame..document.last_frame).to_a
      end

      # @return [Array<Hash>] node, dial, name, tint, values (one a frame), peak, notches
      def rows
        @document.nodes.values.flat_map do |node|
          dials = node.kind.dials.values.select { |dial| dial.keyed && (node.notches.key?(dial.name) || (node.kind.name == :source && dial.name == :strength)) }
          dials.map { |dial| row(node, dial) }
        end
      end

      private

      def row(node, dial)
        source = node.kind.name == :source
        values = @frames.map { |frame| (source && dial.name == :strength) ? Gas::Sources.strength(node, frame) : node[dial.name, frame] }
        name = (dial.name == :strength) ? node.name : "#{node.name}: #{dial.label.downcase}"
        {node: node.id, dial: dial.name, name: name, tint: TINTS.fetch(node.kind.name, "liquid"), values: values.map { |value| value.round(5) },
         peak: [values.map(&:abs).max, 1e-9].max, notches: node.notches[dial.name].to_a}
      end
    end
  end
end
