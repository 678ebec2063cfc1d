# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Force = Kind.new(:force, "Force", plural: "Forces", chapter: :forces,
        help: "Pushes gas and liquid, in a place or everywhere.") do
        group "What it does" do
          choice :what, "Force", default: "wind",
            help: "Wind draws the gas to its own speed; push adds to it; pull draws to a place; cling to a prop's " \
              "surface; spray of a liquid takes gas along; wipe takes matter away.",
            choices: {wind: "wind", push: "push along a direction", pull: "pull to a place",
                      cling: "cling to a surface", swirl: "swirl about an axis", drag: "drag", turbulence: "turbulence",
                      spray: "go along with spray", wipe: "wipe-out"}
          choice :acts_on, "Acts on", default: "all", choices: {all: "gas and liquid", gas: "gas", liquid: "liquid"},
            help: "What it pushes, where a shot has both."
          number :strength, "How strongly", default: 2.0, range: -1000.0..1000.0, slider: 0.0..20.0, keyed: true,
            units: {
              what: {
                wind: "m/s", push: "m/s²", pull: "m/s²", cling: "m/s²", swirl: "m/s²", drag: "per s",
                turbulence: "m²/s³", spray: "per s", wipe: "per s"
              }
            },
            help: "The speed of a wind, the acceleration of a push, the power of turbulence, the rate of drag, of " \
              "spray and of wipe-out. Negative turns it round."
          number :grip, "Grip", unit: "per s", default: 2.0, range: 0.0..100.0, slider: 0.0..10.0, keyed: true,
            only: {what: %w[wind]},
            help: "How soon the gas takes on the wind's speed."
          vector :direction, "Direction", default: [1.0, 0.0, 0.0], range: -1000.0..1000.0, slider: -1.0..1.0,
            keyed: true, only: {what: %w[wind push swirl]},
            help: "Which way; for a swirl, its axis. Only the direction counts."
          node :prop, "Prop", default: nil, of: :prop, only: {what: %w[cling]}, help: "The surface that draws."
          number :size, "Size", unit: "m", default: 0.4, range: 0.001..1000.0, slider: 0.05..2.0,
            only: {what: %w[turbulence]}, help: "Across one swirl of the largest octave."
          number :speed, "Pattern speed", unit: "per s", default: 1.5, range: 0.0..100.0, slider: 0.0..6.0,
            only: {what: %w[turbulence]}, help: "How often the swirls change."
          whole :octaves, "Octaves", default: 3, range: 1..6, only: {what: %w[turbulence]},
            help: "Each further one is half as large and half as strong."
          choice :mask, "Stirs", default: "content", choices: MASKS, only: {what: %w[turbulence]},
            help: "What is stirred."
        end
        group "Where" do
          choice :falloff, "Falloff", default: "everywhere",
            choices: {everywhere: "everywhere", sphere: "sphere", box: "box", line: "around a line"},
            help: "Where it acts. The shape can be seen and moved in the view."
          node :leader, "Goes with", default: nil, of: :prop,
            help: "A prop that takes it along: its place and way are then as seen from there."
          vector :position, "Position", unit: "m", default: [0.0, 1.0, 0.0], range: -10_000.0..10_000.0,
            slider: -5.0..5.0, keyed: true,
            help: "Its middle; of a line, where it begins; of a pull, the place itself."
          vector :line_end, "Line's end", unit: "m", default: [0.0, 3.0, 0.0], range: -10_000.0..10_000.0,
            slider: -5.0..5.0, keyed: true, only: {falloff: %w[line]},
            help: "Where the line ends."
          vector :extent, "Size of the box", unit: "m", default: [1.0, 1.0, 1.0], range: 0.001..10_000.0,
            slider: 0.1..5.0, keyed: true, only: {falloff: %w[box]},
            help: "Full lengths."
          number :reach, "Reach", unit: "m", default: 1.0, range: 0.001..10_000.0, slider: 0.1..5.0, keyed: true,
            help: "Radius of the sphere or around the line; how far a surface draws."
          number :soft, "Soft edge", default: 0.5, range: 0.0..1.0, keyed: true,
            help: "Which part of the shape fades. 0 is a hard edge, 1 fades from the middle on."
        end
        Shake.declare(self, turns: false)
        group "How even" do
          number :uneven, "Unevenness", default: 0.0, range: 0.0..1.0, keyed: true,
            help: "How much it differs from place to place. 0 is the same everywhere, 1 leaves places where it does " \
              "nothing."
          node :texture, "By a texture", default: nil, of: :texture,
            help: "How strong it is at each place: from none at 0 to all at 1. One that reads a sculpt lets it act " \
              "where that is dense."
          number :uneven_size, "Uneven size", unit: "m", default: 0.4, range: 0.001..1000.0, slider: 0.05..3.0,
            help: "Across one strong or weak place."
        end
        group "When" do
          whole :first, "From frame", time: :from, default: 1, range: 0..100_000, slider: 1..240,
            help: "The first frame on which it acts."
          whole :last, "To frame", time: :to, default: 0, range: 0..100_000, slider: 0..240, zero: "the end",
            help: "The last frame on which it acts. 0: as long as the shot lasts."
        end
      end
    end
  end
end
