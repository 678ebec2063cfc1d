# frozen_string_literal: true

module Vumbral
  module Shot
    # A dial's course over time through its keys. Each key says how the value goes on from it. Before the first and
    # after the last it stands still, or goes on in one of the ways of {BEYOND}. Vectors and colours go on part by
    # part; switches are always held.
    class Curve
      EASES = {"smooth" => "through all keys in one sweep", "linear" => "straight to the next",
               "held" => "stays until the next",
               "eased" => "slow out of this key, slow into the next"}.freeze
      BEYOND = {"hold" => "stays as it is", "again" => "begins again", "back" => "goes back and forth",
                "onward" => "begins again from where it got to", "straight" => "goes straight on"}.freeze
      MOST_KEYS = 20_000
      # `arrive` and `leave` are how steeply the course comes to a key and goes from it, a frame; nil for what its
      # neighbours make of it. Of vectors a list, part by part.
      Key = Struct.new(:frame, :value, :ease, :arrive, :leave) do
        def to_h = super.compact

        # One part of a key with several.
        def part(n) = Curve::Key.new(frame, value[n], ease, arrive && arrive[n], leave && leave[n])
      end

      attr_reader :keys, :before, :after

      # @param keys [Array<Key>] in any order, one for each frame
      # @param before [String] of {BEYOND}, what it does before its first key; @param after [String] after its last
      def initialize(keys, before: "hold", after: "hold")
        @keys = keys.sort_by(&:frame).freeze
        @before, @after = before, after
      end

      def empty? = @keys.empty?

      # @param frame [Numeric] may lie between frames
      # @return [Float, Array<Float>, Boolean]
      def at(frame)
        return parts.map { |part| part.at(frame) } if @keys.first.value.is_a?(Array)
        return beyond(@before, @keys.first, frame) if frame < @keys.first.frame
        return beyond(@after, @keys.last, frame) if frame > @keys.last.frame

        within(frame)
      end

      # @return [String, nil] how the course goes on at a frame; nil before the first key
      def ease_at(frame) = place(frame)&.then { |index| @keys[index].ease }

      # How steeply the course comes to each key and goes from it, a frame, whatever they say themselves.
      # @return [Array<Array>] of each key [arrive, leave]; of vectors, both part by part
      def slopes
        return parts.map(&:slopes).transpose.map(&:transpose) if @keys.first.value.is_a?(Array)
        return @keys.map { [0.0, 0.0] } if switch?

        @keys.each_index.map do |n|
          [n.zero? ? slope(n, :arrive) : span(n - 1)[1], (n == @keys.size - 1) ? slope(n, :leave) : span(n)[0]]
        end
      end

      # @return [Curve] with a key in the place of the one at its frame
      def put(key) = with(@keys.reject { |other| other.frame == key.frame } + [key])

      def drop(frame) = with(@keys.reject { |key| key.frame == frame })

      # @return [Curve] with other keys, or other ways to go on
      def with(keys = @keys, before: @before, after: @after) = Curve.new(keys, before: before, after: after)

      def to_a = @keys.map(&:to_h)

      # @return [Boolean] whether it stands still outside its keys
      def holds? = @before == "hold" && @after == "hold"

      # Frames from the first key to the last.
      def length = @keys.last.frame - @keys.first.frame

      def ==(other) = other.is_a?(Curve) && keys == other.keys && before == other.before && after == other.after

      private

      def switch? = [true, false].include?(@keys.first.value)

      # The place of the last key at or before a frame.
      def place(frame)
        after = @keys.bsearch_index { |key| key.frame > frame } || @keys.size
        after.positive? ? after - 1 : nil
      end

      def parts = @parts ||= @keys.first.value.each_index.map { |n| with(@keys.map { |key| key.part(n) }) }

      def beyond(way, key, frame)
        rounds, into = (frame - @keys.first.frame).divmod(length) unless length.zero?
        case way
        when "hold" then return key.value
        when "straight" then return switch? ? key.value : key.value + (frame - key.frame) * ending(key)
        end
        return key.value if length.zero?

        into = length - into if way == "back" && rounds.odd?
        value = within(@keys.first.frame + into)
        (way == "onward" && !switch?) ? value + rounds * (@keys.last.value - @keys.first.value) : value
      end

      # How steeply it goes on from an end.
      def ending(key)
        first = key.equal?(@keys.first)
        slope = first ? key.arrive || key.leave : key.leave || key.arrive
        return slope if slope
        return 0.0 if @keys.size < 2

        secant(first ? 0 : @keys.size - 2)
      end

      def within(frame)
        index = place(frame)
        from, to = @keys[index], @keys[index + 1]
        return from.value if to.nil? || from.frame == frame || switch? || from.ease == "held"

        t = (frame - from.frame).to_f / (to.frame - from.frame)
        return from.value + t * (to.value - from.value) if from.ease == "linear"

        smooth(from, to, span(index), t)
      end

      # Cubic Hermite between two keys. @param slopes [Array(Float, Float)] a frame
      def smooth(from, to, slopes, t)
        frames = to.frame - from.frame
        a, b = slopes.map { |slope| slope * frames }
        rise = to.value - from.value
        from.value + t * (a + t * (3 * rise - 2 * a - b + t * (a + b - 2 * rise)))
      end

      # How steeply a span begins and ends.
      def span(index)
        from, to = @keys[index], @keys[index + 1]
        case from.ease
        when "held" then [0.0, 0.0]
        when "linear" then [secant(index)] * 2
        when "eased" then [from.leave || 0.0, to.arrive || 0.0]
        else [slope(index, :leave), slope(index + 1, :arrive)]
        end
      end

      def slope(index, side) = @keys[index][side] || even(index)

      # Slopes that never overshoot (Fritsch & Carlson 1980): the harmonic mean keeps the curve between its keys.
      def even(index)
        left = index.zero? ? round(-2) : secant(index - 1)
        right = (index == @keys.size - 1) ? round(0) : secant(index)
        return 0.0 if left * right <= 0.0

        2.0 * left * right / (left + right)
      end

      # Across the seam of a course that begins again; nothing where it does not.
      def round(index)
        goes = [@before, @after]
        seamless = goes.include?("onward") || (goes.include?("again") && @keys.first.value == @keys.last.value)
        (seamless && @keys.size > 1) ? secant(index % @keys.size) : 0.0
      end

      def secant(index)
        from, to = @keys[index], @keys[index + 1]
        (to.value - from.value) / (to.frame - from.frame).to_f
      end
    end
  end
end
