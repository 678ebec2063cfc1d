# frozen_string_literal: true

module Vumbral
  module Shot
    # A dial's course over time through its keys. Each key says how the value goes on
    # from it: smooth, linear or held. Before the first and after the last it stands still.
    # Vectors and colours go on part by part; switches are always held.
    class Curve
      EASES = %w[smooth linear held].freeze
      MOST_KEYS = 20_000
      Key = Struct.new(:frame, :value, :ease)

      attr_reader :keys

      # @param keys [Array<Key>] in any order, one for each frame
      def initialize(keys)
        @keys = keys.sort_by(&:frame).freeze
      end

      def self.load(rows) = new(rows.map { |row| Key.new(row["frame"], row["value"], row["ease"] || "smooth") })

      def empty? = @keys.empty?

      # @param frame [Numeric] may lie between frames
      # @return [Float, Array<Float>, Boolean]
      def at(frame)
        return parts.map { |part| part.at(frame) } if @keys.first.value.is_a?(Array)
        return @keys.first.value if frame <= @keys.first.frame
        return @keys.last.value if frame >= @keys.last.frame

        index = before(frame)
        from, to = @keys[index], @keys[index + 1]
        t = (frame - from.frame).to_f / (to.frame - from.frame)
        return from.value if from.value == true || from.value == false

        case from.ease
        when "held" then from.value
        when "linear" then from.value + t * (to.value - from.value)
        else smooth(index, t)
        end
      end

      # @return [String, nil] how the course goes on at a frame; nil before the first key
      def ease_at(frame) = before(frame)&.then { |index| @keys[index].ease }

      def put(frame, value, ease)
        Curve.new(@keys.reject { |key| key.frame == frame } + [Key.new(frame, value, ease)])
      end

      def drop(frame) = Curve.new(@keys.reject { |key| key.frame == frame })

      def to_a = @keys.map(&:to_h)

      def ==(other) = other.is_a?(Curve) && keys == other.keys

      private

      # The place of the last key at or before a frame.
      def before(frame)
        after = @keys.bsearch_index { |key| key.frame > frame } || @keys.size
        after.positive? ? after - 1 : nil
      end

      def parts
        @parts ||= @keys.first.value.each_index.map { |n| Curve.new(@keys.map { |key| Key.new(key.frame, key.value[n], key.ease) }) }
      end

      # Cubic Hermite with slopes that never overshoot (Fritsch & Carlson 1980).
      def smooth(index, t)
        from, to = @keys[index], @keys[index + 1]
        span = to.frame - from.frame
        a, b = slope(index) * span, slope(index + 1) * span
        rise = to.value - from.value
        from.value + t * (a + t * (3 * rise - 2 * a - b + t * (a + b - 2 * rise)))
      end

      def slope(index)
        return 0.0 if index.zero? || index == @keys.size - 1

        before, here, after = @keys[index - 1, 3]
        left = (here.value - before.value) / (here.frame - before.frame).to_f
        right = (after.value - here.value) / (after.frame - here.frame).to_f
        return 0.0 if left * right <= 0.0

        # The harmonic mean keeps the curve between its keys.
        2.0 * left * right / (left + right)
      end
    end
  end
end
