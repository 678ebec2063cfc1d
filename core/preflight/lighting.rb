# frozen_string_literal: true

module Vumbral
  module Preflight
    # Whether anything could be seen: no lamp, no sky and no fire, or a look that shows nothing.
    class Lighting
      def initialize(survey)
        @survey = survey
        @document = survey.document
      end

      # @return [Array<Finding>]
      def findings = [dark, clear].compact

      private

      def lamps = @document.of(:sun) + @document.of(:lamp) + [@document.the(:sky)]

      def shines?(node) = node.curves.key?(:strength) || node[:strength].positive?

      def dark
        return if lamps.any? { |lamp| shines?(lamp) } || fire?

        lamp = lamps.first
        Finding.new(code: "dark", node: lamp.id, dial: :strength,
          text: "Everything is dark: no sun, lamp or sky shines, and nothing burns.",
          remedy: Finding.remedy("Let #{lamp.name} shine", lamp.id, strength: 1.0))
      end

      def fire? = look[:fire].positive? && (@survey.plan.fuel? || @survey.feeding.any? { |source|
        source[:heats] &&
              source[:temperature] > 900.0
      })

      def look = @document.look

      def clear
        return if look.curves.key?(:thickness) || look[:thickness].positive? || fire?

        Finding.new(code: "clear", node: look.id, dial: :thickness,
          text: "The smoke cannot be seen: its thickness is 0.",
          remedy: Finding.remedy("Set the thickness to #{default.round(1)} per m", look.id, thickness: default))
      end

      def default = look.kind.dials.fetch(:thickness).default
    end
  end
end
