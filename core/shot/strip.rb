# frozen_string_literal: true

module Vumbral
  module Shot
    # Variations of a shot in one to three dials, every value with every other: a test strip.
    class Strip
      MOST_DIALS, MOST = 3, 1000
      # More than so many are asked about first, and looked at by so many at a time.
      MANY = 64
      # What is varied of one dial: `label` as a person reads it, and its values in order.
      Axis = Struct.new(:node, :dial, :label, :values)

      # @return [Array<Axis>] across, then down, then page by page
      attr_reader :axes

      # @param document [Document]
      # @param asked [Array<Hash>] for each dial "node", "dial" and either "values", or "from" and "count" with "to"
      #   (even steps) or "times" (each so many times the one before)
      # @raise [Refused] naming what is wrong
      def initialize(document, asked)
        unless asked.is_a?(Array) && asked.size.between?(1, MOST_DIALS) && asked.all?(Hash)
          refuse("A strip varies one to #{MOST_DIALS} dials; choose some.")
        end

        @document = document
        @axes = asked.map { |one| axis(one) }
        twice = @axes.map { |axis| [axis.node, axis.dial] }.tally.find { |_, count| count > 1 }
        refuse("#{@axes[0].label} is varied twice; choose another dial.") if twice
        if size > MOST
          refuse("This strip has #{size} variations; #{MOST} is the most. Take fewer values.", "out_of_range")
        end
        # Each is refused here rather than in the middle of the strip.
        size.times { |n| at(n) }
      end

      # @return [Integer] how many variations there are
      def size = @axes.map { |axis| axis.values.size }.reduce(:*)

      # @return [Boolean] whether it is more than one would ask for by the way
      def many? = size > MANY

      # @return [Array] the value of each dial in a variation
      def values(n)
        @axes.map do |axis|
          n, place = n.divmod(axis.values.size)
          axis.values[place]
        end
      end

      # @return [Array<Hash>] the edits that make a variation of the shot
      def edits(n) =
        @axes
          .zip(values(n))
          .map { |axis, value| {"do" => "set", "node" => axis.node, "dial" => axis.dial, "value" => value} }

      # @return [Document] a variation
      def at(n) = Edits.apply(@document, edits(n))[0]

      # @return [String] a value as a person reads it
      def show(axis, value) = dial(axis.node, axis.dial).show(value)

      private

      def axis(asked)
        node = @document.node(asked["node"])
        dial = dial(node.id, asked["dial"])
        label = "#{dial.label} of #{node.name}"
        if node.curves.key?(dial.name)
          refuse(
            "#{label} changes over time, so a strip cannot vary it; take its keys or its formula away, or vary " \
              "another dial."
          )
        end
        values = asked["values"] || course(dial, asked, label)
        refuse("Values of #{label} come as a list, at least one.") unless values.is_a?(Array) && values.any?

        values = values.map { |value| dial.check(value, "#{node.name} (#{node.id})") }.uniq
        Axis.new(node.id, dial.name.to_s, label, values)
      end

      def dial(id, name)
        node = @document.node(id)
        node.kind.dials[name.to_s.to_sym] ||
          refuse("#{node.name} has no dial #{name.to_s[0, 40].inspect}.", "unknown_dial")
      end

      # Even steps, or each a factor of the one before.
      def course(dial, asked, label)
        from, to, times, count = asked.values_at("from", "to", "times", "count")
        refuse("#{label} is no number, so say its values one by one.") unless %i[number whole].include?(dial.type)
        whole = [from, to || times].all?(Numeric) && count.is_a?(Integer) && count.between?(1, MOST)
        unless whole
          refuse("For #{label} say values, or from where to where (or times how much) and how many.")
        end

        step = to ? (to - from) / [count - 1.0, 1.0].max : 0.0
        values = count.times.map { |n| to ? from + n * step : from * times.to_f**n }
        (dial.type == :whole) ? values.map(&:round) : values.map { |value| value.to_f.round(6) }
      end

      def refuse(text, code = "bad_value") = raise(Refused.new(text, code: code))
    end
  end
end
