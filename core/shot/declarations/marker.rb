# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Marker = Kind.new(:marker, "Marker", plural: "Markers", chapter: :timeline,
        help: "A frame with a name, to find it again.") do
        group "Where", touches: :picture do
          whole :frame, "Frame", time: :at, default: 1, range: 0..100_000, slider: 1..240,
            help: "The frame that it marks."
        end
      end
    end
  end
end
