# frozen_string_literal: true

module Vumbral
  module Shot
    # One thing in a shot. Holds only what differs from the defaults. Never changed in place.
    class Node
      # What a switch may say of a node: `off` takes it out of the shot, `only` leaves out the others of its kind,
      # `locked` keeps it from being moved by hand.
      SWITCHES = %i[off only locked].freeze
      # Of one whose groups do not count, which no saved shot has.
      BARE = :bare

      attr_reader :id, :kind, :name, :values, :curves, :switches

      # @param values [Hash{Symbol => Object}] dials that differ from their default
      # @param curves [Hash{Symbol => Curve, Rule}] dials that change over time, or go by a formula
      # @param switches [Array<Symbol>] of {SWITCHES}
      def initialize(id, kind, name, values = {}, curves = {}, switches = [])
        @id, @kind, @name, @values, @curves, @switches = id, kind, name, values.freeze, curves.freeze, switches.freeze
      end

      # @return [Object] a dial's value at a frame; without one, its own value
      def [](dial, frame = nil)
        curve = @curves[dial]
        return curve.at(frame) if curve && (frame || curve.is_a?(Rule))

        plain(dial)
      end

      # @return [Object] a dial's own value, whatever its keys and formula say
      def plain(dial) = @values.fetch(dial) { @kind.dials.fetch(dial).default }

      # @return [Ramp] a dial's stops as a course
      def ramp(dial) = Ramp.new(plain(dial))

      # @return [Rule, nil] a dial's formula
      def rule(dial) = @curves[dial].then { |curve| curve if curve.is_a?(Rule) }

      # @return [Curve, nil] what a dial's keys say
      def keyed(dial) = rule(dial)&.under || @curves[dial].then { |curve| curve if curve.is_a?(Curve) }

      # The same as one of a document, where its formulas can be asked.
      # @return [Node]
      def of(document)
        return self if @curves.none? { |_, curve| curve.is_a?(Rule) }

        with(curves: @curves.transform_values { |curve| curve.is_a?(Rule) ? curve.of(document, self) : curve })
      end

      # What was found out about it, kept as long as it is; the newest of its kind alone.
      # @param key [Array] what it is, then what it depends on besides the node
      def remember(key)
        @found ||= {}
        kept = @found[key.first]
        return kept[1] if kept && kept[0] == key

        yield.tap { |found| @found[key.first] = [key, found] }
      end

      # @return [Boolean] whether it acts at a frame, as {Timing.on?}
      def acting?(frame) = Timing.on?(self, frame)

      def off? = @switches.include?(:off)

      def only? = @switches.include?(:only)

      def locked? = @switches.include?(:locked)

      def with(name: @name, values: @values, curves: @curves, switches: @switches)
        Node.new(@id, @kind, name, values, curves, switches)
      end

      # @return [Node] with a checked value; the default is not kept
      def set(dial, value)
        kept = (value == @kind.dials.fetch(dial).default) ? @values.except(dial) : @values.merge(dial => value)
        with(values: kept)
      end

      # Plain data, as saved.
      def to_h
        courses = @curves.keys.to_h { |dial| [dial, keyed(dial)] }.compact
        beyond = courses.reject { |_, curve| curve.holds? }.transform_values { |curve| [curve.before, curve.after] }
        formulas = @curves.select { |_, curve| curve.is_a?(Rule) }.transform_values(&:to_data)
        {
          id: @id, kind: @kind.name, name: @name, dials: @values, keys: courses.transform_values(&:to_a),
          **{beyond: beyond, formulas: formulas}.reject { |_, table| table.empty? },
          **@switches.to_h { |name| [name, true] }
        }
      end
    end
  end
end
