# frozen_string_literal: true

module Vumbral
  module Geometry
    # What is done to a prop's shape, one thing after the other.
    module Operations
      ALL = {"subdivide" => Subdivide, "smooth" => Smooth, "pierce" => Pierce, "thicken" => Thicken, "close" => Close, "remesh" => Remesh,
             "combine" => Combine, "displace" => Displace, "bend" => Bend, "twist" => Bend, "cage" => Cage,
             "lay" => Lay, "recentre" => Recentre, "copies" => Copies}.freeze
      # No more triangles may come of them.
      MOST_TRIANGLES = 2_000_000

      module_function

      # @param document [Shot::Document]; @param prop [Shot::Node]; @param frame [Numeric, nil]
      # @param path [Array<String>] props on the way here: none is built from itself
      # @return [Array<Hash>] plain data, in order
      def rows(document, prop, frame, path = [])
        document.operations(prop.id).filter_map { |node| row(document, prop, node, frame, path + [prop.id]) if whole?(node, path + [prop.id]) }
      end

      # @return [Boolean] whether an operation has all that it needs
      def whole?(node, path) = (textured?(node) ? !node[:texture].nil? : true) && (!joins?(node) || (node[:with] && !path.include?(node[:with])))

      # @return [Boolean] whether it may be another one from frame to frame
      def changes?(node)
        node.curves.any? || (node[:what] == "displace" && (node[:drift] != 0.0 || node[:space] == "world" || textured?(node))) || (joins?(node) && node[:with])
      end

      # @return [Boolean] whether a texture moves the surface, which may itself move, or the prop through it
      def textured?(node) = node[:what] == "displace" && node[:bumps] == "texture"

      # @return [Boolean] whether it needs another prop
      def joins?(node) = node[:what] == "combine" || (node[:what] == "copies" && node[:spread] == "surface")

      # @param mesh [Mesh]; @param rows [Array<Hash>] from {.rows}; @param meshes [#mesh]
      # @return [Mesh]
      # @raise [Refused]
      def apply(mesh, rows, meshes)
        rows.reduce(mesh) do |at, row|
          ALL.fetch(row["what"]).call(at, row, meshes).tap do |after|
            raise Refused.new("#{row["name"]} leaves nothing of its prop; let it take less.", code: "empty_mesh") if after.empty?
          end
        end
      end

      # @raise [Refused] where so many triangles would be too many
      def check(count, row, remedy)
        return if count <= MOST_TRIANGLES

        raise Refused.new("#{row["name"]} would make #{count} triangles, and #{MOST_TRIANGLES} is the most; #{remedy}.", code: "mesh_too_large")
      end

      def row(document, prop, node, frame, path)
        dials = node.kind.dials.each_value.select { |dial| !%i[prop order with texture].include?(dial.name) && dial.counts?(node) }
        row = {"name" => node.name}.merge(dials.to_h { |dial| [dial.name.to_s, node[dial.name, frame]] })
        row.merge!(displaced(document, prop, node, frame)) if node[:what] == "displace"
        row["other"] = other(document, prop, node, frame, path) if joins?(node)
        row
      end

      # How far its noise has drifted, and where the prop stands where that counts.
      def displaced(document, prop, node, frame)
        moves = frame && (node.curves.key?(:drift) || node[:drift] != 0.0)
        world = (node[:space] == "world" || textured?(node)) ? {"world" => Pose.of(Bodies.pose(prop, frame, document)).transform.rows} : {}
        return world.merge("row" => Textures.row(document, document.node(node[:texture]), frame || document.first_frame)) if textured?(node)

        moves ? world.merge("time" => document.gone(node, :drift, frame)) : world
      end

      # The other prop with where it stands as seen from this one.
      def other(document, prop, node, frame, path)
        other = document.node(node[:with])
        own, its = [prop, other].map { |one| Pose.of(Bodies.pose(one, frame, document)) }
        {"outline" => Shapes.outline(other, document: document, frame: frame, path: path), "at" => its.at, "rows" => (own.transform.inverse * its.transform).rows}
      end
      private_class_method :row, :other, :displaced, :whole?
    end
  end
end
