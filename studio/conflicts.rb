# frozen_string_literal: true

module Vumbral
  module Studio
    # Finds out whether somebody else moved, meanwhile, a dial that an edit is about.
    class Conflicts
      # @param row [Hash] the shot's, as it stands
      # @param head [Integer] the revision that the edits were made on
      # @param by [String, nil] who makes them; what the same one did before is no conflict
      def initialize(shots, row, head:, by:)
        @shots = shots
        @row = row
        @head = head
        @by = by
      end

      # @param edits [Array<Hash>]
      # @raise [Refused] with each dial, what it was set to meanwhile and what was asked for
      def check(edits)
        return if @head == @row[:head] || own?

        found = clashes(edits)
        return if found.empty?

        words =
          found.map { |clash| "#{clash[:label]} of #{clash[:name]} is now #{clash[:theirs]} (yours: #{clash[:yours]})" }
        raise Refused.new("Somebody else changed this meanwhile: #{words.first(3).join("; ")}. Nothing was changed; " \
          "set it again to have yours.", code: "conflict", details: {conflicts: found, head: @row[:head]})
      end

      private

      # Whether everything since was done by the same one.
      def own?
        @by && @row[:moved_by] == @by && @shots.authors_since(@row[:id], @head).all?(@by)
      end

      def clashes(edits)
        then_document, now = base, @shots.document(@row[:id])
        edits.filter_map { |edit| clash(edit, then_document, now) }.uniq { |found| found.values_at(:node, :dial) }
      end

      def base
        kept = @shots.revision(@row[:id], @head)
        return @shots.read(kept[:document]) if kept

        raise Refused.new("The edit was made on step #{@head}, which is not kept any more; load the shot again.",
          code: "conflict", details: {conflicts: [], head: @row[:head]})
      end

      def clash(edit, before, now)
        was, is = [before, now].map { |document| document.nodes[edit["node"].to_s] }
        dial = is && edit["dial"].is_a?(String) && is.kind.dials[edit["dial"].to_sym]
        return unless was && dial
        return if [was, is].map { |node| [node[dial.name], node.curves[dial.name]] }.uniq.size == 1

        theirs = Differences.shown(dial, is[dial.name], is.curves[dial.name])
        yours = edit.key?("value") ? dial.show(dial.check(edit["value"], is.name)) : "another key"
        return if theirs == yours

        {node: is.id, name: is.name, dial: dial.name, label: dial.label, theirs: theirs, yours: yours}
      end
    end
  end
end
