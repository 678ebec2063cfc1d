# frozen_string_literal: true

module Vumbral
  module Geometry
    # What is done to a prop's shape, one thing after the other.
    module Operations
      ALL = {"subdivide" => Subdivide, "nearer" => Nearer, "smooth" => Smooth, "pierce" => Pierce, "thicken" => Thicken,
             "close" => Close, "remesh" => Remesh,
             "combine" => Combine, "displace" => Displace, "bend" => Bend, "twist" => Bend, "cage" => Cage,
             "lay" => Lay, "recentre" => Recentre, "copies" => Copies}.freeze
      # On so many frames the camera is asked where it is.
      LOOKS = 24
      # Ways to spread copies that need another prop.
      BESIDE = %w[surface inside corners fitted].freeze
      # No more triangles may come of them.
      MOST_TRIANGLES = 2_000_000

      module_function

      # @param document [Shot::Document]; @param prop [Shot::Node]; @param frame [Numeric, nil]
      # @param path [Array<String>] props on the way here: none is built from itself
      # @return [Array<Hash>] plain data, in order
      def rows(document, prop, frame, path = [])
        document
          .operations(prop.id)
          .filter_map { |node| row(document, prop, node, frame, path + [prop.id]) if whole?(node, path + [prop.id]) }
      end

      # @return [Boolean] whether an operation has all that it needs
      def whole?(node, path)
        if textured?(node) ? node[:texture].nil? : joins?(node) && (node[:with].nil? || path.include?(node[:with]))
          return false
        end

        !(node[:what] == "copies" && node[:spread] == "stroke" && node[:way].empty?)
      end

      # @return [Boolean] whether it may be another one from frame to frame
      def changes?(node)
        node.curves.any? ||
          (node[:what] == "displace" && (node[:drift] != 0.0 || node[:space] == "world" || textured?(node))) ||
          (joined?(node) && node[:with]) || strays?(node)
      end

      # @return [Boolean] whether a texture moves the surface, which may itself move, or the prop through it
      def textured?(node) = node[:what] == "displace" && node[:bumps] == "texture"

      # @return [Boolean] whether it needs another prop
      def joins?(node) = node[:what] == "combine" || (node[:what] == "copies" && BESIDE.include?(node[:spread]))

      # @return [Boolean] whether another prop that is chosen counts: a way may lie on one
      def joined?(node) = joins?(node) || (node[:what] == "copies" && node[:spread] == "stroke")

      # @return [Boolean] whether copies drift
      def strays?(node) =
        node[:what] == "copies" && (node[:stray_speed] != 0.0 || node.curves.key?(:stray_speed)) &&
          [node[:stray_low], node[:stray_high]].flatten.any? { |c| c != 0.0 }

      # @param mesh [Mesh]; @param rows [Array<Hash>] from {.rows}; @param meshes [#mesh]
      # @return [Mesh]
      # @raise [Refused]
      def apply(mesh, rows, meshes)
        rows.reduce(mesh) do |at, row|
          ALL.fetch(row["what"]).call(at, row, meshes).tap do |after|
            if after.empty? && !(mesh.empty? && after.points.dim(0).positive?)
              raise Refused.new("#{row["name"]} leaves nothing of its prop; let it take less.", code: "empty_mesh")
            end
          end
        end
      end

      # @raise [Refused] where so many triangles would be too many
      def check(count, row, remedy)
        return if count <= MOST_TRIANGLES

        raise Refused.new(
          "#{row["name"]} would make #{count} triangles, and #{MOST_TRIANGLES} is the most; #{remedy}.",
          code: "mesh_too_large"
        )
      end

      def row(document, prop, node, frame, path)
        dials =
          node.kind.dials.each_value.select do |dial|
            !%i[prop order with texture].include?(dial.name) && dial.counts?(node)
          end
        row = {"name" => node.name}.merge(dials.to_h { |dial| [dial.name.to_s, node[dial.name, frame]] })
        row.merge!(displaced(document, prop, node, frame)) if node[:what] == "displace"
        row["eyes"] = eyes(document, prop) if node[:what] == "nearer"
        row["other"] = other(document, prop, node, frame, path) if joined?(node) && node[:with] &&
          !path.include?(node[:with])
        row["time"] = document.gone(node, :stray_speed, frame) if frame && strays?(node)
        row
      end

      # How far its noise has drifted, and where the prop stands where that counts.
      def displaced(document, prop, node, frame)
        moves = frame && (node.curves.key?(:drift) || node[:drift] != 0.0)
        world = (node[:space] == "world" ||
          textured?(node)) ? {"world" => Pose.of(Bodies.pose(prop, frame, document)).transform.rows} : {}
        if textured?(node)
          return (
            world.merge("row" => Textures.row(document, document.node(node[:texture]), frame || document.first_frame))
          )
        end

        moves ? world.merge("time" => document.gone(node, :drift, frame)) : world
      end

      # Where the camera comes by, as seen from a prop: the same at all frames, so that faces stay what they are.
      def eyes(document, prop)
        camera = document.the(:camera)
        first, last = document.first_frame, document.last_frame
        (0...LOOKS).map { |n| first + (n * (last - first) / (LOOKS - 1.0)).round }.uniq.map { |frame|
          Pose
            .of(Bodies.pose(prop, frame, document))
            .transform
            .inverse
            .apply(Hanging.point(document, camera, :position, frame))
            .map { |c| c.round(3) }
        }.uniq
      end

      # The other prop with where it stands as seen from this one.
      def other(document, prop, node, frame, path)
        other = document.node(node[:with])
        own, its = [prop, other].map { |one| Pose.of(Bodies.pose(one, frame, document)) }
        {
          "outline" => Shapes.outline(other, document: document, frame: frame, path: path), "at" => its.at,
          "rows" => (own.transform.inverse * its.transform).rows
        }
      end
      private_class_method :row, :other, :displaced, :eyes, :whole?
    end
  end
end
