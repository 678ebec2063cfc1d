# frozen_string_literal: true

module Vumbral
  module Studio
    # One variation of a test strip.
    class VariationWork
      def initialize(task)
        @strip = StripWork.new(task)
        @place = task.payload["place"]
      end

      # @return [Hash] how many frames were :computed, or why it could not be done (:failed)
      def call = @strip.one(@place, alone: true).then { |made| made.is_a?(String) ? {failed: made} : made }
    end
  end
end
