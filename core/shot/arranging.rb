# frozen_string_literal: true

module Vumbral
  module Shot
    # Edits of several things at once.
    #
    #   {"do": "shift", "nodes": [ID], "frame": F, "by": [x, y, z]}: in the world, metres; what goes with one of the
    #     others is taken along by that
    #   {"do": "group", "nodes": [ID], "frame": F, "name": NAME}: a mark in their middle, with which they go from here
    #   on {"do": "duplicate", …}, see {Duplicating}
    module Arranging
      MOST = 500

      class << self
        # @return [Array(Document, String)] as {Edits.apply}
        # @raise [Refused]
        def shift(document, edit)
          nodes = chosen(document, edit)
          by = numbers(edit["by"], "How far things are moved")
          frame = frame(document, edit)
          free = free(document, nodes).select { |node| node.kind.dials.key?(:position) }
          edits = free.flat_map do |node|
            place = Geometry::Hanging.pose(document, node, frame).position.zip(by).map(&:sum)
            Placement.rows(document, {"node" => node.id, "frame" => frame, "position" => place})
          end
          [put(document, edits), "#{counted(free)} moved"]
        end

        # @return [Array(Document, String)] as {Edits.apply}
        # @raise [Refused]
        def group(document, edit)
          nodes = chosen(document, edit)
          frame = frame(document, edit)
          free = free(document, nodes).select { |node| node.kind.dials.key?(:leader) }
          if free.empty?
            raise Refused.new(
              "None of these can go with a mark; choose props, lamps, forces or emitters.", code: "bad_edit"
            )
          end

          places = free.map { |node| Geometry::Hanging.pose(document, node, frame).position }
          middle = places.transpose.map { |all| (all.min + all.max) / 2 }
          id = free_id(document)
          name = edit["name"] || "Group"
          made =
            [
              {
                "do" => "add",
                "kind" => "prop",
                "id" => id,
                "name" => name,
                "dials" => {
                  "shape" => "mark", "position" => middle.map { |c| c.round(4) }
                }
              }
            ] + over(free).map { |leader| {"do" => "set", "node" => id, "dial" => "leader", "value" => leader} } +
            free.map { |node| {"do" => "set", "node" => node.id, "dial" => "leader", "value" => id} }
          [Edits.apply(document, made)[0], "#{counted(free)} grouped as #{name}"]
        end

        # @api private
        # @return [Array<Node>] what an edit is about
        def chosen(document, edit)
          ids = edit["nodes"]
          unless ids.is_a?(Array) && ids.size.between?(1, MOST) && ids.all?(String)
            raise Refused.new(
              "What is done to several things names them as \"nodes\", a list of 1 to #{MOST} ids.",
              code: "bad_edit"
            )
          end

          ids.uniq.map { |id| document.node(id) }.each do |node|
            if node.kind.needed? && node.id == node.kind.name.to_s
              raise Refused.new("#{node.name} belongs to every shot; leave it out.", code: "needed")
            end
          end
        end

        # @api private
        # @return [Array<Node>] those that go with none of the others
        def free(document, nodes) = nodes.reject { |node| (Geometry::Hanging.leaders(document, node) & nodes).any? }

        # @api private
        # @return [Array<Float>] three numbers
        def numbers(value, what)
          if value.is_a?(Array) && value.size == 3 &&
              value.all? { |c| c.is_a?(Numeric) && c.to_f.finite? && c.abs <= 10_000 }
            return value.map(&:to_f)
          end

          raise Refused.new("#{what} is three numbers up to 10000, not #{value.inspect[0, 60]}.", code: "bad_value")
        end

        # @api private
        def frame(document, edit) = edit["frame"].is_a?(Integer) ? edit["frame"] : document.first_frame

        # @api private
        def counted(nodes) = (nodes.size == 1) ? nodes[0].name : "#{nodes.size} things"

        private

        # What they all go with, if it is one.
        def over(nodes) = nodes.map { |node| node[:leader] }.uniq.then { |all| (all.size == 1) ? all.compact : [] }

        def put(document, rows)
          rows.reduce(document) do |at, row|
            Edits.apply(at, [row.merge("do" => at.node(row["node"]).keyed(row["dial"].to_sym) ? "key" : "set")])[0]
          end
        end

        def free_id(document) = (1..).lazy.map { |n| "group-#{n}" }.find { |id| !document.nodes.key?(id) }
      end
    end
  end
end
