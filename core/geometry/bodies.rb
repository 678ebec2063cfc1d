# frozen_string_literal: true

module Vumbral
  module Geometry
    # What a prop is at a frame, as plain data: bodies with their shape and where each stands, at the
    # frame before (`from`) and at the frame (`to`). A whole prop is one body; a broken one is many.
    module Bodies
      module_function

      # @param node [Shot::Node] a prop; @param frame [Numeric]
      # @return [Array<Hash>] "outline", "from", "to"
      def of(node, frame)
        Breaking.broken?(node, frame) ? Breaking.bodies(node, frame) : [whole(node, frame)]
      end

      def whole(node, frame) = {"outline" => Shapes.outline(node), "from" => pose(node, frame - 1), "to" => pose(node, frame)}

      # @return [Hash] position, turn, scale at a frame
      def pose(node, frame) = %i[position turn scale].to_h { |dial| [dial.to_s, node[dial, frame]] }

      def moves?(body) = body["from"] != body["to"]
    end
  end
end
