# frozen_string_literal: true

module Vumbral
  module Geometry
    # How far things stray from where they stand, as noise over time.
    module Shake
      STILL = [0.0, 0.0, 0.0].freeze
      # By which of its dials each part of a pose shakes.
      BY = {position: :shake, turn: :shake_turn}.freeze

      module_function

      # @param document [Shot::Document]; @param node [Shot::Node]; @param dial [Symbol] :position or :turn
      # @param frame [Numeric, nil] nothing shakes without one
      # @return [Array<Float>] metres or degrees
      def offset(document, node, dial, frame)
        by = BY[dial]
        return STILL unless frame && by && node.kind.dials.key?(by)

        most = node[by, frame]
        return STILL if most.all?(&:zero?)

        at = (frame - document.first_frame) / document.rate.to_f * node[:shake_speed]
        seed = (document.the(:general)[:seed] * 131 + node[:shake_seed] * 7919 + node.id.sum * 31) % 1_000_000
        lane = (dial == :turn) ? 3 : 0
        most.each_with_index.map do |far, axis|
          far.zero? ? 0.0 : far * noise(at, axis + lane, node[:shake_octaves], seed)
        end
      end

      # @return [Boolean] whether it ever shakes
      def shakes?(node)
        BY.each_value.any? { |by| node.kind.dials.key?(by) && (node.curves.key?(by) || node[by].any?(&:positive?)) }
      end

      # -1 to 1, from 0 on.
      def noise(at, lane, octaves, seed)
        sum = whole = 0.0
        octaves.times do |n|
          weight = 0.5**n
          sum += weight * Grid::Noise.value(at * 2**n, 0.0, 0.0, 0.0, seed + 101 * lane + 17 * n)
          whole += weight
        end
        sum / whole
      end
      private_class_method :noise
    end
  end
end
