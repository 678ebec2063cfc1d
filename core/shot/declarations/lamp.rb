# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Lamp = Kind.new(:lamp, "Lamp", plural: "Lamps", chapter: :light,
        help: "Gives light from a place: all round, as a cone, or from a sheet.") do
        group "Light", touches: :light do
          choice :as, "Kind", default: "point",
            choices: {point: "a point, all round", spot: "a spot, in a cone", area: "a sheet of light"},
            help: "Its place, colour and links stay when this changes."
          number :strength, "Lamp's light", default: 6.0, range: 0.0..10_000_000.0, slider: 0.0..40.0, keyed: true,
            units: {measure: {"plain" => "at 1 m", "candela" => "cd", "lumen" => "lm"}},
            help: "Light on a surface one metre away, straight before it. A candle is 1 candela or 12 lumen, a " \
              "household bulb 800 lumen."
          choice :measure, "Measured as", default: "plain",
            choices: {plain: "light at 1 m", candela: "candela", lumen: "lumen"},
            help: "1000 candela are a light of 1 at a metre: a picture's 1 is 1000 lux."
          number :stops, "Stops", unit: "stops", default: 0.0, range: -20.0..20.0, slider: -4.0..4.0, keyed: true,
            help: "Each doubles its light."
          choice :kelvin, "Colour as", default: "colour", choices: {colour: "a colour", kelvin: "kelvin"},
            help: "How its colour is told."
          colour :colour, "Colour", default: [1.0, 0.62, 0.32], range: 0.0..1.0, keyed: true,
            only: {kelvin: %w[colour]}, help: "Colour of the light (linear)."
          number :temperature, "Kelvin", unit: "K", default: 2700.0, range: 800.0..8000.0, slider: 1500.0..8000.0,
            keyed: true, only: {kelvin: %w[kelvin]}, help: "1850 is a candle, 2700 a bulb, 5600 daylight."
          choice :falloff, "Falls off", default: "square",
            choices: {square: "with the square of the distance", straight: "with the distance", none: "not at all"},
            help: "Real light falls off with the square."
          switch :shadows, "Casts shadows", default: true, help: "Whether smoke and props shade what is behind them."
        end
        group "From where", touches: :light do
          node :leader, "Goes with", default: nil, of: :prop,
            help: "A prop that takes it along: its place is then as seen from there. It stays where it stands when " \
              "you choose one."
          vector :position, "Position", unit: "m", default: [1.0, 1.0, 1.5], range: -10_000.0..10_000.0,
            slider: -5.0..5.0, keyed: true, help: "Where it hangs."
          number :radius, "Radius", unit: "m", default: 0.0, range: 0.0..100.0, slider: 0.0..0.5, keyed: true,
            only: {as: %w[point spot]}, zero: "a point",
            help: "Of the ball that shines: larger softens its shadows. What stands within does not hide it."
          node :aim, "Shines at", default: nil, of: :prop, only: {as: %w[spot area]},
            help: "A prop that it turns to, wherever that goes."
          vector :target, "Aimed at", unit: "m", default: [0.0, 0.0, 0.0], range: -10_000.0..10_000.0,
            slider: -5.0..5.0, keyed: true, only: {as: %w[spot area]},
            help: "The place that it turns to without such a prop."
          number :cone, "Cone", unit: "°", default: 40.0, range: 0.5..170.0, slider: 5.0..120.0, keyed: true,
            only: {as: %w[spot]}, help: "How wide it opens, from edge to edge."
          number :soft, "Soft edge", default: 0.3, range: 0.0..1.0, keyed: true, only: {as: %w[spot]},
            help: "How much of the cone fades out: 0 is a hard rim, 1 fades from the middle on."
          number :wide, "Width", unit: "m", default: 1.0, range: 0.001..1000.0, slider: 0.1..4.0, keyed: true,
            only: {as: %w[area]}, help: "Of the sheet."
          number :high, "Height", unit: "m", default: 0.6, range: 0.001..1000.0, slider: 0.1..4.0, keyed: true,
            only: {as: %w[area]}, help: "Of the sheet."
          number :roll, "Turned by", unit: "°", default: 0.0, range: -360.0..360.0, slider: -90.0..90.0, keyed: true,
            only: {as: %w[spot area]}, help: "About the way it shines."
          node :slide, "Shines through", default: nil, of: :texture, only: {as: %w[spot]},
            help: "A texture in its cone like a slide: a picture, leaves, slats. What of it is one wide, whatever " \
              "its size, fills the cone."
          picture :picture, "Picture on it", default: nil, only: {as: %w[area]},
            help: "What the sheet shows where it is seen or mirrored: a window, a screen. Its light has the " \
              "picture's mean colour."
          switch :seen, "Seen itself", default: false,
            help: "As a ball of its radius, or a sheet, as bright as it must be to give its light."
        end
        group "Beam", touches: :light do
          number :beam, "Beam", unit: "per m", default: 0.0, range: 0.0..100.0, slider: 0.0..0.5, keyed: true,
            zero: "not seen", only: {as: %w[spot]},
            help: "How thick the air in its cone looks, without any fog: 0.02 is a hint, 0.2 a solid beam. It ends " \
              "where the light ends, and shades nothing."
          number :beam_soft, "Beam's border", default: 0.5, range: 0.0..1.0, keyed: true, only: {as: %w[spot]},
            help: "How softly the beam fades towards its border."
        end
        group "What it lights", touches: :light do
          choice :lights, "Lights", default: "all",
            choices: {all: "everything", volumes: "smoke and fog only", props: "props only"},
            help: "What its light falls on."
          nodes :only_props, "Only these props", default: [], of: :prop,
            help: "Of the props, those that it lights alone. Without any, all."
        end
        Shake.declare(self, turns: false, touches: :light)
      end
    end
  end
end
