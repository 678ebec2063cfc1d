# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Camera = Kind.new(:camera, "Camera", plural: "Camera", chapter: :camera, always: :one,
        help: "Where the picture is taken from.") do
        group "Where it stands", touches: :picture do
          node :leader, "Goes with", default: nil, of: :prop,
            help: "A prop that takes the camera along: its place is then as seen from there. It stays where it " \
              "stands when you choose one."
          vector :position, "Position", unit: "m", default: [0.0, 1.6, 6.0], range: -10_000.0..10_000.0,
            slider: -20.0..20.0, keyed: true, help: "Where the camera stands."
          node :aim, "Follows with its eye", default: nil, of: :prop,
            help: "A prop that stays in the middle of the picture, wherever it goes."
          vector :target, "Looks at", unit: "m", default: [0.0, 1.3, 0.0], range: -10_000.0..10_000.0,
            slider: -20.0..20.0, keyed: true, help: "The point in the middle of the picture."
          number :roll, "Leans", unit: "°", default: 0.0, range: -3600.0..3600.0, slider: -45.0..45.0, keyed: true,
            help: "About the way it looks, to the right; below 0 to the left."
        end
        Shake.declare(self, turns: true, touches: :picture)
        group "Lens", touches: :picture do
          number :focal, "Focal length", unit: "mm", default: 40.0, range: 4.0..1000.0, slider: 14.0..135.0,
            keyed: true, help: "On film 36 mm wide 24 is wide, 50 as the eye sees, 100 narrow."
          number :film, "Film width", unit: "mm", default: 36.0, range: 1.0..1000.0, slider: 5.0..70.0,
            help: "Of the frame behind the lens, to match another camera: 36 is full frame, 24.9 film of 35 mm, 5 " \
              "a telephone. A smaller one sees less with the same lens."
          number :aperture, "Opening", unit: "f", default: 0.0, range: 0.0..64.0, slider: 0.0..16.0, keyed: true,
            zero: "all sharp",
            help: "Focal length over the lens's opening: 1.4 blurs much, 16 little. 0 keeps everything sharp."
          number :focus, "Sharp at", unit: "m", default: 6.0, range: 0.02..100_000.0, slider: 0.1..30.0, keyed: true,
            help: "How far ahead things are sharp. Pick it in the view with Pick focus."
          node :focus_on, "Follow with focus", of: :prop, default: nil,
            help: "A prop that stays sharp wherever it goes."
        end
        group "Bend of the lens", touches: :finish do
          number :bend, "Bends", default: 0.0, range: -1.0..1.0, slider: -0.3..0.3, keyed: true, zero: "straight",
            help: "How a real lens bent the plate: below 0 edges bulge outwards, above 0 inwards. Effects of the " \
              "finish take it out of a plate and put it back."
          number :bend_far, "Bends far out", default: 0.0, range: -1.0..1.0, slider: -0.3..0.3, keyed: true,
            zero: "as the rest", help: "What is added to that towards the corners."
        end
        group "Shutter", touches: :picture do
          number :shutter, "Shutter", unit: "°", default: 0.0, range: 0.0..360.0, keyed: true, zero: "no blur",
            help: "How long it is open: 180 for half of a frame's time, up to the frame. What moves meanwhile is " \
              "blurred, in the direction it goes."
        end
        group "Noise", touches: :picture do
          whole :samples, "Samples", default: 24, range: 2..256, slider: 8..64,
            help: "Of how many pictures one with blur is made at most, which takes as many times as long. More is " \
              "smoother."
          number :noise, "Noise allowed", unit: "%", default: 0.4, range: 0.0..20.0, slider: 0.0..2.0,
            zero: "as many samples everywhere",
            help: "Parts of the picture that are as even as this, of white, have no more samples made."
          switch :denoise, "Smooth the rest", default: true,
            help: "What noise is left is smoothed between pixels that see the same kind of surface. Off leaves " \
              "every pixel as it came."
          switch :fireflies, "Tame fireflies", default: true,
            help: "Single pixels that came out far too bright by chance are as bright as their neighbours."
          switch :refined, "Also where nothing is blurred", default: false,
            help: "Makes sharp pictures of as many samples too: finer edges, textures and shadows of wide lamps."
        end
      end
    end
  end
end
