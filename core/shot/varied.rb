# frozen_string_literal: true

module Vumbral
  module Shot
    # What makes the copies in a row differ: dials that vary at random, and those that a hand set for one copy.
    #
    # Stored as lists of objects: {"dial": "smoke", "by": 0.3}, and {"copy": 3, "dial": "smoke", "value": 9.0}; copies
    # are counted from 1.
    class Varied
      MOST = 200

      # @param dial [Dial] of type :variations or :overrides: `of` has the names of dials, `over` their kind
      # @param place [String] how a message names its node
      def initialize(dial, place)
        @dial, @place = dial, place
        @kind = Kinds.fetch(dial.over)
      end

      # @return [Array<Hash>] as it is stored
      # @raise [Refused]
      def check(value)
        unless value.is_a?(Array) && value.size <= MOST && value.all?(Hash)
          refuse("takes a list of at most #{MOST}, not #{value.inspect[0, 40]}")
        end

        rows =
          value
            .map { |row| row.transform_keys(&:to_s) }
            .map { |row| (@dial.type == :variations) ? variation(row) : override(row) }
        rows.reverse.uniq { |row| row.values_at("copy", "dial") }.reverse
      end

      # @param n [Integer] which copy, from 0
      # @return [Object, nil] what a hand set for it
      def self.own(node, n, dial) =
        node[:overrides].find { |row| row["copy"] == n + 1 && row["dial"] == dial.to_s }&.fetch("value")

      # @param random [#rand] the copy's own
      # @return [Object] a dial's value with what it varies by
      def self.vary(node, dial, value, random)
        row = node[:varied].find { |one| one["dial"] == dial.to_s } or return value

        factor = 1.0 + row["by"] * random.rand(-1.0..1.0)
        range = node.kind.dials[dial].range
        value.is_a?(Array) ? value.map { |part| (part * factor).clamp(range) } : (value * factor).clamp(range)
      end

      private

      def variation(row)
        by = row["by"]
        refuse("cannot vary by #{by.inspect[0, 40]}; it goes from 0 to 1") unless by.is_a?(Numeric) && by.between?(0, 1)

        {"dial" => named(row), "by" => by.to_f}
      end

      def override(row)
        copy = row["copy"]
        refuse("counts copies from 1, not #{copy.inspect[0, 40]}") unless copy.is_a?(Integer) && copy.between?(1, 60)

        name = named(row)
        {
          "copy" => copy, "dial" => name,
          "value" => @kind.dials.fetch(name.to_sym).check(row["value"], "copy #{copy} of #{@place}")
        }
      end

      def named(row)
        name = row["dial"].to_s
        if @dial.of.include?(name.to_sym)
          name
        else
          refuse("has no dial #{name[0, 40].inspect} to change; there are: #{@dial.of.join(", ")}")
        end
      end

      def refuse(words) = raise(Refused.new("#{@dial.label} of #{@place} #{words}.", code: "bad_value"))
    end
  end
end
