# frozen_string_literal: true

module Vumbral
  module Studio
    # How strong things are at each place of a prop, for the view to draw it there.
    class Strengths
      # So a front is seen: bright at its edge, fainter where it is older.
      SEEN = {"name" => "Front", "what" => "front", "how" => "plus", "opacity" => 1.0, "inverted" => false,
              "rise" => 0.0, "lasts" => 0.04, "fall" => 0.9}.freeze
      CROSSED = SEEN.merge("lasts" => 0.0, "opacity" => 0.35, "how" => "most").freeze

      def initialize(workshop)
        @workshop = workshop
      end

      # @param node_id [String] a front, a map, or what maps belong to
      # @param prop_id [String] the prop that it is drawn on
      # @return [String] a byte for each corner of each triangle of the prop; empty where there is nothing to be drawn
      # @raise [Refused]
      def bytes(shot_id, node_id, frame, prop_id)
        document = @workshop.shots.document(shot_id)
        node, prop = document.node(node_id), document.node(prop_id)
        rows = rows(document, node, frame)
        return "".b if rows.empty? || prop.kind.name != :prop || Geometry::Breaking.broken?(prop, frame)

        outline = Geometry::Shapes.outline(prop, document: document, frame: frame)
        pose = Geometry::Pose.of(Geometry::Bodies.pose(prop, frame, document))
        mesh = Geometry::Shapes.build(outline, @workshop.assets, pose.at)
        values = Maps::Layers.new(rows, @workshop.assets).at(mesh, outline, pose.transform)
        Kernel::Buffer.new(:u8, *values.shape).tap { |out| Maps::LayerKernels.bytes(out, values) }.bytes
      end

      private

      def rows(document, node, frame)
        case node.kind.name
        when :front
          Geometry::Front
            .row(document, node, frame)
            .then { |front| front ? [SEEN, CROSSED].map { |row| row.merge("front" => front) } : [] }
        when :map
          Geometry::MapRows.of(document, node, frame, only: node)
        else
          Geometry::MapRows.of(document, node, frame)
        end
      end
    end
  end
end
