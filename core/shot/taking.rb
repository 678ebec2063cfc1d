# frozen_string_literal: true

module Vumbral
  module Shot
    # Some of what another state of a shot has, taken from there.
    module Taking
      module_function

      # @param document [Document] stays as it is
      # @param from [Document] the other state
      # @param rows [Array<Array(String, String)>] ids of nodes, each with the name of a dial; without a dial, whether
      #   the node is there and how it is switched
      # @return [Document]
      # @raise [Refused] where neither has it, or what is taken would lead to nothing
      def take(document, from, rows)
        taken = rows.sort_by.with_index { |(_, dial), n| [dial ? 1 : 0, n] }.reduce(document) do |at, (id, dial)|
          dial ? dial_of(at, from, id, dial) : whole(at, from, id)
        end
        rows.map(&:first).uniq.each { |id| taken.nodes[id]&.then { |node| check(taken, from, node) } }
        taken
      end

      def whole(document, from, id)
        there = from.nodes[id] or return Letting.go(document, document.node(id))
        here = document.nodes[id]
        document.put(here&.kind.equal?(there.kind) ? here.with(switches: there.switches) : there)
      end

      def dial_of(document, from, id, name)
        here, there = document.node(id), from.node(id)
        unless here.kind.equal?(there.kind)
          raise Refused.new("#{here.name} is another kind of thing by now; bring it back as a whole.", code: "bad_edit")
        end

        dial = here.kind.dial(name, here.name).name
        values, curves = %i[values curves].map do |what|
          mine, theirs = here.public_send(what).except(dial), there.public_send(what)
          theirs.key?(dial) ? mine.merge(dial => theirs[dial]) : mine
        end
        document.put(here.with(values: values, curves: curves))
      end

      # What it leads to has to be there.
      def check(document, from, node)
        referred = node.kind.dials.each_value.select(&:reference?).flat_map { |dial| Array(node[dial.name]) }
        asked = node.curves.each_value.grep(Rule).flat_map { |rule| rule.sources.map(&:node) }
        gone = (referred + asked).compact.find { |id| !document.nodes.key?(id) } or return

        raise Refused.new(
          "#{node.name} goes by #{from.nodes[gone]&.name || gone}, which the shot does not have now; bring " \
            "that back too.",
          code: "bad_edit"
        )
      end
      private_class_method :whole, :dial_of, :check
    end
  end
end
