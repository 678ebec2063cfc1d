# frozen_string_literal: true

module Vumbral
  module CLI
    # A shot as text: every node with what differs from the defaults.
    class Listing
      def initialize(document)
        @document = document
      end

      # @return [Array<String>]
      def lines
        ["#{@document.name}, frames #{@document.first_frame} to #{@document.last_frame}"] +
          @document.nodes.values.flat_map { |node| of(node) }
      end

      private

      def of(node)
        ["", "#{node.id}  #{node.name} (#{node.kind.label.downcase})"] + node.kind.dials.values.filter_map do |dial|
          curve = node.curves[dial.name]
          next "  #{dial.name} = #{Studio::Differences.shown(dial, nil, curve)}" if curve.is_a?(Shot::Rule)
          if curve
            next "  #{dial.name} = #{curve.keys.map { |key| "#{key.frame}: #{dial.show(key.value)}" }.join(", ")}"
          end

          "  #{dial.name} = #{dial.show(node[dial.name])}" if node.values.key?(dial.name)
        end
      end
    end
  end
end
