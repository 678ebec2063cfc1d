# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Look = Kind.new(:look, "Look", plural: "Looks", chapter: :light, always: :first,
        help: "How the smoke takes up light and how the fire glows. A shot may have several; the picture shows one.") do
        group "Body", touches: :light do
          number :thickness, "Thickness", unit: "per m", default: 9.0, range: 0.0..10_000.0, slider: 0.0..40.0,
            keyed: true, mean_path: true,
            help: "How much light a metre of density 1 takes away. Low is haze, high is a solid."
          colour :colour, "Colour", default: [0.82, 0.81, 0.8], range: 0.0..1.0,
            help: "How much of the light that meets the smoke goes on, for red, green and blue (linear)."
          number :shadow, "Shadow depth", default: 0.8, range: 0.0..10.0, slider: 0.0..2.0, keyed: true,
            help: "How dark the smoke is to itself and to what is behind it: 1 is what its thickness says, less lets " \
              "lamps in deeper."
          number :lamplight, "Lamps on smoke", default: 1.0, range: 0.0..100.0, slider: 0.0..4.0, keyed: true,
            help: "How strongly smoke shows the light of lamps, suns and sky: 1 is as it is. The fire's own light " \
              "has its own dial."
          number :bounces, "Bounces", default: 100.0, range: 0.0..100.0, slider: 0.0..30.0, keyed: true,
            help: "How often light may go on within the smoke before it is lost: 0 is straight from the lamp to the " \
              "eye, 100 all of it."
          number :forward, "Forwards", default: 0.25, range: -0.95..0.95, slider: -0.5..0.9,
            help: "Which way light goes on: 0 all ways alike, 0.6 glows against the light like mist, below 0 sends " \
              "it back."
          number :back, "Second direction", default: -0.2, range: -0.95..0.95, slider: -0.9..0.5,
            help: "The same for the part of the light that goes its own way."
          number :back_share, "Second's share", default: 0.0, range: 0.0..1.0,
            help: "How much of the light goes the second way."
        end
        group "Shape", touches: :light do
          ramp :density_ramp, "Density", of: :number, over: :smoke, default: [], range: 0.0..1000.0,
            values: 0.0..1000.0,
            help: "Which density is shown (up) for each that was run (across). Without stops they are the same."
          number :edge, "Edge", default: 0.0, range: -1.0..4.0, slider: -1.0..2.0, keyed: true,
            help: "Above 0 thin smoke gets thinner, so that edges grow crisp; below 0 it gets thicker, and edges " \
              "soft."
          number :edge_at, "Edge at", default: 0.15, range: 0.0001..100.0, slider: 0.01..1.0,
            help: "The density at which an edge lies."
          text :formula, "Formula", default: "value",
            help: "The density that is shown, for each place and frame. Names: value (the density so far), frame, t, " \
              "x, y, z, u, v, w (place in the chamber), seed. For example value * smooth(-0.2, 0.3, noise(6 * x, " \
              "6 * y - t, 6 * z))."
          node :texture, "Density by", default: nil, of: :texture,
            help: "A texture that the density is multiplied by, as it lies in the world or on the prop that it " \
              "goes with: wisps in plain smoke, a picture in fog."
          number :textured, "How much of it", default: 1.0, range: 0.0..1.0, keyed: true, only: {texture: :set},
            help: "0 leaves the texture out, 1 counts it whole."
        end
        group "Smoke's colours", touches: :light do
          choice :coloured_by, "Colour by", default: "one",
            choices: {
              one: "one colour", smoke: "ramp over density", heat: "ramp over temperature", age: "ramp over age"
            }, help: "Whether the smoke has one colour, or one for each density, temperature or age."
          ramp :smoke_ramp, "Colours", of: :colour, over: :smoke, only: {coloured_by: %w[smoke]},
            default: [{"at" => 0.0, "value" => [0.9, 0.9, 0.9], "pass" => "smooth"}, {"at" => 1.0, "value" => [0.3,
              0.28, 0.26], "pass" => "smooth"}],
            range: 0.0..1000.0, values: 0.0..1.0,
            help: "The smoke's colour over its density as it was run. It multiplies the colour above."
          ramp :heat_ramp, "Colours", of: :colour, over: :temperature, unit: "K", only: {coloured_by: %w[heat]},
            default: [
              {"at" => 300.0, "value" => [0.9, 0.9, 0.9], "pass" => "smooth"},
              {"at" => 800.0, "value" => [0.2, 0.18, 0.16], "pass" => "smooth"}
            ],
            range: 0.0..6000.0, values: 0.0..1.0,
            help: "The smoke's colour over its temperature. It multiplies the colour above."
          ramp :age_ramp, "Colours", of: :colour, over: :age, unit: "s", only: {coloured_by: %w[age]},
            default: [
              {"at" => 0.0, "value" => [0.25, 0.2, 0.16], "pass" => "smooth"},
              {"at" => 2.0, "value" => [0.9, 0.9, 0.9], "pass" => "smooth"}
            ],
            range: 0.0..10_000.0, values: 0.0..1.0,
            help: "The smoke's colour over how long ago it came, where the chamber tells it. It multiplies the " \
              "colour above."
        end
        group "Fire", touches: :light do
          choice :fire_by, "Glows by", default: "heat",
            choices: {heat: "temperature, as a black body", heat_ramp: "ramps over temperature",
                      fuel_ramp: "ramps over fuel", burning_ramp: "ramps over burning", age_ramp: "ramps over age"},
            help: "What the fire's colour and strength follow."
          number :fire, "Fire", default: 1.0, range: 0.0..1000.0, slider: 0.0..5.0, keyed: true,
            help: "How bright hot gas is. 0 shows none."
          number :fire_from, "Glows from", unit: "K", default: 800.0, range: 300.0..5000.0, slider: 500.0..1500.0,
            keyed: true, only: {fire_by: %w[heat]},
            help: "Gas below this temperature does not glow."
          number :fire_offset, "Colour offset", unit: "K", default: 0.0, range: -5000.0..5000.0,
            slider: -800.0..1500.0, keyed: true, only: {fire_by: %w[heat]},
            help: "Added before the colour of a black body is taken: more is whiter, less is redder."
          number :fire_rise, "Rise", default: 3.0, range: 0.5..8.0, keyed: true, only: {fire_by: %w[heat]},
            help: "How much brighter hotter gas is, as a power. 4 is nature's total, 2 evens a fire out."
          ramp :fire_heat_colours, "Fire's colours", of: :colour, over: :temperature, unit: "K",
            only: {fire_by: %w[heat_ramp]},
            default: [
              {"at" => 700.0, "value" => [1.0, 0.1, 0.0], "pass" => "smooth"},
              {"at" => 1500.0, "value" => [1.0, 0.75, 0.4], "pass" => "smooth"}
            ],
            range: 0.0..6000.0, values: 0.0..1.0, help: "The fire's colour over the gas's temperature."
          ramp :fire_heat_strength, "Fire's strength", of: :number, over: :temperature, unit: "K",
            only: {fire_by: %w[heat_ramp]},
            default: [{"at" => 700.0, "value" => 0.0, "pass" => "smooth"}, {"at" => 1500.0, "value" => 1.0,
                                                                            "pass" => "smooth"}],
            range: 0.0..6000.0, values: 0.0..100.0,
            help: "How bright it is over the gas's temperature. It multiplies Fire."
          ramp :fire_fuel_colours, "Fire's colours", of: :colour, over: :fuel, only: {fire_by: %w[fuel_ramp]},
            default: [{"at" => 0.0, "value" => [1.0, 0.3, 0.05], "pass" => "smooth"}, {"at" => 1.0, "value" => [0.3,
              0.5, 1.0], "pass" => "smooth"}],
            range: 0.0..100.0, values: 0.0..1.0,
            help: "The fire's colour over the fuel that is left in the gas."
          ramp :fire_fuel_strength, "Fire's strength", of: :number, over: :fuel, only: {fire_by: %w[fuel_ramp]},
            default: [{"at" => 0.0, "value" => 0.0, "pass" => "smooth"}, {"at" => 0.3, "value" => 1.0,
                                                                          "pass" => "smooth"}],
            range: 0.0..100.0, values: 0.0..100.0,
            help: "How bright it is over the fuel that is left in the gas. It multiplies Fire."
          ramp :fire_burning_colours, "Fire's colours", of: :colour, over: :burning, unit: "per s",
            only: {fire_by: %w[burning_ramp]},
            default: [
              {"at" => 0.0, "value" => [0.2, 0.4, 1.0], "pass" => "smooth"},
              {"at" => 2.0, "value" => [0.6, 0.8, 1.0], "pass" => "smooth"}
            ],
            range: 0.0..1000.0, values: 0.0..1.0,
            help: "The fire's colour over how much fuel burns a second, where the chamber tells it."
          ramp :fire_burning_strength, "Fire's strength", of: :number, over: :burning, unit: "per s",
            only: {fire_by: %w[burning_ramp]},
            default: [
              {"at" => 0.0, "value" => 0.0, "pass" => "smooth"},
              {"at" => 2.0, "value" => 1.0, "pass" => "smooth"}
            ],
            range: 0.0..1000.0, values: 0.0..100.0,
            help: "How bright it is over how much fuel burns a second. It multiplies Fire."
          ramp :fire_age_colours, "Fire's colours", of: :colour, over: :age, unit: "s", only: {fire_by: %w[age_ramp]},
            default: [
              {"at" => 0.0, "value" => [1.0, 0.8, 0.5], "pass" => "smooth"},
              {"at" => 1.0, "value" => [1.0, 0.15, 0.02], "pass" => "smooth"}
            ],
            range: 0.0..10_000.0, values: 0.0..1.0,
            help: "The fire's colour over how long ago the smoke came, where the chamber tells it."
          ramp :fire_age_strength, "Fire's strength", of: :number, over: :age, unit: "s", only: {fire_by: %w[age_ramp]},
            default: [
              {"at" => 0.0, "value" => 1.0, "pass" => "smooth"},
              {"at" => 1.0, "value" => 0.0, "pass" => "smooth"}
            ],
            range: 0.0..10_000.0, values: 0.0..100.0,
            help: "How bright it is over how long ago the smoke came. It multiplies Fire."
          number :glow, "Glow on smoke", default: 1.0, range: 0.0..100.0, slider: 0.0..4.0, keyed: true,
            help: "How much the fire lights the smoke and the props around it."
        end
      end
    end
  end
end
