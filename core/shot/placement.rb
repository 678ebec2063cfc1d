# frozen_string_literal: true

module Vumbral
  module Shot
    # Edits that have to do with where things stand among each other.
    module Placement
      STILL = [[0.0] * 3, [1.0] * 3].freeze
      private_constant :STILL

      module_function

      # @raise [Refused] where a thing would go with itself, or be joined with itself, over others
      def check_circles(document, node)
        joined(document, node) if node.kind.name == :operation
        followed(document, node) if node.kind.name == :front
        return unless Geometry::Hanging.leaders(document, node).include?(node)

        raise Refused.new("#{node.name} cannot go with #{document.node(node[:leader]).name}, for that goes with it already; choose another.", code: "circle")
      end

      # What goes with another prop from here on stands where it stood.
      # @param changed [Node] with its new leader; @return [Node]
      def left_standing(document, node, changed)
        after = document.put(changed)
        return changed if Geometry::Hanging.leaders(after, changed).include?(changed)

        frame = document.first_frame
        if node.kind.dials.key?(:scale)
          inside = Geometry::Hanging.inside(after, changed, Geometry::Hanging.pose(document, node, frame), frame)
          return %i[position turn scale].reduce(changed) { |at, dial| put(at, dial, inside[dial]) }
        end

        # Of what has no turn or size, each of its places by itself.
        %i[position target line_end].select { |dial| node.kind.dials.key?(dial) }.reduce(changed) do |at, dial|
          world = Geometry::Pose.new(Geometry::Hanging.point(document, node, dial, frame), *STILL)
          put(at, dial, Geometry::Hanging.inside(after, changed, world, frame).position)
        end
      end

      # A place of the world as edits of a prop's own dials.
      # @param edit [Hash] "node", perhaps "frame", and of "position", "turn" and "scale" what is wanted
      # @return [Array<Hash>] node, dial, frame and value of each
      # @raise [Refused]
      def rows(document, edit)
        node = document.node(edit["node"])
        frame = edit["frame"].is_a?(Integer) ? edit["frame"] : document.first_frame
        asked = %w[position turn scale].select { |dial| edit.key?(dial) }
        world = Geometry::Hanging.pose(document, node, frame)
        asked.each { |dial| world[dial] = node.kind.dial(dial, node.name).check(edit[dial], node.name) }
        inside = Geometry::Hanging.inside(document, node, world, frame)
        asked.map { |dial| {"node" => node.id, "dial" => dial, "frame" => frame, "value" => inside[dial].map { |c| c.round(6) }} }
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
            raise Refused.new("#{seen[0].name} cannot run after #{document.node(seen[0][:after]).name}, for that runs after it already; choose another.", code: "circle")
          end
          seen << node
        end
      end

      # No prop is joined with one that is joined with it.
      def joined(document, node)
        others = document.all_of(:operation).select { |other| Geometry::Operations.joins?(other) && other[:with] }.group_by { |other| other[:prop] }
        waiting, seen = Geometry::Operations.joins?(node) ? [node[:with]].compact : [], []
        while (prop = waiting.pop)
          if prop == node[:prop]
            raise Refused.new("#{node.name} would join #{document.node(prop).name} with a prop that is joined with it already; choose another.", code: "circle")
          end
          next if seen.include?(prop)

          seen << prop
          waiting.concat(others.fetch(prop, []).map { |other| other[:with] })
        end
      end
      private_class_method :put, :joined, :followed
    end
  end
end
