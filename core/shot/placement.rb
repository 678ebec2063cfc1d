# frozen_string_literal: true

module Vumbral
  module Shot
    # Edits that have to do with where things stand among each other.
    module Placement
      # Dials that are places in the world, or in that of what their thing goes with.
      PLACES = %i[position target line_end].freeze
      STILL = [[0.0] * 3, [1.0] * 3].freeze
      private_constant :STILL

      module_function

      # @raise [Refused] where a thing would go with itself, or be joined with itself, over others
      def check_circles(document, node)
        joined(document, node) if node.kind.name == :operation
        followed(document, node) if node.kind.name == :front
        return unless Geometry::Hanging.leaders(document, node).include?(node)

        raise Refused.new(
          "#{node.name} cannot go with #{document.node(node[:leader]).name}, for that goes with it already; " \
            "choose another.",
          code: "circle"
        )
      end

      # What goes with another prop from here on stands where it stood.
      # @param changed [Node] with its new leader; @return [Node]
      def left_standing(document, node, changed)
        after = document.put(changed)
        return changed if Geometry::Hanging.leaders(after, changed).include?(changed)

        frame = document.first_frame
        changed = along(document, node, after, changed, frame)
        if node.kind.dials.key?(:scale)
          inside = Geometry::Hanging.inside(after, changed, Geometry::Hanging.pose(document, node, frame), frame)
          return %i[position turn scale].reduce(changed) { |at, dial| put(at, dial, inside[dial]) }
        end

        # Of what has no turn or size, each of its places by itself.
        PLACES.select { |dial| node.kind.dials.key?(dial) }.reduce(changed) do |at, dial|
          world = Geometry::Pose.new(Geometry::Hanging.point(document, node, dial, frame), *STILL)
          put(at, dial, Geometry::Hanging.inside(after, changed, world, frame).position)
        end
      end

      # A dial's own value and all of its keys, made into others. Of formulas nothing changes.
      # @param way [Proc] a value to another; @param slope [Proc] how steeply it goes by, a frame, to that
      # @return [Node]
      def carried(node, dial, way, slope = ->(rise) { rise })
        return node unless node.kind.dials.key?(dial)

        checked = ->(value) { node.kind.dials[dial].check(rounded(way.call(value)), node.name) }
        changed = node.set(dial, checked.call(node.plain(dial)))
        curve = node.curves[dial]
        return changed unless curve.is_a?(Curve)

        keys =
          curve.keys.map do |key|
            Curve::Key.new(
              key.frame, checked.call(key.value), key.ease,
              *[key.arrive, key.leave].map { |rise| rise && slope.call(rise) }
            )
          end
        changed.with(curves: changed.curves.merge(dial => curve.with(keys)))
      end

      # A place of the world as edits of a prop's own dials.
      # @param edit [Hash] "node", perhaps "frame", and of "position", "turn", "scale" and "target" what is wanted
      # @return [Array<Hash>] node, dial, frame and value of each
      # @raise [Refused]
      def rows(document, edit)
        node = document.node(edit["node"])
        frame = edit["frame"].is_a?(Integer) ? edit["frame"] : document.first_frame
        asked = %w[position turn scale].select { |dial| edit.key?(dial) }
        world = Geometry::Hanging.pose(document, node, frame)
        asked.each { |dial| world[dial] = node.kind.dial(dial, node.name).check(edit[dial], node.name) }
        inside = Geometry::Hanging.inside(document, node, world, frame)
        found = asked.to_h { |dial| [dial, inside[dial]] }
        if edit.key?("target")
          found["target"] = Geometry::Hanging
            .ground(document, node, frame)
            .inverse
            .apply(node.kind.dial("target", node.name).check(edit["target"], node.name))
        end
        found.map do |dial, value|
          {"node" => node.id, "dial" => dial, "frame" => frame, "value" => value.map { |c| c.round(6) }}
        end
      end

      # Keys are led along from what it went with to what it goes with now, as these stand at a frame.
      def along(document, node, after, changed, frame)
        lead = Geometry::Hanging.ground(after, changed, frame).inverse * Geometry::Hanging.ground(document, node, frame)
        nothing = lead.apply([0.0] * 3)
        moved = PLACES.select { |dial| node.curves.key?(dial) }.reduce(changed) do |at, dial|
          carried(
            at, dial, ->(place) { lead.apply(place) }, ->(rise) { lead.apply(rise).zip(nothing).map { |a, b| a - b } }
          )
        end
        size = Math.sqrt(lead.rows.sum { |row| row[0]**2 })
        grown = ->(scale) { scale.map { |c| c * size } }
        moved = carried(moved, :scale, grown, grown) if node.curves.key?(:scale) && (size - 1.0).abs > 1e-9
        turned(moved, node, lead, size)
      end

      # A course of turns is another one where what it goes with is turned.
      def turned(moved, node, lead, size)
        rigid = Geometry::Transform.new(lead.rows.map { |row| row.first(3).map { |c| c / size } + [0.0] })
        if !node.curves.key?(:turn) ||
            rigid
                .rows
                .zip(Geometry::Transform.identity.rows)
                .all? { |a, b| a.zip(b).all? { |x, y| (x - y).abs < 1e-9 } }
          return moved
        end

        last = nil
        carried(
          moved,
          :turn,
          ->(turn) do
            last = Geometry::Transform.near(last || [0.0] * 3, (rigid * Geometry::Transform.place(turn: turn)).angles)
          end,
          ->(_) {}
        )
      end

      def rounded(value) =
        case value
        when Array
          value.map { |c| c.round(6) }
        when Float
          value.round(9)
        else
          value
        end

      def put(node, dial, value)
        return node if node.curves.key?(dial)

        node.set(dial, node.kind.dials[dial].check(value.map { |c| c.round(6) }, node.name))
      end

      # No front runs after one that runs after it.
      def followed(document, node)
        seen = [node]
        while (node = document.nodes[node[:after]])
          if seen.include?(node)
            raise Refused.new(
              "#{seen[0].name} cannot run after #{document.node(seen[0][:after]).name}, for that runs after " \
                "it already; choose another.",
              code: "circle"
            )
          end
          seen << node
        end
      end

      # No prop is joined with one that is joined with it.
      def joined(document, node)
        others =
          document
            .all_of(:operation)
            .select { |other| Geometry::Operations.joined?(other) && other[:with] }
            .group_by { |other| other[:prop] }
        waiting, seen = Geometry::Operations.joined?(node) ? [node[:with]].compact : [], []
        while (prop = waiting.pop)
          if prop == node[:prop]
            raise Refused.new(
              "#{node.name} would join #{document.node(prop).name} with a prop that is joined with it " \
                "already; choose another.",
              code: "circle"
            )
          end
          next if seen.include?(prop)

          seen << prop
          waiting.concat(others.fetch(prop, []).map { |other| other[:with] })
        end
      end
      private_class_method :put, :joined, :followed, :along, :turned, :rounded
    end
  end
end
