# frozen_string_literal: true

module Vumbral
  module Shot
    # A dial's course over time through its notches. Each notch says how the value goes on
    # from it: smooth, linear or held. Before the first and after the last it stands still.
    # Vectors and colours go on part by part; switches are always held.
    class Curve
      EASES = %w[smooth linear held].freeze
      MOST_NOTCHES = 20_000
      Notch = Struct.new(:frame, :value, :ease)

      attr_reader :notches

      # @param notches [Array<Notch>] in any order, one for each frame
      def initialize(notches)
        @notches = notches.sort_by(&:frame).freeze
      end

      def self.load(rows) = new(rows.map { |row| Notch.new(row["frame"], row["value"], row["ease"] || "smooth") })

      def empty? = @notches.empty?

      # @param frame [Numeric] may lie between frames
      # @return [Float, Array<Float>, Boolean]
      def at(frame)
        return parts.map { |part| part.at(frame) } if @notches.first.value.is_a?(Array)
        return @notches.first.value if frame <= @notches.first.frame
        return @notches.last.value if frame >= @notches.last.frame

        index = before(frame)
        from, to = @notches[index], @notches[index + 1]
        t = (frame - from.frame).to_f / (to.frame - from.frame)
        return from.value if from.value == true || from.value == false

        case from.ease
        when "held" then from.value
        when "linear" then from.value + t * (to.value - from.value)
        else smooth(index, t)
        end
      end

      # @return [String, nil] how the course goes on at a frame; nil before the first notch
      def ease_at(frame) = before(frame)&.then { |index| @notches[index].ease }

      def put(frame, value, ease)
        Curve.new(@notches.reject { |notch| notch.frame == frame } + [Notch.new(frame, value, ease)])
      end

      def drop(frame) = Curve.new(@notches.reject { |notch| notch.frame == frame })

      def to_a = @notches.map(&:to_h)

      def ==(other) = other.is_a?(Curve) && notches == other.notches

      private

      # The place of the last notch at or before a frame.
      def before(frame)
        after = @notches.bsearch_index { |notch| notch.frame > frame } || @notches.size
        after.positive? ? after - 1 : nil
      end

      def parts
        @parts ||= @notches.first.value.each_index.map { |n| Curve.new(@notches.map { |notch| Notch.new(notch.frame, notch.value[n], notch.ease) }) }
      end

      # Cubic Hermite with slopes that never overshoot (Fritsch & Carlson 1980).
      def smooth(index, t)
        from, to = @notches[index], @notches[index + 1]
        span = to.frame - from.frame
        a, b = slope(index) * span, slope(index + 1) * span
        rise = to.value - from.value
        from.value + t * (a + t * (3 * rise - 2 * a - b + t * (a + b - 2 * rise)))
      end

      def slope(index)
        return 0.0 if index.zero? || index == @notches.size - 1

        before, here, after = @notches[index - 1, 3]
        left = (here.value - before.value) / (here.frame - before.frame).to_f
        right = (after.value - here.value) / (after.frame - here.frame).to_f
        return 0.0 if left * right <= 0.0

        # The harmonic mean keeps the curve between its notches.
        2.0 * left * right / (left + right)
      end
    end
  end
end
