# frozen_string_literal: true

module Vumbral
  module Shot
    # A dial's course by formulas of the frame and of other dials: one for a number, up to three for the parts of a
    # vector or colour. A part without one goes on as it would otherwise.
    class Rule
      PARTS = {vector: %w[x y z], colour: %w[r g b]}.freeze
      TYPES = %i[number whole switch vector colour].freeze

      # @return [Array<String, nil>] one for each part
      attr_reader :texts
      # @return [Curve, nil] what the dial's keys say
      attr_reader :under

      # @param dial [Dial]; @param texts [Array<String, nil>]; @param under [Curve, nil]
      # @raise [Refused] for what is no formula
      def initialize(dial, texts, under: nil)
        @dial, @texts, @under = dial, texts.freeze, under
        @formulas = texts.map { |text| text && Formula.new(text, dials: true) }
        place = @formulas.compact.find(&:spatial?)
        return unless place

        raise Refused.new(
          "The formula #{place.text[0, 60].inspect} of #{dial.label} asks for a place, but this has none; " \
            "it can use frame, t, seed, value and other dials.",
          code: "bad_formula"
        )
      end

      # The same for a node of a document, where it can be asked.
      # @return [Rule]
      def of(document, node) = dup.tap { |rule| rule.stand(document, node) }

      # @api private
      def stand(document, node)
        @document, @node, @asked = document, node, nil
      end

      # @return [Float, Integer, Array<Float>, Boolean] within what the dial can be
      def at(frame)
        frame ||= @document.first_frame
        own = @under ? @under.at(frame) : @node.plain(@dial.name)
        return fitted(number(@formulas[0], own, frame)) unless several?

        own.each_index.map { |n| @formulas[n] ? fitted(number(@formulas[n], own[n], frame)) : own[n] }
      end

      # @return [Array<Reference>] dials that it asks for
      def sources = asked.values

      # @return [Boolean] whether it goes by the frame itself
      def moves? = @formulas.compact.any?(&:moves?)

      # @return [Boolean] whether what it comes to had to be held within the dial's range, or divides by nothing
      def beyond?(frame)
        return false unless @dial.range

        own = @under ? @under.at(frame) : @node.plain(@dial.name)
        @formulas.each_with_index.any? do |formula, n|
          formula && !@dial.range.cover?(number(formula, several? ? own[n] : own, frame))
        end
      end

      def keys = @under ? @under.keys : []

      def ease_at(frame) = @under&.ease_at(frame)

      def empty? = @texts.compact.empty?

      # @return [String, Array<String, nil>] as it is saved
      def to_data = several? ? @texts : @texts[0]

      def ==(other) = other.is_a?(Rule) && texts == other.texts && under == other.under

      private

      # Not before they are wanted, for the shot may be on its way to what it will be.
      def asked
        @asked ||=
          @formulas
            .compact
            .flat_map { |formula| formula.references.values }
            .uniq
            .to_h { |name| [name, Reference.find(@document, name)] }
      end

      def several? = Rule::PARTS.key?(@dial.type)

      def number(formula, own, frame)
        given = formula.references.transform_values { |name| asked.fetch(name).value(@document, frame) }
        own = own ? 1.0 : 0.0 if [true, false].include?(own)
        time = (frame - @document.first_frame) / @document.rate.to_f
        formula.number(frame: frame, time: time, seed: @document.the(:general).plain(:seed), before: own, given: given)
      end

      def fitted(number)
        return !number.zero? if @dial.type == :switch

        number = number.clamp(@dial.range.begin, @dial.range.end) if @dial.range
        (@dial.type == :whole) ? number.round : number
      end
    end
  end
end
