# frozen_string_literal: true

module Vumbral
  module Shot
    # Strokes of a brush, as a dial holds them: what each does, how, on which frame it was painted, and the places that
    # it went through, each with how hard the pen was pressed.
    class Strokes
      WAYS = %w[add take smooth pinch].freeze
      # So many strokes, and so many places of one.
      MOST, MOST_PLACES = 400, 600
      # What a stroke says of itself, with its least and its most.
      NUMBERS = {"radius" => 0.0005..100.0, "strength" => 0.0..1.0, "hard" => 0.0..1.0, "frame" => -100_000..100_000}.freeze

      # @param label [String] of the dial; @param place [String] how a message names its node
      def initialize(label, place)
        @label, @place = label, place
      end

      # @param given [Object] as it came in
      # @return [Array<Hash>] as it is stored
      # @raise [Refused] naming the stroke and what is wrong with it
      def check(given)
        unless given.is_a?(Array) && given.size <= MOST && given.all?(Hash)
          refuse("takes a list of at most #{MOST} strokes")
        end
        given.each.with_index(1).map { |row, n| stroke(row, n) }
      end

      private

      def stroke(row, n)
        refuse("stroke #{n} does #{WAYS.join(", ")}, not #{row["way"].inspect[0, 40]}") unless WAYS.include?(row["way"])
        numbers = NUMBERS.to_h { |name, range| [name, number(row[name], name, range, n)] }
        places = row["places"]
        unless places.is_a?(Array) && places.size.between?(1, MOST_PLACES)
          refuse("stroke #{n} goes through a list of 1 to #{MOST_PLACES} places")
        end
        {"way" => row["way"], **numbers, "places" => places.map { |place| place(place, n) }}
      end

      def number(value, name, range, n)
        return value.to_f if value.is_a?(Numeric) && value.to_f.finite? && range.cover?(value)

        refuse("stroke #{n} has no #{name} from #{range.begin} to #{range.end}")
      end

      def place(place, n)
        fine =
          place.is_a?(Array) && place.size == 4 &&
          place.all? { |c| c.is_a?(Numeric) && c.to_f.finite? && c.abs <= 100_000.0 }
        refuse("stroke #{n} has places of x, y, z and how hard the pen was pressed") unless fine
        place.map(&:to_f)
      end

      def refuse(reason) = raise(Refused.new("#{@label} of #{@place}: #{reason}.", code: "bad_value"))
    end
  end
end
