# frozen_string_literal: true

module Vumbral
  module Studio
    # Measures how quick this machine is.
    class GaugeWork
      def initialize(task)
        @home = task.workshop.home
      end

      # @return [Hash] millions of voxels a second
      def call = {speed: Farm::Gauge.of(@home)}
    end
  end
end
