# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Look = Kind.new(:look, "Smoke look", plural: "Smoke look", chapter: :light, single: true, help: "How the smoke takes up light.") do
        group "Body", touches: :light do
          number :thickness, "Thickness", unit: "per m", default: 9.0, range: 0.0..10_000.0, slider: 0.0..40.0, help: "How much light a metre of density 1 takes away. Low is haze, high is a solid."
          colour :colour, "Colour", default: [0.82, 0.81, 0.8], range: 0.0..1.0, help: "How much of the light that meets the smoke goes on, for red, green and blue (linear)."
          number :shadow, "Shadow depth", default: 0.8, range: 0.0..10.0, slider: 0.0..2.0, help: "How dark the smoke is to itself: 1 is straight light only, less stands for light that is passed on inside."
        end
      end
    end
  end
end
