# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Picture = Kind.new(:picture, "Picture", plural: "Picture", chapter: :camera, always: :one,
        help: "The size and tone of prints and exported frames.") do
        group "Look", touches: :light do
          node :look, "Look", of: :look, default: "look", help: "Which of the shot's looks the picture shows."
        end
        group "Size", touches: :picture do
          whole :width, "Width", unit: "px", default: 960, range: 16..8192, slider: 320..1920,
            help: "Prints and exports are this wide unless asked otherwise."
          whole :height, "Height", unit: "px", default: 540, range: 16..8192, slider: 180..1080,
            help: "Prints and exports are this high."
        end
        group "Between voxels", touches: :picture do
          choice :between, "Between voxels", default: "smooth", choices: {smooth: "smooth (cubic)",
                                                                          straight: "straight (draft)"},
            help: "Smooth shows no voxel however thick the smoke; straight is twice as fast."
        end
        group "Clear things", touches: :picture do
          switch :caustics, "Gather the sun's light", default: true,
            help: "Water and glass bend the brightest sun: bright lines run over the floor of a pool and beside a " \
              "glass, and what lies deep is darker. Off, all its light goes through."
        end
        group "Tone", touches: :picture do
          colour :background, "Background", default: [0.0095, 0.011, 0.0125], range: 0.0..1.0,
            help: "What stands behind everything, as light (linear). Left out of exports with alpha."
          choice :behind, "Behind everything", default: "colour", choices: {colour: "the background colour",
                                                                            sky: "the sky"},
            help: "The sky shows only where it is a clear to hazy one."
          number :exposure, "Exposure", unit: "stops", default: 0.0, range: -10.0..10.0, slider: -4.0..4.0, keyed: true,
            help: "Each stop doubles the light of the whole picture."
          choice :tone, "Tone curve", default: "film", choices: {film: "film", soft: "straight, soft top",
                                                                 plain: "plain, clips"},
            help: "Film lets bright light run to white as on film; soft keeps its hue, and all else as it is; plain " \
              "keeps the numbers as they are up to 1."
          number :contrast, "Contrast", default: 1.0, range: 0.2..4.0, slider: 0.5..2.0,
            help: "Around a middle grey: more is darker shadows and brighter lights."
          number :warmth, "White balance", unit: "K", default: 6500.0, range: 1500.0..20_000.0,
            slider: 2500.0..12_000.0,
            help: "The light that shall look white: 3200 for lamps, 5500 for the sun, more makes the picture warmer."
          number :bloom, "Bloom", default: 0.06, range: 0.0..1.0, slider: 0.0..0.4,
            help: "How much of its light the lens spreads around what is bright."
          number :grain, "Grain", default: 0.0, range: 0.0..1.0, slider: 0.0..0.3,
            help: "The unevenness of film, strongest in middle tones."
        end
      end
    end
  end
end
