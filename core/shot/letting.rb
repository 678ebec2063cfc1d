# frozen_string_literal: true

module Vumbral
  module Shot
    # What becomes of the others when a thing is taken out of a shot.
    module Letting
      module_function

      # @param node [Node]; @return [Document] without it, and without what leads to it
      def go(document, node)
        document =
          document
            .nodes
            .each_value
            .reduce(document) { |at, other| (other.id == node.id) ? at : unruled(at, other, node.id) }
        document = document.nodes.each_value.reduce(document) { |at, other| standing(at, other, node.id) }
        document = document.without(node.id)
        # What was done to its shape or its values goes with it, and so do its maps.
        document.nodes.each_value do |other|
          document = go(document, other) if other.kind.owner && other[other.kind.owner] == node.id
        end
        # What fed from it feeds from nothing now, which preflight will say.
        document.nodes.each_value.reduce(document) { |at, other| released(at, other, node.id) }
      end

      # What went with it stays where it stood.
      def standing(document, other, id)
        return document unless other.kind.dials.key?(:leader) && other[:leader] == id

        document.put(Placement.left_standing(document, other, other.set(:leader, nil)))
      end

      def released(document, other, id)
        other.kind.dials.each_value.reduce(document) do |at, dial|
          next at unless dial.reference? && Array(other[dial.name]).include?(id)

          at.put(at.node(other.id).set(dial.name, dial.without(other[dial.name], id)))
        end
      end

      # Formulas that asked for it leave behind what they came to on the first frame.
      def unruled(document, other, id)
        other.curves.reduce(document) do |at, (name, rule)|
          next at unless rule.is_a?(Rule) && rule.sources.any? { |source| source.node == id }

          node = at.node(other.id)
          value = node.kind.dials[name].check(rule.at(document.first_frame), node.name)
          at.put(
            node.set(name, value).with(
              curves: rule.under ? node.curves.merge(name => rule.under) : node.curves.except(name)
            )
          )
        end
      end
      private_class_method :released, :unruled, :standing
    end
  end
end
