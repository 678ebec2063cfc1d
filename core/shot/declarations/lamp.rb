# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Lamp = Kind.new(:lamp, "Lamp", plural: "Lamps", chapter: :light,
        help: "A point that gives light in all directions.") do
        group "Light", touches: :light do
          number :strength, "Lamp's light", default: 6.0, range: 0.0..100_000.0, slider: 0.0..40.0, keyed: true,
            help: "Light on a surface one metre away; it falls with the square of the distance."
          colour :colour, "Colour", default: [1.0, 0.62, 0.32], range: 0.0..1.0, help: "Colour of the light (linear)."
          switch :shadows, "Casts shadows", default: true, help: "Whether smoke and props shade what is behind them."
        end
        group "From where", touches: :light do
          node :leader, "Goes with", default: nil, of: :prop,
            help: "A prop that takes it along: its place is then as seen from there. It stays where it stands when you choose one."
          vector :position, "Position", unit: "m", default: [1.0, 1.0, 1.5], range: -10_000.0..10_000.0,
            slider: -5.0..5.0, keyed: true, help: "Where it hangs."
        end
        Shake.declare(self, turns: false, touches: :light)
      end
    end
  end
end
