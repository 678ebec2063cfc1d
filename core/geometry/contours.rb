# frozen_string_literal: true

module Vumbral
  module Geometry
    # Closed lines in a plane, x to the right and y upwards: those that lie in others are holes in them, and so on
    # inwards (even and odd).
    class Contours
      # Closer than this share of the whole, points are one.
      CLOSE = 1e-7
      MOST_POINTS = 40_000

      # @return [Array<Array<Array<Float>>>] rings of [x, y], outer ones anticlockwise and holes clockwise
      attr_reader :rings

      # @param rings [Array<Array<Array<Float>>>] in any direction
      def initialize(rings)
        @rings = turned(rings.map { |ring| clean(ring) }.select { |ring| ring.size > 2 && area(ring).abs > 0.0 })
      end

      # @return [Array(Array<Float>, Array<Float>)] lowest and highest corner
      def bounds = @rings.flatten(1).transpose.map(&:minmax).transpose

      def empty? = @rings.empty?

      # @return [Contours] so many times as large
      def sized(times) = Contours.new(@rings.map { |ring| ring.map { |x, y| [x * times, y * times] } })

      # @return [Array<Array<Array>>] each solid with its holes: [outer ring, hole, hole, …]
      def solids
        depths = @rings.map { |ring| depth(ring) }
        outer = @rings.each_index.select { |n| depths[n].even? }
        outer.map do |n|
          [@rings[n]] +
            @rings
              .each_index
              .select { |m| depths[m] == depths[n] + 1 && inside?(@rings[m][0], @rings[n]) }
              .map { |m| @rings[m] }
        end
      end

      # Twice the area is positive where it runs anticlockwise.
      def self.area(ring) = 0.5 * ring.zip(ring.rotate).sum { |(a, b), (c, d)| a * d - c * b }

      private

      def area(ring) = Contours.area(ring)

      # Without points that lie on top of the one before.
      def clean(ring)
        spans = ring.transpose.map(&:minmax)
        least = CLOSE * spans.map { |low, high| high - low }.max.to_f
        ring
          .each_with_index
          .reject { |(x, y), n| ring[n - 1].then { |a, b| (x - a).abs <= least && (y - b).abs <= least } }
          .map(&:first)
      rescue NoMethodError
        []
      end

      def turned(rings)
        @rings = rings
        rings.map { |ring| (depth(ring).even? == area(ring).positive?) ? ring : ring.reverse }
      end

      # How many others it lies in.
      def depth(ring) =
        @rings.count { |other| !other.equal?(ring) && area(other).abs > area(ring).abs && inside?(ring[0], other) }

      # By how often a line to the right crosses it.
      def inside?((x, y), ring)
        ring.zip(ring.rotate).count { |(a, b), (c, d)| (b > y) != (d > y) && x < a + (c - a) * (y - b) / (d - b) }.odd?
      end
    end
  end
end
