# frozen_string_literal: true

module Vumbral
  module Preflight
    # Whether what shall stand on what is below it has something there.
    class Resting
      def initialize(survey)
        @survey = survey
        @document = survey.document
      end

      # @return [Array<Finding>]
      def findings = @document.of(:prop).select { |prop| prop[:rests] }.filter_map { |prop| hanging(prop) }

      private

      def hanging(prop)
        frame = @survey.frames.find { |at| nothing?(prop, at) } or return

        Finding.new(
          code: "stands_on_nothing",
          node: prop.id,
          dial: :rests,
          text:
            "Nothing is under #{prop.name} that it could stand on at frame #{frame}, so it stays there where its " \
              "own place is.",
          remedy: Finding.remedy("Leave it where it is", prop.id, rests: false)
        )
      end

      def nothing?(prop, frame)
        Geometry::Resting.lasting(@document, prop, frame, @survey.meshes).nil?
      rescue Refused
        # What cannot be made is said by those who look at that.
        false
      end
    end
  end
end
