# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Effect = Kind.new(:effect, "Effect", plural: "Effects", chapter: :finish,
        help: "Changes the picture of a layer, or of all that lies below one.") do
        belongs :layer
        straight = [0.0, 1.0].map { |at| {"at" => at, "value" => at, "pass" => "linear"} }
        group "What it does", touches: :finish do
          node :layer, "Layer", of: :layer, default: nil, help: "Whose picture it changes."
          choice :what, "Does", default: "exposure",
            choices: {
              exposure: "makes it brighter or darker", balance: "balances its white",
              grade: "lifts darks, middles and lights", contrast: "more or less contrast",
              curves: "bends brightness by curves", saturation: "more or less colour",
              tint: "tints darks, middles and lights", table: "a look-up table", glow: "a glow about what is bright",
              flare: "a lens flare", shimmer: "heat bends what lies below", flash: "its fire lights what lies below",
              wrap: "light from below wraps its edges", blur: "blurs", smear: "blurs along a line",
              zoom: "blurs away from a point", defocus: "blurs by distance", motion: "blurs along its motion",
              sharpen: "sharpens", denoise: "takes noise away", grain: "film grain", vignette: "darker corners",
              fringes: "colours part at the edges", dust: "drifting specks", key: "cuts a colour out",
              bars: "bars above and below", crop: "cuts the edges off", straight: "takes the lens's bend out",
              bent: "bends as the lens did"
            }, help: "Effects of a layer are done one after the other."
        end
        group "How", touches: :finish do
          number :stops, "Exposure", unit: "stops", default: 0.0, range: -20.0..20.0, slider: -4.0..4.0, keyed: true,
            only: {what: %w[exposure]}, help: "Each stop doubles the light."
          number :white, "White", unit: "K", default: 6500.0, range: 1500.0..20_000.0, slider: 2500.0..12_000.0,
            keyed: true, only: {what: %w[balance]},
            help: "The light that shall look white; more makes the picture warmer."
          number :green, "Green to magenta", default: 0.0, range: -1.0..1.0, slider: -0.5..0.5, keyed: true,
            only: {what: %w[balance]}, help: "Below 0 greener, above it more magenta."
          number :lift, "Darks", default: 0.0, range: -1.0..1.0, slider: -0.2..0.2, keyed: true,
            only: {what: %w[grade]}, help: "Lifts black and leaves white where it is."
          number :gamma, "Middles", default: 1.0, range: 0.1..10.0, slider: 0.4..2.5, keyed: true,
            only: {what: %w[grade]}, help: "Lifts what is between and leaves black and white where they are."
          number :gain, "Lights", default: 1.0, range: 0.0..100.0, slider: 0.0..2.0, keyed: true,
            only: {what: %w[grade]}, help: "Multiplies white and leaves black where it is."
          number :contrast, "Contrast", default: 1.0, range: 0.0..10.0, slider: 0.5..2.0, keyed: true,
            only: {what: %w[contrast]}, help: "More makes darks darker and lights lighter."
          number :pivot, "About", default: 0.18, range: 0.001..10.0, slider: 0.05..0.5, keyed: true,
            only: {what: %w[contrast]}, help: "The light that stays as it is; 0.18 is a middle grey."
          ramp :curve, "All colours", default: straight, range: 0.0..1.0, values: 0.0..2.0, of: :number,
            over: :brightness, only: {what: %w[curves]},
            help: "What becomes of each brightness, both as a screen has them: 0 black, 1 white."
          ramp :curve_red, "Red", default: straight, range: 0.0..1.0, values: 0.0..2.0, of: :number, over: :brightness,
            only: {what: %w[curves]}, help: "What becomes of red besides."
          ramp :curve_green, "Green", default: straight, range: 0.0..1.0, values: 0.0..2.0, of: :number,
            over: :brightness, only: {what: %w[curves]}, help: "What becomes of green besides."
          ramp :curve_blue, "Blue", default: straight, range: 0.0..1.0, values: 0.0..2.0, of: :number,
            over: :brightness, only: {what: %w[curves]}, help: "What becomes of blue besides."
          ramp :by_hue, "Colour by hue", default: [], range: 0.0..360.0, values: 0.0..4.0, of: :number, over: :hue,
            only: {what: %w[saturation]},
            help: "How much colour each hue keeps: 0 and 360 are red, 120 green, 240 blue."
          ramp :hue_by_hue, "Hue by hue", default: [], range: 0.0..360.0, values: -180.0..180.0, of: :number,
            over: :hue, only: {what: %w[saturation]},
            help: "By how many degrees each hue is turned: at 120, 20 makes greens bluer."
          ramp :bright_by_hue, "Brightness by hue", default: [], range: 0.0..360.0, values: 0.0..4.0, of: :number,
            over: :hue, only: {what: %w[saturation]}, help: "How bright each hue is; greys stay."
          ramp :by_bright, "Colour by brightness", default: [], range: 0.0..1.0, values: 0.0..4.0, of: :number,
            over: :brightness, only: {what: %w[saturation]},
            help: "How much colour darks and lights keep: 0 black, 1 white."
          number :saturation, "Colour", default: 1.0, range: 0.0..10.0, slider: 0.0..2.0, keyed: true,
            only: {what: %w[saturation]}, help: "0 is grey, 1 leaves it."
          number :hue, "Hue turned", unit: "°", default: 0.0, range: -3600.0..3600.0, slider: -180.0..180.0,
            keyed: true, only: {what: %w[saturation]}, help: "All hues go round by so much; their brightness stays."
          colour :darks, "Darks", default: [0.5, 0.5, 0.5], keyed: true, only: {what: %w[tint]},
            help: "A grey leaves them as they are."
          colour :middles, "Middles", default: [0.5, 0.5, 0.5], keyed: true, only: {what: %w[tint]},
            help: "A grey leaves them as they are."
          colour :lights, "Lights", default: [0.5, 0.5, 0.5], keyed: true, only: {what: %w[tint]},
            help: "A grey leaves them as they are."
          table :table, "Table", default: nil, only: {what: %w[table]},
            help: "A .cube file, of one or of three dimensions."
          choice :space, "Made for", default: "screen",
            choices: {
              screen: "what a screen shows (sRGB)", video: "video (Rec. 709)", linear: "light (linear)",
              log: "a camera's log (ITU-R BT.2100 HLG)", film: "a film's scan by density (Cineon, DPX)"
            }, only: {what: %w[table]},
            help: "In what the table's numbers are. What goes into it and comes out of it is turned into that and back."
          number :from, "Brighter than", default: 1.0, range: 0.0..1000.0, slider: 0.0..4.0, keyed: true,
            only: {what: %w[glow flare flash]}, help: "Light above this counts; 1 is the white of a screen."
          number :size, "Size", unit: "%", default: 3.0, range: 0.01..100.0, slider: 0.1..20.0, keyed: true,
            only: {what: %w[glow wrap blur sharpen defocus dust]},
            help: "In % of the frame's height, so that small pictures and large ones agree."
          whole :octaves, "Widens", unit: "times", default: 4, range: 1..8, only: {what: %w[glow]},
            help: "Each time it is twice as wide and half as strong."
          number :amount, "Amount", default: 0.5, range: 0.0..100.0, slider: 0.0..2.0, keyed: true,
            only: {what: %w[glow flare shimmer flash wrap sharpen grain vignette fringes dust denoise]},
            help: "How much of it; 0 is none."
          colour :colour, "Colour", default: [1.0, 1.0, 1.0], keyed: true, only: {what: %w[glow flare flash dust key]},
            help: "White leaves the light its own; of cutting out, the colour that goes."
          choice :source, "From", default: "bright",
            choices: {bright: "what is bright in the picture", lamp: "a lamp, prop or tracked spot"},
            only: {what: %w[flare]}, help: "A lamp's flare goes where something passes before it."
          node :lamp, "Which", of: %i[lamp prop track], default: nil, only: {what: %w[flare], source: %w[lamp]},
            help: "Where it comes from, as the camera sees it."
          whole :ghosts, "Ghosts", default: 6, range: 0..12, only: {what: %w[flare]},
            help: "Pictures of it on the other side of the middle, from the glasses of the lens."
          number :spread, "Spread of ghosts", default: 1.0, range: 0.0..10.0, slider: 0.0..3.0, keyed: true,
            only: {what: %w[flare]}, help: "How far apart they stand."
          number :parting, "Their colours part", default: 0.4, range: 0.0..2.0, slider: 0.0..1.0, keyed: true,
            only: {what: %w[flare]}, help: "Red and blue of a ghost are not of one size."
          number :streak, "Streak", unit: "%", default: 30.0, range: 0.0..200.0, slider: 0.0..100.0, keyed: true,
            only: {what: %w[flare]}, help: "How long the line through it is, in % of the frame's height."
          whole :arms, "Streaks", default: 1, range: 0..8, only: {what: %w[flare]},
            help: "How many lines go through it."
          number :angle, "Along", unit: "°", default: 0.0, range: -3600.0..3600.0, slider: -180.0..180.0, keyed: true,
            only: {what: %w[flare smear shimmer]},
            help: "0 lies level, 90 stands upright; of heat, which way it rises: 90 is up."
          number :length, "Length", unit: "%", default: 5.0, range: 0.0..100.0, slider: 0.0..30.0, keyed: true,
            only: {what: %w[smear zoom]},
            help: "In % of the frame's height; of blurring away from a point, at the frame's edge."
          choice :by, "Where", default: "heat",
            choices: {heat: "where the gas is hot", cover: "where its layer covers", all: "all over"},
            only: {what: %w[shimmer]}, help: "A mask limits it further."
          number :far, "Bends by", unit: "%", default: 0.6, range: 0.0..20.0, slider: 0.0..3.0, keyed: true,
            only: {what: %w[shimmer]}, help: "At most, in % of the frame's height."
          number :waves, "Size of its waves", unit: "%", default: 5.0, range: 0.2..100.0, slider: 1.0..20.0,
            keyed: true, only: {what: %w[shimmer]}, help: "In % of the frame's height."
          node :near_as, "Smaller far away, with", of: %i[prop lamp], default: nil, only: {what: %w[shimmer]},
            help: "What is hot: its waves are as large as above at its distance on the first frame, and go with " \
              "its distance from there."
          number :rise, "Rises", unit: "% per s", default: 30.0, range: -1000.0..1000.0, slider: 0.0..120.0,
            only: {what: %w[shimmer]}, help: "How fast its waves go, in % of the frame's height."
          number :kelvins, "Full at", unit: "K m", default: 60.0, range: 0.1..10_000.0, slider: 5.0..500.0, keyed: true,
            only: {what: %w[shimmer], by: %w[heat]},
            help: "From so much hot gas on, kelvin above the surroundings times metres."
          number :reach, "Reaches", unit: "%", default: 60.0, range: 1.0..1000.0, slider: 10.0..200.0, keyed: true,
            only: {what: %w[flash]},
            help: "So far from the fire its light is down to a quarter, in % of the frame's height."
          number :x, "Across", unit: "%", default: 50.0, range: -1000.0..1000.0, slider: 0.0..100.0, keyed: true,
            only: {what: %w[zoom]}, help: "The point that stays sharp: 0 is the left edge."
          number :y, "Down", unit: "%", default: 50.0, range: -1000.0..1000.0, slider: 0.0..100.0, keyed: true,
            only: {what: %w[zoom]}, help: "0 is the top."
          number :sharp_at, "Sharp at", unit: "m", default: 5.0, range: 0.01..100_000.0, slider: 0.1..30.0, keyed: true,
            only: {what: %w[defocus]}, help: "How far ahead of the camera nothing is blurred."
          number :shutter, "Shutter", unit: "°", default: 180.0, range: 0.0..720.0, keyed: true,
            only: {what: %w[motion]}, help: "180 blurs along half of what a thing moves in a frame."
          number :grain_size, "Size", unit: "%", default: 0.2, range: 0.02..5.0, slider: 0.05..1.0,
            only: {what: %w[grain]}, help: "In % of the frame's height: at 1080 lines 0.1 is about a pixel."
          number :coloured, "In colour", default: 0.4, range: 0.0..1.0, only: {what: %w[grain]},
            help: "0 is the same in red, green and blue, 1 is a grain for each."
          number :roundness, "Roundness", default: 1.0, range: 0.0..1.0, only: {what: %w[vignette]},
            help: "1 is round, 0 goes by the shape of the frame."
          number :inner, "Begins at", unit: "%", default: 40.0, range: 0.0..200.0, slider: 0.0..100.0, keyed: true,
            only: {what: %w[vignette]}, help: "So far out, of the way to the corner, nothing is darker yet."
          whole :count, "Specks", default: 80, range: 0..4000, slider: 0..400, only: {what: %w[dust]},
            help: "How many are in the frame."
          number :drift, "Drift", unit: "% per s", default: 4.0, range: 0.0..200.0, slider: 0.0..30.0,
            only: {what: %w[dust]}, help: "How fast they go about, in % of the frame's height."
          number :sink, "Sinks", unit: "% per s", default: 0.0, range: -200.0..200.0, slider: -20.0..20.0,
            only: {what: %w[dust]}, help: "How fast all go down besides; below 0 they rise."
          number :near, "How near", default: 0.15, range: 0.0..2.0, slider: 0.0..0.6, keyed: true,
            only: {what: %w[key]}, help: "How far hue and strength of a colour may be off to go wholly."
          number :fall, "Falls off over", default: 0.15, range: 0.001..2.0, slider: 0.01..0.6, keyed: true,
            only: {what: %w[key]}, help: "Beyond that it stays more and more."
          number :spill, "Spill taken away", default: 1.0, range: 0.0..1.0, keyed: true, only: {what: %w[key]},
            help: "What the colour has thrown onto the rest."
          number :left, "Off the left", unit: "%", default: 0.0, range: 0.0..100.0, slider: 0.0..50.0, keyed: true,
            only: {what: %w[crop]}, help: "Of the frame's width."
          number :right, "Off the right", unit: "%", default: 0.0, range: 0.0..100.0, slider: 0.0..50.0, keyed: true,
            only: {what: %w[crop]}, help: "Of the frame's width."
          number :top, "Off the top", unit: "%", default: 0.0, range: 0.0..100.0, slider: 0.0..50.0, keyed: true,
            only: {what: %w[crop]}, help: "Of the frame's height."
          number :bottom, "Off the bottom", unit: "%", default: 0.0, range: 0.0..100.0, slider: 0.0..50.0, keyed: true,
            only: {what: %w[crop]}, help: "Of the frame's height."
          number :shape, "Shape", default: 2.39, range: 0.2..10.0, slider: 1.0..3.0, keyed: true,
            only: {what: %w[bars]}, help: "Width over height of what stays seen."
          whole :seed, "Other chance", default: 1, range: 0..1_000_000, slider: 1..50,
            only: {what: %w[grain dust shimmer]}, help: "Another number is another pattern."
        end
        group "How much", touches: :finish do
          number :strength, "How much of it", unit: "%", default: 100.0, range: 0.0..100.0, keyed: true,
            help: "0 leaves the picture as it was."
          whole :order, "Order", default: 0, range: -10_000..10_000, help: "Effects are done from the lowest number on."
        end
      end
    end
  end
end
