# frozen_string_literal: true

module Vumbral
  module Shot
    # A number among the dials of a shot, as formulas ask for it: node, dial, and which part of a vector or colour.
    Reference = Struct.new(:node, :dial, :part) do
      # @param name [String] "node.dial" or "node.dial.part"; the node by its id or its name, the dial by its name or
      #   its label
      # @return [Reference]
      # @raise [Refused] with what there is
      def self.find(document, name)
        words = name.split(".").map(&:strip)
        *front, part = words if words.size > 2 && words.last.match?(/\A[xyzrgb]\z/)
        *of, dial = front || words
        node = node_of(document, of.join("."), name)
        dial = dial_of(node, dial.to_s, name)
        parts = Rule::PARTS[dial.type]
        return new(node.id, dial.name, part) if parts ? parts.include?(part) : part.nil?

        way = parts ? "say which part: #{parts.map { |letter| "[#{node.id}.#{dial.name}.#{letter}]" }.join(", ")}" : "#{dial.label} has no parts"
        raise Refused.new("[#{name}] does not name one number: #{way}.", code: "bad_formula")
      end

      def self.node_of(document, word, name)
        asked = word.downcase
        document.nodes[asked] || document.nodes.each_value.find { |node| node.name.downcase == asked } ||
          raise(
            Refused.new(
              "[#{name[0, 60]}] names nothing in this shot; write a thing and its dial like " \
                "[#{document.nodes.each_value.first.id}.rate].",
              code: "unknown_node"
            )
          )
      end

      def self.dial_of(node, word, name)
        asked = word.downcase
        found = node.kind.dials[asked.to_sym] || node.kind.dials.each_value.find { |dial| dial.label.downcase == asked }
        return found if found && Rule::TYPES.include?(found.type)

        numbers = node.kind.dials.each_value.select { |dial| Rule::TYPES.include?(dial.type) }.map(&:name)
        raise Refused.new(
          "[#{name[0, 60]}] names no number of #{node.name}; it has: #{numbers.join(", ")}.", code: "unknown_dial"
        )
      end
      private_class_method :node_of, :dial_of

      # As it is written whatever things are called.
      def to_s = [node, dial, part].compact.join(".")

      # @return [Float] at a frame
      def value(document, frame)
        value = document.node(node)[dial, frame]
        value = value[Rule::PARTS.each_value.filter_map { |letters| letters.index(part) }.first] if part
        return value ? 1.0 : 0.0 if [true, false].include?(value)

        value.to_f
      end
    end
  end
end
