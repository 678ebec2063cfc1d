# frozen_string_literal: true

module Vumbral
  module Geometry
    # Brings several things in line along an axis of the world, or spaces them evenly.
    module Aligning
      AXES = {"x" => 0, "y" => 1, "z" => 2}.freeze
      # What of them comes in line with that of the first; or `apart`: their middles at even distances between the
      # outermost.
      WAYS = %w[low middle high place apart].freeze

      module_function

      # @param document [Shot::Document]; @param nodes [Array<Shot::Node>] the first one stays where it is
      # @param axis [String] of {AXES}; @param way [String] of {WAYS}; @param meshes [#mesh]
      # @return [Hash{Shot::Node => Array<Float>}] where in the world each that must move shall be
      def places(document, nodes, frame, axis, way, meshes)
        at = AXES.fetch(axis)
        told = nodes.to_h { |node| [node, told(document, node, frame, at, way, meshes)] }
        wanted = (way == "apart") ? apart(told) : told.transform_values { told[nodes[0]] }
        told.filter_map { |node, value|
          far = wanted[node] - value
          next if far.abs < 1e-6

          [
            node,
            Hanging
              .pose(document, node, frame)
              .position
              .each_with_index
              .map { |c, n| (n == at) ? (c + far).round(5) : c }
          ]
        }.to_h
      end

      def apart(told)
        order = told.sort_by(&:last)
        first, last = order[0][1], order[-1][1]
        order.each_with_index.to_h { |(node, _), n| [node, first + (last - first) * n / [order.size - 1, 1].max] }
      end

      def told(document, node, frame, axis, way, meshes)
        low, high = ends(document, node, frame, meshes).map { |corner| corner[axis] }
        case way
        when "low" then low
        when "high" then high
        when "place" then Hanging.pose(document, node, frame).position[axis]
        else 0.5 * (low + high)
        end
      end

      # Lowest and highest corner in the world; of what has no body, its place.
      def ends(document, node, frame, meshes)
        mesh = (node.kind.name == :prop) ? Standing.new(document.with_on(node.id, :shown), meshes, only: [node.id]).at(frame) : nil
        (mesh && !mesh.empty?) ? mesh.bounds : [Hanging.pose(document, node, frame).position] * 2
      end
      private_class_method :apart, :told, :ends
    end
  end
end
