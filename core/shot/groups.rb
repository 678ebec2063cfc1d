# frozen_string_literal: true

module Vumbral
  module Shot
    # A mark is a group of all that goes with it, be it over others: where it is hidden, switched off or alone, they are
    # too.
    module Groups
      module_function

      # @param document [Document]; @param node [Node]
      # @return [Array<Node>] the marks that it goes with
      def over(document, node)
        return [] if node.switches.include?(Node::BARE)

        Geometry::Hanging.leaders(document, node).select { |leader| mark?(leader) }
      end

      # @return [Boolean] whether a node is a point without a body
      def mark?(node) = node.kind.name == :prop && node[:shape] == "mark"

      # @return [Boolean] whether a prop is seen at a frame, as far as its own switch and its groups' say
      def shown?(document, prop, frame) =
        prop[:shown, frame] && over(document, prop).all? { |mark| mark[:shown, frame] }

      # @return [Boolean] whether that may be another answer at another frame
      def comes_and_goes?(document, prop) = [prop, *over(document, prop)].any? { |one| one.curves.key?(:shown) }

      # @param all [Array<Node>] of one kind
      # @return [Array<Node>] those that count
      def on(document, all)
        if all.any?(&:only?)
          all = all.select { |node| node.only? || over(document, node).any?(&:only?) }
        end
        all.reject { |node| node.off? || over(document, node).any?(&:off?) }
      end
    end
  end
end
