# frozen_string_literal: true

module Vumbral
  module Preflight
    # Whether what is done to shapes can be done.
    class Building
      def initialize(survey)
        @document = survey.document
      end

      # @return [Array<Finding>]
      def findings = @document.of(:operation).filter_map { |node| homeless(node) || alone(node) }

      private

      def homeless(node)
        return if node[:prop]

        Finding.new(
          code: "no_prop", node: node.id, dial: :prop,
          text: "#{node.name} changes nothing: choose the prop whose shape it changes.", remedy: nil
        )
      end

      def alone(node)
        if Geometry::Operations.textured?(node) && node[:texture].nil?
          return (
            Finding.new(
              code: "no_texture", node: node.id, dial: :texture,
              text: "#{node.name} moves nothing yet: choose its texture.", remedy: nil
            )
          )
        end
        return if !Geometry::Operations.joins?(node) || node[:with]

        Finding.new(
          code: "no_other", node: node.id, dial: :with,
          text: "#{node.name} changes nothing yet: choose the other prop.", remedy: nil
        )
      end
    end
  end
end
