# frozen_string_literal: true

module Vumbral
  module Studio
    # Makes the surface of a sculpt at a frame.
    class SurfaceWork
      def initialize(task)
        @task = task
      end

      # @return [Hash] :area, square metres
      def call = {area: @task.workshop.surfaces.make(*of)}

      # @param result [Hash] of {#call}
      def settle(result) = {path: @task.workshop.surfaces.note(*of, result.transform_keys(&:to_s)["area"])}

      private

      def of = @task.payload.values_at("key", "number")
    end
  end
end
