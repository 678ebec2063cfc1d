# frozen_string_literal: true

module Vumbral
  module Preflight
    # Something that would go wrong, said before it does: a code for programs, the node and the dial that
    # it is about (or nil), a sentence, and what would mend it: {label:, edits:}, or nil.
    Finding = Struct.new(:code, :node, :dial, :text, :remedy, keyword_init: true) do
      # @return [Hash] {label:, edits:} that sets dials of a node
      def self.remedy(label, node, dials)
        {
          label: label,
          edits: dials.map { |dial, value| {"do" => "set", "node" => node, "dial" => dial.to_s, "value" => value} }
        }
      end
    end
  end
end
