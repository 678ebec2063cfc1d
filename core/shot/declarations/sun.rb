# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Sun = Kind.new(:sun, "Sun", plural: "Suns", chapter: :light,
        help: "Light from far away, all in one direction.") do
        group "Light", touches: :light do
          number :strength, "Sun's light", default: 3.0, range: 0.0..1000.0, slider: 0.0..12.0,
            help: "Light on a surface that faces it."
          colour :colour, "Colour", default: [1.0, 0.93, 0.84], range: 0.0..1.0, help: "Colour of the light (linear)."
          switch :aired, "Coloured by the air", default: false,
            help: "A low sun turns yellow, orange and red as the sky's haze has it, and gives nothing once it has set."
          switch :shadows, "Casts shadows", default: true, help: "Whether smoke and props shade what is behind them."
        end
        group "From where", touches: :light do
          number :around, "Around", unit: "°", default: 125.0, range: -360.0..360.0, slider: -180.0..180.0,
            help: "Compass direction it comes from: 0 from the front (+z), 90 from the right (+x)."
          number :size, "Sun's width", unit: "°", default: 0.53, range: 0.0..60.0, slider: 0.0..12.0,
            help: "How wide it looks: 0.53 is the sun's own, more softens shadows as a veiled sun does, 0 makes " \
              "them hard."
          number :height, "Above horizon", unit: "°", default: 42.0, range: -90.0..90.0, slider: -12.0..90.0,
            help: "Above the horizon. Below it the sky is at dusk, down to night at -12."
        end
      end
    end
  end
end
