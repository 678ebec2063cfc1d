# frozen_string_literal: true

module Vumbral
  module Shot
    # Makes more of things, each further one off the one before in place, turn, size, time and in any numbers of theirs.
    # What belongs to them is made again with them, and what leads from one to another leads to its like.
    #
    #   {"do": "duplicate", "nodes": [ID], "times": N, "by": [x, y, z], "turn": [x, y, z], "size": FACTOR,
    #    "frames": F, "dials": [{"node": ID, "dial": NAME, "by": V}], "feeds": true}
    #
    # `by` is in the world, metres; `frames` later; `feeds` takes along what feeds from them.
    class Duplicating
      FEEDS = %i[source inflow emitter kick].freeze
      private_constant :FEEDS

      # @param document [Document]; @param edit [Hash]
      # @raise [Refused]
      def initialize(document, edit)
        @document = document
        @edit = edit
        @chosen = with_feeds(Arranging.chosen(document, edit).then { |nodes| nodes | grouped(nodes) })
        @all = @chosen.flat_map { |node| [node, *under(node)] }.uniq
        @free = Arranging.free(document, @all)
        @times = whole("times", 1, 1..Arranging::MOST)
        @later = whole("frames", 0, -100_000..100_000)
        @by, @turn =
          %w[by turn].map do |name|
            Arranging.numbers(
              edit.fetch(name, [0.0] * 3), "The step of copies in #{{"by" => "place", "turn" => "turn"}[name]}"
            )
          end
        @size = size
      end

      # @return [Array(Document, String)] as {Edits.apply}
      def call
        if @document.nodes.size + @times * @all.size > Document::MOST_NODES
          raise Refused.new(
            "That would make #{@times * @all.size} things, and a shot holds #{Document::MOST_NODES} at most; " \
              "take fewer copies.",
            code: "too_many"
          )
        end

        made = (1..@times).reduce(@document) { |document, n| copy(document, n) }
        [made, "#{Arranging.counted(@chosen)} duplicated#{" #{@times} times" if @times > 1}"]
      end

      private

      # A mark is made again with all that goes with it.
      def grouped(nodes)
        marks = nodes.select { |node| Groups.mark?(node) }
        @document.nodes.values.select { |node| (Groups.over(@document, node) & marks).any? }
      end

      def with_feeds(nodes)
        return nodes unless @edit["feeds"] == true

        ids = nodes.map(&:id)
        nodes | @document.nodes.values.select { |node| FEEDS.include?(node.kind.name) && ids.include?(node[:prop]) }
      end

      # What belongs to a thing, and what belongs to that.
      def under(node)
        @document
          .nodes
          .values
          .select { |other| other.kind.owner && other[other.kind.owner] == node.id }
          .flat_map { |other| [other, *under(other)] }
      end

      def whole(name, usual, range)
        value = @edit.fetch(name, usual)
        return value if value.is_a?(Integer) && range.cover?(value)

        raise Refused.new(
          "Of copies, #{name} is a whole number from #{range.begin} to #{range.end}, not " \
            "#{value.inspect[0, 40]}.",
          code: "bad_value"
        )
      end

      def size
        value = @edit.fetch("size", 1.0)
        return value.to_f if value.is_a?(Numeric) && value.between?(0.01, 100)

        raise Refused.new(
          "Each copy is 0.01 to 100 times as large as the one before, not #{value.inspect[0, 40]}.",
          code: "bad_value"
        )
      end

      # The nth copy of all.
      def copy(document, n)
        ids = @all.each_with_object({}) { |node, found| found[node.id] = free_id(document, node.kind, found.values) }
        document = @all.reduce(document) { |at, node| at.put(twin(node, ids, n)) }
        unless @later.zero?
          document =
            Retiming.new(
              document, {"rows" => ids.values.map { |id| {"node" => id} }, "by" => n * @later, "beyond_shot" => true}
            ).document
        end
        document = steps(document, ids, n)
        ids.each_value { |id| Edits.check_references(document, document.node(id)) }
        document
      end

      def twin(node, ids, n)
        values = node.values.to_h { |dial, value| [dial, node.kind.dials[dial].reference? ? led(value, ids) : value] }
        name = (@times == 1) ? "#{node.name} copy" : "#{node.name} #{n + 1}"
        made = Node.new(ids[node.id], node.kind, name[0, 80], values, node.curves, node.switches - %i[only locked])
        @free.include?(node) ? placed(node, made, n) : made
      end

      def led(value, ids) = value.is_a?(Array) ? value.map { |id| ids.fetch(id, id) } : ids.fetch(value, value)

      # Off its original by n steps.
      def placed(node, made, n)
        back = Geometry::Hanging.ground(@document, node, @document.first_frame).inverse
        way = back.apply(@by).zip(back.apply([0.0] * 3)).map { |a, b| n * (a - b) }
        made =
          Placement::PLACES.reduce(made) do |at, dial|
            Placement.carried(at, dial, ->(place) { place.zip(way).map(&:sum) })
          end
        made = Placement.carried(made, :turn, ->(turn) { turn.zip(@turn).map { |a, b| a + n * b } })
        Placement.carried(
          made, :scale, ->(scale) { scale.map { |c| c * @size**n } }, ->(slope) { slope.map { |c| c * @size**n } }
        )
      end

      # What differs from copy to copy besides.
      def steps(document, ids, n)
        rows = @edit.fetch("dials", [])
        unless rows.is_a?(Array) && rows.all?(Hash)
          raise Refused.new("What differs from copy to copy comes as a list of node, dial and by.", code: "bad_edit")
        end

        rows.reduce(document) do |at, row|
          node =
            at.node(
              ids.fetch(row["node"]) do
                raise Refused.new("#{row["node"].inspect[0, 60]} is not among what is duplicated.", code: "bad_edit")
              end
            )
          dial, by = node.kind.dial(row["dial"].to_s, node.name), row["by"]
          unless %i[number whole].include?(dial.type) && by.is_a?(Numeric) && by.to_f.finite?
            raise Refused.new(
              "#{dial.label} of #{node.name} is no number that could differ from copy to copy by " \
                "#{by.inspect[0, 40]}.",
              code: "bad_value"
            )
          end
          at.put(
            Placement.carried(
              node, dial.name, ->(value) { (dial.type == :whole) ? (value + n * by).round : value + n * by }
            )
          )
        end
      end

      def free_id(document, kind, taken) =
        (1..).lazy.map { |n| "#{kind.name}-#{n}" }.find { |id| !document.nodes.key?(id) && !taken.include?(id) }
    end
  end
end
