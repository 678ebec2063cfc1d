# frozen_string_literal: true

module Vumbral
  module Geometry
    # Props that break into pieces.
    module Breaking
      module_function

      # @return [Boolean] whether the prop ever breaks
      def breaks?(_node) = false

      # @return [Boolean] whether the prop is in pieces at a frame
      def broken?(_node, _frame) = false

      def bodies(_node, _frame) = []
    end
  end
end
