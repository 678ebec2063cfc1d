# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Track = Kind.new(:track, "Tracked spot", plural: "Tracked spots", chapter: :finish,
        help: "A spot that is found again in each frame of a plate, for things to go with it.") do
        group "Where it is", touches: :finish do
          node :layer, "In", of: :layer, default: nil,
            help: "The layer in whose picture it is sought, as the layer lies in the frame."
          number :x, "Across", unit: "%", default: 50.0, range: -1000.0..1000.0, slider: 0.0..100.0, keyed: true,
            help: "0 is the left edge, 100 the right one. Its keys are what was found; where it slipped, move it " \
              "by hand."
          number :y, "Down", unit: "%", default: 50.0, range: -1000.0..1000.0, slider: 0.0..100.0, keyed: true,
            help: "0 is the top, 100 the bottom."
          number :sure, "How sure", default: 1.0, range: 0.0..1.0, keyed: true,
            help: "How well what was found at a frame is like what was sought."
        end
        group "What it is of", touches: :view do
          node :prop, "Pins", of: :prop, default: nil,
            help: "A stand-in for a thing in the plate. Pinned by three spots or more, better by four, it goes " \
              "where the thing goes. The camera is taken from spots of props that stay where they are."
          switch :known, "Its place is known", default: false,
            help: "Where it is in the shot, without a prop: of a mark on the ground, say, for the camera to be " \
              "taken from."
          vector :place, "Place on it", unit: "m", default: [0.0, 0.0, 0.0], range: -10_000.0..10_000.0,
            slider: -2.0..2.0,
            help: "Which place of the prop the spot is, in its own measure from its middle: of a box a corner, " \
              "say. Without a prop, the place in the shot."
        end
        group "How it is sought", touches: :view do
          number :pattern, "Pattern", unit: "%", default: 6.0, range: 0.5..50.0, slider: 2.0..20.0,
            help: "How large the piece of picture is that is sought, in % of the frame's height."
          number :search, "Search", unit: "%", default: 6.0, range: 0.2..100.0, slider: 1.0..30.0,
            help: "How far it may go from one frame to the next beyond where it was going, in % of the frame's height."
          number :least, "Stops below", default: 0.6, range: 0.0..1.0,
            help: "Where nothing is as like as this the spot has slipped, and it stops there."
          number :adapts, "Adapts", default: 0.3, range: 0.0..1.0,
            help: "How much of the pattern is taken anew at each frame. 0 keeps seeking the first one; more " \
              "follows what turns and comes nearer, but may creep."
        end
      end
    end
  end
end
