# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Blast = Kind.new(:blast, "Blast", plural: "Blasts", chapter: :forces,
        help: "Throws the pieces of broken props from a place, on one frame. Each prop has one of its own besides.") do
        group "Blast" do
          whole :frame, "At frame", time: :at, default: 10, range: 0..100_000, slider: 1..120,
            help: "The frame on which it goes off."
          node :leader, "Goes with", default: nil, of: :prop,
            help: "A prop that takes it along: its place is then as seen from there."
          vector :position, "Centre", unit: "m", default: [0.0, 0.0, 0.0], range: -10_000.0..10_000.0,
            slider: -5.0..5.0, help: "Where it comes from."
          number :reach, "Reach", unit: "m", default: 3.0, range: 0.001..10_000.0, slider: 0.5..10.0,
            help: "How far it is felt; at half of it, a quarter is left."
          number :strength, "Strength", unit: "m/s", default: 5.0, range: -1000.0..1000.0, slider: 0.0..20.0,
            help: "Speed that it gives a piece at its centre; negative draws them in."
          number :spin, "Spin", unit: "°/s", default: 200.0, range: 0.0..10_000.0, slider: 0.0..1000.0,
            help: "How fast it makes the pieces turn, about axes of their own."
        end
      end
    end
  end
end
