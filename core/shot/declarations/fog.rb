# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Fog = Kind.new(:fog, "Fog", plural: "Fogs", chapter: :light,
        help: "A medium that fills a closed prop or the whole shot, without a run: mist, haze, dust in the air.") do
        group "Where it lies", touches: :light do
          choice :fills, "Fills", default: "all", choices: {all: "the whole shot", prop: "the inside of a prop"},
            help: "What it fills."
          node :prop, "Prop", default: nil, of: :prop, only: {fills: %w[prop]},
            help: "The closed prop that it fills and moves with; hide the prop unless its skin shall be seen."
          number :soft, "Soft edge", unit: "m", default: 0.15, range: 0.0..1000.0, slider: 0.0..2.0, keyed: true,
            only: {fills: %w[prop]}, help: "How far inside the prop it is whole. 0 ends at once."
          number :reach, "Reaches", unit: "m", default: 60.0, range: 0.1..100_000.0, slider: 5.0..500.0,
            only: {fills: %w[all]}, help: "How far off it goes on."
        end
        group "How thick it is", touches: :light do
          number :thickness, "Thickness", unit: "per m", default: 0.12, range: 0.0..1000.0, slider: 0.0..2.0,
            keyed: true, mean_path: true, driven: :texture,
            help: "How much of the light a metre of it takes: 0.02 is a haze, 0.3 a fog, 5 felt."
          choice :course, "Course", default: "even", choices: {even: "even", low: "denser below"},
            help: "Fog banks lie low."
          number :level, "Whole below", unit: "m", default: 0.0, range: -10_000.0..10_000.0, slider: -2.0..5.0,
            keyed: true, only: {course: %w[low]}, help: "Height up to which it is whole."
          number :thins, "Thins over", unit: "m", default: 0.8, range: 0.001..10_000.0, slider: 0.1..10.0, keyed: true,
            only: {course: %w[low]}, help: "So much higher a third is left."
          node :texture, "Texture", default: nil, of: :texture, help: "A pattern that its thickness is multiplied by."
          number :textured, "How much of it", default: 1.0, range: 0.0..1.0, keyed: true,
            help: "0 leaves the texture out, 1 counts it whole."
        end
        group "How it looks", touches: :light do
          colour :colour, "Colour", default: [0.9, 0.9, 0.9], range: 0.0..1.0, keyed: true,
            help: "How much of the light it throws on (linear). White mist is 0.95, dust 0.7, smoke 0.4."
          number :forward, "Forwards", default: 0.35, range: -0.95..0.95, slider: -0.5..0.9, keyed: true,
            help: "How much light keeps its way: mist glows around lamps from 0.5 on."
          number :glow, "Glows", default: 0.0, range: 0.0..10_000.0, slider: 0.0..2.0, keyed: true,
            help: "Light of its own, where it is as thick as light gets."
          colour :glow_colour, "Colour of the glow", default: [1.0, 0.6, 0.3], range: 0.0..1.0, keyed: true,
            help: "Of its own light (linear)."
          number :around, "Light from around", default: 1.0, range: 0.0..100.0, slider: 0.0..2.0, keyed: true,
            help: "How much of the sky's light it shows."
        end
      end
    end
  end
end
