# frozen_string_literal: true

module Vumbral
  module Shot
    # Moves many times of a shot at once: keys, and the frames on which things begin and end.
    #
    #   {"do": "retime", "rows": [{"node": ID, "dial": NAME}], "by": 12}, without dial all of the node
    #   {"do": "retime", "keys": [{"node": ID, "dial": NAME, "frame": F}], "stretch": 2.0, "about": 1}
    #
    # `by` frames later; `stretch` times as far from the frame `about`; only what lies at or after `from`; each
    # row `step` frames later than the one before, and up to `loose` frames off at random, after `seed`.
    class Retiming
      # @param edit [Hash]
      def initialize(document, edit)
        @document = document
        @edit = edit
        @by, @step, @loose = %w[by step loose].map { |name| number(name, 0.0, -1e6..1e6) }
        @stretch = number("stretch", 1.0, 0.001..1000.0)
        @about = number("about", document.first_frame, -1e6..1e6)
        @from = edit.key?("from") ? number("from", 0.0, -1e6..1e6) : nil
        @seed = number("seed", 1, 0..1e6).to_i
        @free = edit["beyond_shot"] == true
      end

      # @return [Document]
      # @raise [Refused] where keys would come to lie on each other, or outside the shot
      def document
        return keys(list("keys")) if @edit["keys"]

        list("rows").each_with_index.reduce(@document) do |document, (row, n)|
          node = document.node(row["node"])
          dials = row["dial"] ? [node.kind.dial(row["dial"], node.name)] : node.kind.dials.values
          later = n * @step + loose(n)
          dials.reduce(document) do |at, dial|
            dial.time ? span(at, row["node"], dial, later) : curve(at, row["node"], dial, later)
          end
        end
      end

      private

      def list(name)
        rows = @edit[name]
        return rows if rows.is_a?(Array) && rows.any? && rows.all?(Hash)

        raise Refused.new("What is to be moved in time comes as a list of rows or of keys.", code: "bad_edit")
      end

      def number(name, usual, range)
        value = @edit.fetch(name, usual)
        return value.to_f if value.is_a?(Numeric) && range.cover?(value)

        raise Refused.new(
          "To move things in time, #{name} is a number from #{range.begin} to #{range.end}, not " \
            "#{value.inspect[0, 40]}.",
          code: "bad_value"
        )
      end

      def loose(n) = @loose.zero? ? 0.0 : Random.new(@seed * 7919 + n).rand(-1.0..1.0) * @loose

      def moved(frame, later) = (@about + (frame - @about) * @stretch + @by + later).round

      def touched?(frame) = @from.nil? || frame >= @from

      def keys(rows)
        rows
          .group_by { |row| [row["node"], row["dial"]] }
          .each_with_index
          .reduce(@document) do |document, (((id, name), keys), n)|
            node = document.node(id)
            dial = node.kind.dial(name.to_s, node.name)
            curve(document, id, dial, n * @step + loose(n), keys.map { |key| key["frame"] })
          end
      end

      def curve(document, id, dial, later, only = nil)
        node = document.node(id)
        curve = node.keyed(dial.name) or return document
        keys = curve.keys.map do |key|
          next key unless only ? only.include?(key.frame) : touched?(key.frame)

          to = moved(key.frame, later)
          KeyEdits.inside(document, dial, to, node.name) unless @free || to == key.frame
          Curve::Key.new(to, key.value, key.ease, slower(key.arrive), slower(key.leave))
        end
        apart(curve.keys, keys, dial, node)
        KeyEdits.put(document, node, dial, curve.with(keys))
      end

      # The same rise over more frames is less steep.
      def slower(slope) = slope.is_a?(Array) ? slope.map { |part| slower(part) } : slope && slope / @stretch

      def apart(before, after, dial, node)
        frame = after.map(&:frame).tally.find { |_, count| count > 1 }&.first or return
        both = before.zip(after).select { |_, key| key.frame == frame }.map { |key, _| key.frame }
        raise Refused.new(
          "The keys of #{dial.label} of #{node.name} at frames #{both.join(" and ")} would both come to frame " \
            "#{frame}; move or stretch them otherwise.",
          code: "taken"
        )
      end

      def span(document, id, dial, later)
        node = document.node(id)
        value = node[dial.name]
        if dial.time == :length
          return document if value.zero?

          return document.put(node.set(dial.name, dial.check(value * @stretch, node.name)))
        end
        # Where something lasts to the end, the end has no number; what stands at its default on its own is not timed.
        return document if (dial.time == :to && value.zero?) || !dial.counts?(node) || !touched?(value)

        document.put(node.set(dial.name, dial.check(moved(value, later), node.name)))
      end
    end
  end
end
