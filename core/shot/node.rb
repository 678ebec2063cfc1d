# frozen_string_literal: true

module Vumbral
  module Shot
    # One thing in a shot. Holds only what differs from the defaults. Never changed in place.
    class Node
      # What a switch may say of a node: `off` takes it out of the shot, `only` leaves out the others of its kind,
      # `locked` keeps it from being moved by hand.
      SWITCHES = %i[off only locked].freeze

      attr_reader :id, :kind, :name, :values, :curves, :switches

      # @param values [Hash{Symbol => Object}] dials that differ from their default
      # @param curves [Hash{Symbol => Curve}] dials that change over time
      # @param switches [Array<Symbol>] of {SWITCHES}
      def initialize(id, kind, name, values = {}, curves = {}, switches = [])
        @id, @kind, @name, @values, @curves, @switches = id, kind, name, values.freeze, curves.freeze, switches.freeze
      end

      # @return [Object] a dial's value at a frame; without one, its own value
      def [](dial, frame = nil)
        curve = @curves[dial]
        return curve.at(frame) if curve && frame

        @values.fetch(dial) { @kind.dials.fetch(dial).default }
      end

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
        {id: @id, kind: @kind.name, name: @name, dials: @values, keys: @curves.transform_values(&:to_a),
         **@switches.to_h { |name| [name, true] }}
      end
    end
  end
end
