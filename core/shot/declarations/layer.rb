# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Layer = Kind.new(:layer, "Layer", plural: "Layers", chapter: :finish,
        help: "One thing of the finished picture; each lies over those before it.") do
        group "What it shows", touches: :finish do
          choice :what, "Shows", default: "shot",
            choices: {
              shot: "the shot's own picture", plate: "a plate", other: "another shot", colour: "a colour",
              gradient: "a gradient", words: "words", change: "what lies below, changed by its effects"
            }, help: "The shot's own picture is made as a print is; a plate is brought as pictures or as a movie."
          nodes :seen, "Only these props", of: :prop, default: [], only: {what: %w[shot]},
            help: "The others are left out of sight; they still cast shadows. Without any all are seen."
          nodes :held, "Held out", of: :prop, default: [], only: {what: %w[shot]},
            help: "Props that are not seen but hide what is behind them, so that a thing in the plate can stand there."
          choice :part, "Of it", default: "all",
            choices: {
              all: "all of it", volumes: "smoke, fire and fog, with props held out",
              props: "props, without smoke, fire and fog"
            }, only: {what: %w[shot]}, help: "So that props and smoke can lie on layers of their own."
          nodes :lamps, "Only these lamps", of: %i[sun lamp], default: [], only: {what: %w[shot]},
            help: "The others do not shine for this layer, on props, smoke and fog. Without any all do."
          choice :made, "Made of", default: "best",
            choices: {best: "the best that was run", draft: "the draft", full: "the full run"},
            only: {what: %w[shot other]},
            help: "Which frames of the volume are taken; the best are those of a full run where there are some."
          choice :backdrop, "What stands behind", default: "below",
            choices: {below: "where no layer lies below", always: "always", never: "never"},
            only: {what: %w[shot other]}, help: "The background colour or the sky, as the picture has it."
          shot :shot, "Shot", default: nil, only: {what: %w[other]},
            help: "Its own picture: the best that was run of its frames."
          switch :finished, "With its own layers", default: false, only: {what: %w[other]},
            help: "As it is finished there, with plates, effects and all."
          plate :plate, "Plate", default: nil, only: {what: %w[plate]},
            help: "PNG, JPEG, TIFF or OpenEXR pictures with numbers in their names, one picture, or a movie."
          choice :space, "Its colours are", default: "told", only: {what: %w[plate]},
            choices: {
              told: "as its kind of file has them", screen: "for a screen (sRGB)", video: "for video (Rec. 709)",
              linear: "light itself (linear)", log: "a camera's log (ITU-R BT.2100 HLG)",
              film: "a film's scan by density (Cineon, DPX)"
            },
            help: "Movies and pictures of 8 and 16 bit are for a screen and OpenEXR is light, unless told " \
              "otherwise here."
          choice :fit, "Fits", default: "fill",
            choices: {
              fill: "fills the frame", whole: "is seen whole", stretch: "is stretched to the frame",
              pixels: "pixel by pixel"
            }, only: {what: %w[plate]}, help: "How a plate of another size comes into the frame."
          words :words, "Words", default: "Fair", only: {what: %w[words]}, help: "What is written."
          choice :font, "Font", default: "regular", choices: {regular: "regular", bold: "bold"},
            only: {what: %w[words]}, help: "Of the letters."
          number :letter, "Letter height", unit: "%", default: 6.0, range: 0.2..200.0, slider: 1.0..30.0, keyed: true,
            only: {what: %w[words]}, help: "Of a capital, in % of the frame's height."
          number :apart, "Apart", default: 0.0, range: -0.5..10.0, slider: -0.1..1.0, keyed: true,
            only: {what: %w[words]}, help: "Further room between letters, in heights of a capital."
          colour :colour, "Colour", default: [0.5, 0.5, 0.5], keyed: true, only: {what: %w[colour gradient words]},
            help: "As light (linear); of a gradient, where it begins."
          colour :other, "Goes over to", default: [0.0, 0.0, 0.0], keyed: true, only: {what: %w[gradient]},
            help: "The colour at its other end."
          number :bright, "Brightness", default: 1.0, range: 0.0..1000.0, slider: 0.0..4.0, keyed: true,
            only: {what: %w[colour gradient words]}, help: "Its light is multiplied by this."
          number :angle, "Runs", unit: "°", default: 90.0, range: -3600.0..3600.0, slider: -180.0..180.0, keyed: true,
            only: {what: %w[gradient]}, help: "0 from left to right, 90 from the top down."
        end
        group "When", touches: :finish do
          whole :later, "Later by", unit: "frames", default: 0, range: -100_000..100_000, slider: -48..48,
            only: {what: %w[shot plate other]},
            help: "Its first frame is seen so much after the first of the shot; below 0 it has begun before."
          number :speed, "Speed", default: 1.0, range: -20.0..20.0, slider: 0.0..2.0, keyed: true,
            only: {what: %w[shot plate other]},
            help: "Frames of its own for each frame of the shot; 0.5 is half as fast, 0 stands still, below 0 it " \
              "runs back."
          switch :own_rate, "In its own time", default: true, only: {what: %w[plate other]},
            help: "A plate or shot of another rate keeps its pace; off, it goes on by one frame at each frame."
          choice :after, "Before and after", default: "hold",
            choices: {
              hold: "the first and the last stay", loop: "it begins again", bounce: "to and fro",
              nothing: "nothing is seen"
            }, only: {what: %w[shot plate other]}, help: "What is seen where it has no frames."
          switch :between, "Blends between frames", default: false, only: {what: %w[shot plate other]},
            help: "A moment between two frames shows both, each by how near it is."
          switch :moved, "Moves what it blends", default: false, only: {what: %w[shot plate other], between: [true]},
            help: "What moves from one frame to the next is found and moved along, in place of two pictures over " \
              "each other."
        end
        group "How it lies over the rest", touches: :finish do
          choice :blend, "Laid", default: "over",
            choices: {
              over: "over", add: "added", screen: "as a second projector", multiply: "multiplied",
              overlay: "darks darker, lights lighter", soft: "softly darker and lighter",
              difference: "as the difference", lighter: "where it is lighter", darker: "where it is darker",
              inside: "below is kept where it is", outside: "below is kept where it is not",
              bright: "below is kept where it is bright", nearer: "over, where it is nearer"
            },
            help: "Where it is nearer goes by how far props are from the camera. The three before it show what " \
              "lies below only where this covers, does not cover, or is bright."
          number :opacity, "Opacity", unit: "%", default: 100.0, range: 0.0..100.0, keyed: true,
            help: "How much of it there is."
        end
        group "Where", touches: :finish do
          node :follows, "Goes with", of: %i[prop lamp track], default: nil,
            help: "Its middle goes where the camera sees this, or where a tracked spot is."
          switch :hidden, "Hidden by what passes before", default: false,
            help: "Of what goes with a prop or a lamp: props of the shot that are nearer to the camera hide it there."
          node :parent, "Moved with", of: :layer, default: nil,
            help: "It is moved, sized and turned as this layer is, and then by itself."
          number :x, "Right", unit: "%", default: 0.0, range: -1000.0..1000.0, slider: -100.0..100.0, keyed: true,
            help: "Of the frame's width."
          number :y, "Down", unit: "%", default: 0.0, range: -1000.0..1000.0, slider: -100.0..100.0, keyed: true,
            help: "Of the frame's height."
          number :scale, "Size", unit: "%", default: 100.0, range: 0.1..10_000.0, slider: 10.0..300.0, keyed: true,
            help: "About its middle."
          number :turn, "Turned", unit: "°", default: 0.0, range: -36_000.0..36_000.0, slider: -180.0..180.0,
            keyed: true, help: "About its middle, to the right."
          node :steadied, "Held still by", of: :track, default: nil,
            help: "A tracked spot that stays where it was on its first frame."
          node :also, "And", of: :track, default: nil, help: "A second spot: size and turn go by both of them too."
          nodes :corners, "Corners", of: :track, default: [],
            help: "Four tracked spots that its corners are pinned to: left above, right above, right below, left below."
          whole :order, "Order", default: 0, range: -10_000..10_000, help: "Layers lie over those of a lower number."
        end
      end
    end
  end
end
