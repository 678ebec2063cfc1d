# frozen_string_literal: true

module Vumbral
  module Geometry
    # What props are at a frame, as plain data: bodies with their shape and where each stands, at the
    # frame before (`from`) and at the frame (`to`). A broken prop has its settings as `broken`;
    # {.parts} makes pieces of it.
    module Bodies
      module_function

      # @param document [Shot::Document]; @param node [Shot::Node] a prop; @param frame [Numeric]
      # @return [Hash] "outline", "from", "to" and perhaps "broken"
      def of(document, node, frame)
        from, to = pose(node, frame - 1, document), pose(node, frame, document)
        outline, from, to = shaped(document, node, frame, from, to)
        body = {"outline" => outline, "from" => from, "to" => (Hanging.leader(document, node) || Hanging.aim(document, node) || node[:to_camera]) ? to.merge("turn" => Transform.near(from["turn"], to["turn"])) : to}
        return body unless Breaking.broken?(node, frame)

        body.merge("broken" => Breaking.settings(document, node, frame, box(document)))
      end

      # What is done to a shape may be another thing at both ends of a frame; then it is as it was before at 0 and as it
      # is now at 1.
      def shaped(document, node, frame, from, to)
        now = Shapes.outline(node, document: document, frame: frame)
        return [now, from, to] unless document.operations(node.id).any? { |operation| Operations.changes?(operation) }

        was = Shapes.outline(node, document: document, frame: frame - 1)
        return [now, from, to] if was["operations"] == now["operations"]

        [
          now.merge("was" => was["operations"], "ends" => [from["at"], to["at"]]), from.merge("at" => 0.0),
          to.merge("at" => 1.0)
        ]
      end

      # @param bodies [Array<Hash>]; @param meshes [#mesh] gives the mesh of a digest
      # @return [Array<Hash>] the same with broken ones in pieces
      def parts(bodies, meshes) = bodies.flat_map { |body| body["broken"] ? Breaking.parts(body, meshes) : [body] }

      # @return [Hash] position, turn, scale at a frame in the world, and how long it has moved by itself
      def pose(node, frame, document)
        Hanging.pose(document, node, frame).to_data.merge(Shapes.plays?(node) ? {"at" => at(node, frame)} : {})
      end

      # @return [Float] frames that a prop's own motion has gone on
      def at(node, frame) = frame ? [(frame - node[:plays_from]) * node[:plays_speed], 0.0].max : 0.0

      # @return [Boolean] whether it moves from frame to frame, by itself or with what it goes with
      def goes?(document, node)
        return true if [node, *Hanging.leaders(document, node)].any? { |one| one.kind.name == :prop && one[:rests] }
        return true if node.kind.name == :prop && node[:to_camera] && document.the(:camera).curves.key?(:position)

        [node, Hanging.aim(document, node)].compact
          .flat_map { |one| [one, *Hanging.leaders(document, one)] }
          .any? { |one| Shake.shakes?(one) || %i[position turn scale].any? { |dial| one.curves.key?(dial) } }
      end

      # @return [Boolean] whether it is not the same at all frames
      def changes?(node) =
        node.curves.any? || Shake.shakes?(node) || Breaking.breaks?(node) ||
          (node.kind.name == :prop && (node[:rests] || Shapes.plays?(node) || %w[sculpt liquid].include?(node[:shape])))

      def moves?(body) = body["from"] != body["to"]

      # Lowest and highest corner of what holds all chambers.
      def box(document)
        corners = [document.the(:chamber), *document.of(:annex)].flat_map do |chamber|
          (x, y, z), (width, height, depth) = Hanging.stood(document, chamber), chamber[:size]
          [[x - width / 2, y, z - depth / 2], [x + width / 2, y + height, z + depth / 2]]
        end
        [corners.transpose.map(&:min), corners.transpose.map(&:max)]
      end
      private_class_method :box, :shaped
    end
  end
end
