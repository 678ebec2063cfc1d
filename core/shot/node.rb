# frozen_string_literal: true

module Vumbral
  module Shot
    # One thing in a shot. Holds only what differs from the defaults. Never changed in place.
    class Node
      attr_reader :id, :kind, :name, :values, :curves

      # @param values [Hash{Symbol => Object}] dials that differ from their default
      # @param curves [Hash{Symbol => Curve}] dials that change over time
      def initialize(id, kind, name, values = {}, curves = {})
        @id, @kind, @name, @values, @curves = id, kind, name, values.freeze, curves.freeze
      end

      # @return [Object] a dial's value at a frame; without one, its own value
      def [](dial, frame = nil)
        curve = @curves[dial]
        return curve.at(frame) if curve && frame

        @values.fetch(dial) { @kind.dials.fetch(dial).default }
      end

      def with(name: @name, values: @values, curves: @curves) = Node.new(@id, @kind, name, values, curves)

      # @return [Node] with a checked value; the default is not kept
      def set(dial, value)
        kept = (value == @kind.dials.fetch(dial).default) ? @values.except(dial) : @values.merge(dial => value)
        with(values: kept)
      end

      # Plain data, as saved.
      def to_h
        {id: @id, kind: @kind.name, name: @name, dials: @values, keys: @curves.transform_values(&:to_a)}
      end
    end
  end
end
