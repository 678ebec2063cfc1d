# frozen_string_literal: true

module Vumbral
  module Preflight
    # The box of a liquid, metres. @!attribute low [Array<Float>]; @!attribute high [Array<Float>]
    Box = Struct.new(:low, :high) do
      # @param plan [Liquid::Plan]
      # @return [Box]
      def self.of(plan) = new(plan.corner, plan.corner.zip(plan.size.reverse).map { |c, n| c + n * plan.voxel })

      # @param bounds [Array(Array<Float>, Array<Float>)] of a shape
      # @return [Boolean] whether any of it is inside
      def meets?(bounds) = 3.times.all? { |a| bounds[0][a] < high[a] && bounds[1][a] > low[a] }
    end
  end
end
