# frozen_string_literal: true

module Vumbral
  module Preflight
    # Whether chambers that touch let gas pass.
    class Joining
      def initialize(survey)
        @survey = survey
      end

      # @return [Array<Finding>]
      def findings
        @survey.plan.rooms.combination(2).filter_map do |one, other|
          shut(one, other) unless one.leads_to?(other) || one.touched_by(other).empty?
        end
      end

      private

      def shut(one, other)
        side = one.touched_by(other).first
        opposite = Gas::Room::OPPOSITE.fetch(side)
        room, dial = one.open[side] ? [other, opposite] : [one, side]
        dial = :"open_#{dial}"
        label = room.node.kind.dial(dial).label
        Finding.new(
          code: "shut",
          node: room.node.id,
          dial: dial,
          remedy: Finding.remedy("Open it", room.node.id, {dial => true}),
          text:
            "#{one.node.name} and #{other.node.name} touch, but no gas passes: the side #{label} of " \
              "#{room.node.name} is closed."
        )
      end
    end
  end
end
