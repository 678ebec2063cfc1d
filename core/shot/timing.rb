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

      # @param node [Node] a front; @return [Boolean] whether it is on its way at a frame
      def runs?(node, frame) = frame >= node[:first] && (node[:freeze].zero? || frame <= node[:freeze])

      # How much a rate a second has come to since the first frame.
      # @param dial [Symbol] a number; @return [Float]
      def gone(document, node, dial, frame)
        first, rate = document.first_frame, document.rate.to_f
        return node[dial] * frame / rate unless node.curves.key?(dial)

        whole = frame.floor
        sum = (first...whole).sum { |at| node[dial, at] } + (frame - whole) * node[dial, whole]
        (sum + first * node[dial, first]) / rate
      end

      # @return [Float] how strong a source with all its copies is at a frame
      def strength(node, frame) = (0...node[:copies]).map { |n| copy_strength(node, n, frame) }.max

      # @param n [Integer] which copy of a source in a row
      # @return [Float] 0 while it is off
      def copy_strength(node, n, frame)
        at = own_frame(node, n, frame)
        return 0.0 unless on?(node, at)

        own = Varied.own(node, n, :strength) and return own
        strength = node[:strength, at]
        return strength if n.zero? && node[:copies] < 2 && node[:vary].zero?

        # Half of the numbers stand for more, half for less.
        strength * node[:step_strength]**n * middle(node, n) * (1.0 + node[:vary] * chance(node, n).rand(-1.0..1.0))
      end

      # @return [Float] the frame of the shot as a copy in a row counts it: each begins later than the one before, and
      #   may be off at random
      def own_frame(node, n, frame)
        own = Varied.own(node, n, :step_frames) and return frame - own
        later = frame - n * node[:step_frames]
        node[:scatter_frames].zero? ? later : later - (node[:scatter_frames] * chance(node, n, 2).rand(-1.0..1.0)).round
      end

      # @param at [Float] the frame as the copy counts it
      # @return [Object] what a copy in a row has on a dial
      def copied(node, n, dial, at)
        own = Varied.own(node, n, dial)
        return own unless own.nil?

        Varied.vary(node, dial, node[dial, at], chance(node, n, 3 + dial.to_s.sum))
      end

      # @return [Array(Float, Float, Float)] how far a copy stands from where the first would stand in a row without
      #   scatter, metres
      def place(node, n)
        own = Varied.own(node, n, :step_place) and return own
        row = node[:step_place].map { |step| step * n }
        return row if node[:scatter].zero?

        by = chance(node, n, 1)
        row.map { |step| step + node[:scatter] * by.rand(-1.0..1.0) }
      end

      # From 1 at the ends of the row to the dial's value in its middle.
      def middle(node, n)
        return 1.0 if node[:copies] < 2

        1.0 + (node[:step_middle] - 1.0) * (1.0 - (2.0 * n / (node[:copies] - 1) - 1.0).abs)
      end

      # The same numbers for the same copy, whatever came before.
      def chance(node, n, which = 0) = Random.new(n * 7919 + node.id.sum * 31 + which * 104_729)
      private_class_method :middle, :chance
    end
  end
end
