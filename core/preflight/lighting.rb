# frozen_string_literal: true

module Vumbral
  module Preflight
    # Whether anything could be seen: no lamp, no sky and no fire, or a look that shows nothing.
    class Lighting
      # A chamber that takes less of the light than this, in optical depths at the density of a usual source, is not
      # seen.
      UNSEEN = 0.02
      # What looks may go by only where the chamber tells it: the dial of the look, its value, the chamber's switch and
      # its words.
      TOLD = [[:coloured_by, "age", :tells_age, "the smoke's age"],
        [:fire_by, "age_ramp", :tells_age, "the smoke's age"],
        [:fire_by, "burning_ramp", :tells_burning, "where it burns"]].freeze

      def initialize(survey)
        @survey = survey
        @document = survey.document
      end

      # @return [Array<Finding>]
      def findings = [dark, clear, thin, pictureless, *blank, *untold].compact

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

      # A look through which light goes all of the chamber's length as if there were nothing.
      def thin
        size = @document.the(:chamber)[:size].max
        if look.curves.key?(:thickness) || look[:thickness].zero? || look[:thickness] * size >= UNSEEN ||
            @document.of(:source).empty? || fire?
          return
        end

        Finding.new(
          code: "thin",
          node: look.id,
          dial: :thickness,
          text:
            "The smoke is so thin that light goes #{(1.0 / look[:thickness]).round} m through it, far more than the " \
              "chamber is long: it cannot be seen.",
          remedy: Finding.remedy("Make it thicker", look.id, thickness: (5.0 / size).round(2))
        )
      end

      # A sky by a picture that nobody brought is even.
      def pictureless
        sky = @document.the(:sky)
        return unless sky[:model] == "picture" && sky[:picture].nil?

        Finding.new(code: "no_sky_picture", node: sky.id, dial: :picture,
          text: "#{sky.name} goes by a picture all around, but none was brought; until then it is one colour.",
          remedy: Finding.remedy("Take a clear to hazy sky", sky.id, model: "clear"))
      end

      # A texture by a picture that nobody brought is even.
      def blank
        @document.of(:texture).select { |node| node[:what] == "picture" && node[:picture].nil? }.map do |node|
          Finding.new(code: "no_texture_picture", node: node.id, dial: :picture,
            text: "#{node.name} goes by a picture, but none was brought; until then it is even.",
            remedy: Finding.remedy("Let it be noise", node.id, what: "noise"))
        end
      end

      # A look by what the run does not tell.
      def untold
        chamber = @document.the(:chamber)
        return [] if @document.of(:source).empty?

        TOLD.select { |dial, by, switch, _| look[dial] == by && !chamber[switch] }.map do |dial, _, switch, words|
          Finding.new(code: "untold", node: look.id, dial: dial,
            text: "#{look.name} goes by #{words}, but the chamber does not tell it; until it does, this shows nothing.",
            remedy: Finding.remedy("Let the chamber tell #{words}", chamber.id, switch => true))
        end
      end

      def default = look.kind.dials.fetch(:thickness).default
    end
  end
end
