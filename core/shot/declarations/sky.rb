# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Sky = Kind.new(:sky, "Sky fill", plural: "Sky fill", chapter: :light, single: true,
        help: "Soft light from everywhere that opens the shadows.") do
        group "Light", touches: :light do
          number :strength, "Strength", default: 0.35, range: 0.0..1000.0, slider: 0.0..3.0,
            help: "How much light comes from all around. 0 leaves shadows black."
          colour :colour, "Colour", default: [0.62, 0.75, 1.0], range: 0.0..1.0, help: "Colour of the light (linear)."
        end
      end
    end
  end
end
