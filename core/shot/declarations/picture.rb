# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Picture = Kind.new(:picture, "Picture", plural: "Picture", chapter: :light, single: true,
        help: "The size and tone of prints and exported frames.") do
        group "Size", touches: :picture do
          whole :width, "Width", unit: "px", default: 960, range: 16..8192, slider: 320..1920,
            help: "Prints and exports are this wide unless asked otherwise."
          whole :height, "Height", unit: "px", default: 540, range: 16..8192, slider: 180..1080,
            help: "Prints and exports are this high."
        end
        group "Tone", touches: :picture do
          colour :background, "Background", default: [0.0095, 0.011, 0.0125], range: 0.0..1.0,
            help: "What stands behind everything, as light (linear). Left out of exports with alpha."
          number :exposure, "Exposure", unit: "stops", default: 0.0, range: -10.0..10.0, slider: -4.0..4.0,
            help: "Each stop doubles the light of the whole picture."
          choice :tone, "Highlights", default: "soft", choices: {soft: "roll off softly", plain: "clip"},
            help: "Soft keeps colour in bright places; plain keeps the numbers as they are up to 1."
        end
      end
    end
  end
end
