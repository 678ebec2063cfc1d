# frozen_string_literal: true

module Vumbral
  module Shot
    # A course of values over a quantity: stops, between which it passes smoothly, straight or not at all.
    # Before the first stop and after the last it stays as there. Without a stop it says nothing.
    #
    # Stored as a list of objects: {"at": 0.2, "value": 1.0 or [red, green, blue], "pass": "smooth"}.
    class Ramp
      # How a stop goes on to the next one.
      PASSES = {"smooth" => "smoothly", "linear" => "straight", "held" => "held until the next"}.freeze
      MOST_STOPS = 32

      # @return [Array<Hash>] sorted by "at"; of two at one place the later one counts from there on
      attr_reader :stops

      # @param stops [Array<Hash>] checked
      def initialize(stops)
        @stops = stops.each_with_index.sort_by { |stop, n| [stop["at"], n] }.map(&:first)
      end

      def empty? = @stops.empty?

      # @return [Array(Float, Float)] where the first and the last stop stand
      def ends = [@stops.first["at"], @stops.last["at"]]

      # @param x [Float] in the ramp's own unit
      # @return [Array<Float>] one value, or red, green, blue
      def at(x)
        after = @stops.index { |stop| stop["at"] > x }
        return parts(@stops.last) unless after
        return parts(@stops.first) if after.zero?

        from, to = @stops[after - 1], @stops[after]
        part = eased((x - from["at"]) / (to["at"] - from["at"]), from["pass"])
        parts(from).zip(parts(to)).map { |a, b| a + part * (b - a) }
      end

      # @return [Kernel::Buffer] f32 [count, parts], even between two places
      def table(count, low, high)
        rows = Array.new(count) { |n| at(low + n * (high - low) / (count - 1.0)) }
        Kernel::Buffer.of(:f32, rows.flatten, count, rows[0].size)
      end

      private

      def parts(stop) = Array(stop["value"])

      def eased(part, pass)
        case pass
        when "held" then 0.0
        when "linear" then part
        else part * part * (3.0 - 2.0 * part)
        end
      end

      # Checks what comes in for a dial.
      class Check
        # @param dial [Dial]; @param place [String] how a message names its node
        def initialize(dial, place)
          @dial = dial
          @place = place
        end

        # @return [Array<Hash>] stops as they are stored, in order
        # @raise [Refused] naming the stop, what is wrong with it and what is allowed
        def call(given)
          refuse("takes a list of stops, each with \"at\" and \"value\"") unless given.is_a?(Array) && given.all?(Hash)
          refuse("would have #{given.size} stops; #{MOST_STOPS} is the most") if given.size > MOST_STOPS
          Ramp.new(given.map.with_index(1) { |row, n| stop(row, n) }).stops
        end

        private

        def stop(row, n)
          pass = row["pass"] || "smooth"
          refuse("stop #{n} goes on #{PASSES.keys.join(", ")}, not #{pass.inspect[0, 40]}", n) unless PASSES.key?(pass)
          {"at" => number(row["at"], @dial.range, "stands", n, @dial.unit), "value" => value(row["value"], n),
           "pass" => pass}
        end

        def value(given, n)
          return number(given, @dial.values, "has the value", n) unless @dial.of == :colour

          unless given.is_a?(Array) && given.size == 3
            refuse("stop #{n} takes three numbers (red, green, blue), not #{given.inspect[0, 40]}", n)
          end
          given.map { |part| number(part, @dial.values, "has a colour of", n) }
        end

        def number(given, range, words, n, unit = nil)
          return given.to_f if given.is_a?(Numeric) && given.to_f.finite? && range.cover?(given)

          ends = [range.begin, range.end].map { |edge| format("%.6g", edge) }.join(" to ")
          refuse(
            "stop #{n} #{words} #{given.nil? ? "nothing" : given.to_s[0, 40]}; it goes from " \
              "#{ends}#{" #{unit}" if unit}",
            n
          )
        end

        def refuse(reason, stop = nil)
          raise Refused.new(
            "#{@dial.label} of #{@place}#{":" if stop} #{reason}.", code: stop ? "out_of_range" : "bad_value"
          )
        end
      end
    end
  end
end
