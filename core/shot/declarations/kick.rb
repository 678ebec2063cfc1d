# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Kick = Kind.new(:kick, "Kick", plural: "Kicks", chapter: :forces,
        help: "Gives the liquid within a shape a speed: a crown thrown from a bowl's rim, a likeness that rises.") do
        group "Where" do
          node :prop, "Inside of", default: nil, of: :prop,
            help: "The liquid inside this prop is kicked. Without one, that inside the box below."
          node :leader, "Goes with", default: nil, of: :prop,
            help: "A prop that takes the box along: its place is then as seen from there."
          vector :position, "Middle of the box", unit: "m", default: [0.0, 0.3, 0.0], range: -10_000.0..10_000.0,
            slider: -5.0..5.0, keyed: true, help: "Counts without a prop."
          vector :extent, "Size of the box", unit: "m", default: [0.5, 0.3, 0.5], range: 0.001..10_000.0,
            slider: 0.05..3.0, keyed: true, help: "Full lengths. Counts without a prop."
          number :soft, "Fades outward", unit: "m", default: 0.0, range: 0.0..100.0, slider: 0.0..0.5, keyed: true,
            zero: "at once", help: "How far from the shape the liquid still takes part, less and less."
        end
        Shake.declare(self, turns: false)
        group "What it gives" do
          choice :how, "Speed is", default: "set", choices: {set: "set", add: "added"},
            help: "Set: the liquid there has this speed as long as the kick is on. Added: it gains so much over " \
              "its frames."
          vector :velocity, "Speed", unit: "m/s", default: [0.0, 3.0, 0.0], range: -1000.0..1000.0, slider: -10.0..10.0,
            keyed: true, help: "A direction and how fast. 3 upwards comes some 45 cm high."
          number :along, "Out of the shape", unit: "m/s", default: 0.0, range: -1000.0..1000.0, slider: -10.0..10.0,
            keyed: true, help: "Straight away from the shape's surface; negative draws in."
          switch :by_formula, "By formulas", default: false,
            help: "Three further parts of the speed, each a number for each place."
          text :formula_x, "Along x", default: "0", only: {by_formula: [true]},
            help: "Metres a second. Names: frame, t, x, y, z, u, v, w (place in the box), seed."
          text :formula_y, "Along y", default: "0", only: {by_formula: [true]},
            help: "Metres a second upwards, for example 4 - 20 * (x * x + z * z)."
          text :formula_z, "Along z", default: "0", only: {by_formula: [true]},
            help: "Metres a second, by the same names."
          number :uneven, "Unevenness", default: 0.2, range: 0.0..1.0, keyed: true,
            help: "How much it differs from place to place: fingers in a crown, tears in a sheet."
          number :uneven_size, "Uneven size", unit: "m", default: 0.08, range: 0.001..1000.0, slider: 0.01..0.5,
            help: "Across one strong or weak place."
        end
        group "When" do
          number :strength, "How strongly", unit: "times", default: 1.0, range: 0.0..100.0, slider: 0.0..2.0,
            keyed: true, help: "Multiplies its speed."
          whole :first, "From frame", time: :from, default: 6, range: 0..100_000, slider: 1..240,
            help: "The first frame on which it kicks."
          whole :last, "To frame", time: :to, default: 7, range: 0..100_000, slider: 0..240, zero: "the end",
            help: "The last frame on which it kicks. One or two are a blow, more are a fountain."
        end
      end
    end
  end
end
