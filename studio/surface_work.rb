# frozen_string_literal: true

module Vumbral
  module Studio
    # Makes the surface of a sculpt at a frame, or what operations make of a liquid's.
    class SurfaceWork
      def initialize(task)
        @workshop = task.workshop
        @asked = task.payload
      end

      # @return [Hash] :area of a sculpt's, square metres
      def call
        return {area: @workshop.surfaces.make(*of)} unless altered?

        @workshop.liquids.alter(*of_liquid)
        {}
      end

      # @param result [Hash] of {#call}
      def settle(result) = {path: altered? ? @workshop.liquids.altered(*of_liquid) : @workshop.surfaces.note(*of, result.transform_keys(&:to_s)["area"])}

      private

      def altered? = @asked.key?("alteration")

      def of = @asked.values_at("key", "number")

      def of_liquid = @asked.values_at("key", "least", "alteration")
    end
  end
end
