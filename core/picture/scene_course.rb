# frozen_string_literal: true

module Vumbral
  module Picture
    # How what a view is told of light, look and film ({Renderer.scene}) goes from frame to frame.
    module SceneCourse
      KINDS = %i[sun lamp sky look picture].freeze

      module_function

      # @param document [Shot::Document]
      # @return [Boolean] whether any of it may change
      def changes?(document)
        lights = document.nodes.each_value.select { |node| KINDS.include?(node.kind.name) }
        lights.any? { |node| node.curves.any? } ||
          document.of(:lamp).any? do |lamp|
            lamp[:aim] || Geometry::Hanging.leader(document, lamp) || Geometry::Shake.shakes?(lamp)
          end
      end

      # @param first [Hash] {Renderer.scene} of the first frame
      # @return [Hash] those parts of it that are others at a frame, in the same form
      def at(document, frame, first, meshes) =
        Renderer.scene(document, frame, meshes).reject { |part, value| part == "camera" || first[part] == value }
    end
  end
end
