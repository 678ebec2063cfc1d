# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Look = Kind.new(:look, "Smoke look", plural: "Smoke look", chapter: :light, single: true,
        help: "How the smoke takes up light.") do
        group "Body", touches: :light do
          number :thickness, "Thickness", unit: "per m", default: 9.0, range: 0.0..10_000.0, slider: 0.0..40.0, help: "How much light a metre of density 1 takes away. Low is haze, high is a solid."
          colour :colour, "Colour", default: [0.82, 0.81, 0.8], range: 0.0..1.0, help: "How much of the light that meets the smoke goes on, for red, green and blue (linear)."
          number :shadow, "Shadow depth", default: 0.8, range: 0.0..10.0, slider: 0.0..2.0, help: "How dark the smoke is to itself and to what is behind it: 1 is what its thickness says, less lets lamps in deeper."
          number :forward, "Forwards", default: 0.25, range: -0.95..0.95, slider: -0.5..0.9, help: "Which way light goes on: 0 all ways alike, 0.6 glows against the light like mist, below 0 sends it back."
          number :back, "Second direction", default: -0.2, range: -0.95..0.95, slider: -0.9..0.5, help: "The same for the part of the light that goes its own way."
          number :back_share, "Second's share", default: 0.0, range: 0.0..1.0, help: "How much of the light goes the second way."
        end
        group "Fire", touches: :light do
          number :fire, "Fire", default: 1.0, range: 0.0..1000.0, slider: 0.0..5.0, keyed: true, help: "How bright hot gas is. 0 shows none."
          number :fire_from, "Glows from", unit: "K", default: 800.0, range: 300.0..5000.0, slider: 500.0..1500.0, keyed: true, help: "Gas below this temperature does not glow."
          number :fire_offset, "Colour offset", unit: "K", default: 0.0, range: -5000.0..5000.0, slider: -800.0..1500.0, keyed: true, help: "Added before the colour of a black body is taken: more is whiter, less is redder."
          number :fire_rise, "Rise", default: 3.0, range: 0.5..8.0, keyed: true, help: "How much brighter hotter gas is, as a power. 4 is nature's total, 2 evens a fire out."
          number :glow, "Glow on smoke", default: 1.0, range: 0.0..100.0, slider: 0.0..4.0, keyed: true, help: "How much the fire lights the smoke and the props around it."
        end
      end
    end
  end
end
