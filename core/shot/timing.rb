# frozen_string_literal: true

module Vumbral
  module Shot
    # When a thing of a shot acts, and how strongly. What is computed and what is drawn in the timeline
    # both go by this.
    module Timing
      module_function

      # @param node [Node] a source, force or emitter: anything with "from frame" and "to frame"
      # @param frame [Numeric]
      def on?(node, frame) = frame >= node[:first] && (node[:last].zero? || frame <= node[:last])

      # @return [Float] how strong a source with all its copies is at a frame
      def strength(node, frame) = (0...node[:copies]).map { |n| copy_strength(node, n, frame) }.max

      # @param n [Integer] which copy of a source in a row
      # @return [Float] 0 while it is off
      def copy_strength(node, n, frame)
        at = frame - n * node[:step_frames]
        return 0.0 unless on?(node, at)

        # Half of the numbers stand for more, half for less.
        chance = Random.new(n * 7919 + node.id.sum * 31).rand(-1.0..1.0)
        node[:strength, at] * node[:step_strength]**n * (1.0 + node[:vary] * chance)
      end
    end
  end
end
