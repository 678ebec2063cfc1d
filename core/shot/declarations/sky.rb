# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Sky = Kind.new(:sky, "Sky fill", plural: "Sky fill", chapter: :light, always: :one,
        help: "Soft light from everywhere that opens the shadows.") do
        group "Light", touches: :light do
          choice :model, "Kind", default: "even", choices: {even: "one colour all around",
                                                            clear: "clear to hazy, by the sun's height",
                                                            picture: "a picture all around"},
            help: "A real sky is brightest around the sun and pale at the horizon."
          picture :picture, "Picture", default: nil, only: {model: ["picture"]},
            help: "Of everything around, twice as wide as high: OpenEXR or Radiance HDR with real light. Its " \
              "brightest places become suns with shadows."
          number :around, "Turned", unit: "°", default: 0.0, range: -3600.0..3600.0, slider: -180.0..180.0, keyed: true,
            only: {model: ["picture"]}, help: "About the upright: which part of it lies ahead."
          number :strength, "Sky's light", default: 0.35, range: 0.0..1000.0, slider: 0.0..3.0,
            help: "How much light comes from all around. 0 leaves shadows black."
          colour :colour, "Colour", default: [0.62, 0.75, 1.0], range: 0.0..1.0, help: "Colour of the light (linear)."
          number :haze, "Haze", default: 3.0, range: 1.7..10.0, slider: 1.7..10.0, only: {model: ["clear"]},
            help: "2 is a clear mountain sky, 4 a summer's day, 8 milky."
          colour :below, "From below", default: [0.3, 0.28, 0.25], range: 0.0..1.0,
            help: "How much of it the ground sends back up, for red, green and blue."
        end
        group "Distance", touches: :light do
          number :fade, "Fades over", unit: "m", default: 0.0, range: 0.0..100_000.0, slider: 0.0..500.0, zero: "never",
            help: "How far off props and ground go over into the haze above the horizon."
          number :hills, "Hills far off", unit: "°", default: 0.0, range: 0.0..30.0, slider: 0.0..10.0, zero: "none",
            only: {model: %w[even clear]},
            help: "How high the farthest of three rows of ridges stands above the horizon, in haze; behind pictures " \
              "that show the sky."
          whole :hills_seed, "Which hills", default: 1, range: 0..9999, only: {model: %w[even clear]},
            help: "Another number is another skyline."
          colour :hills_colour, "Colour of the hills", default: [0.08, 0.08, 0.06], range: 0.0..1.0,
            only: {model: %w[even clear]}, help: "How much light they throw back (linear)."
        end
      end
    end
  end
end
