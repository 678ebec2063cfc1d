# frozen_string_literal: true

module Vumbral
  module Preflight
    # Whether what moves in its file moves in the shot too.
    class Moving
      def initialize(survey)
        @survey = survey
        @document = survey.document
      end

      # @return [Array<Finding>]
      def findings
        @document
          .of(:prop)
          .select { |prop| prop[:shape] == "mesh" && prop[:mesh] }
          .filter_map { |prop| still(prop) || empty(prop) }
      end

      private

      def clip(prop) = @survey.meshes.clip(prop[:mesh])

      def still(prop)
        return if prop[:plays] || !(clip = clip(prop))

        Finding.new(
          code: "stands_still",
          node: prop.id,
          dial: :plays,
          text:
            "#{prop.name} moves in its file, which has #{clip.frames.size} frames, but stands still here as at its " \
              "first.",
          remedy: Finding.remedy("Let it move", prop.id, plays: true)
        )
      end

      def empty(prop)
        return if !prop[:plays] || clip(prop)

        Finding.new(
          code: "no_motion", node: prop.id, dial: :plays,
          text: "#{prop.name} is to move by its file, but that holds no motion.",
          remedy: Finding.remedy("Let it stand", prop.id, plays: false)
        )
      end
    end
  end
end
