# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Emitter = Kind.new(:emitter, "Emitter", plural: "Emitters", chapter: :sources,
        help: "Throws short-lived particles: sparks, embers, debris. A source that comes from particles lets them " \
          "trail smoke or fuel.") do
        group "Where they start" do
          node :prop, "From prop", default: nil, of: :prop,
            help: "They start on its surface. Without a prop, at the place below."
          node :leader, "Goes with", default: nil, of: :prop,
            help: "A prop that takes the place below along: it is then as seen from there."
          vector :position, "Place", unit: "m", default: [0.0, 0.5, 0.0], range: -10_000.0..10_000.0,
            slider: -5.0..5.0, keyed: true, help: "Where they start without a prop."
          number :start_size, "Start radius", unit: "m", default: 0.1, range: 0.0..1000.0, slider: 0.0..1.0,
            help: "How far around the place they start."
        end
        Shake.declare(self, turns: false)
        group "How many" do
          number :rate, "Rate", unit: "per s", default: 30.0, range: 0.0..20_000.0, slider: 0.0..500.0, keyed: true,
            help: "Particles in a second."
          number :life, "Life", unit: "s", default: 1.5, range: 0.02..60.0, slider: 0.1..5.0,
            help: "How long each lasts; each a little more or less."
          whole :first, "From frame", time: :from, default: 1, range: 0..100_000, slider: 1..240,
            help: "The first frame on which they start."
          whole :last, "To frame", time: :to, default: 0, range: 0..100_000, slider: 0..240, zero: "the end",
            help: "The last frame on which they start. 0: as long as the shot lasts."
        end
        group "How they fly" do
          vector :direction, "Direction", default: [0.0, 1.0, 0.0], range: -1000.0..1000.0, slider: -1.0..1.0,
            keyed: true, help: "The way they are thrown."
          number :speed, "Throw speed", unit: "m/s", default: 4.0, range: 0.0..1000.0, slider: 0.0..20.0, keyed: true,
            help: "How fast they are thrown; each a little more or less."
          number :spread, "Spread", unit: "°", default: 35.0, range: 0.0..180.0, keyed: true,
            help: "Half angle of the cone they fly in. 180 is every way."
          number :drag, "Drag", unit: "per s", default: 0.6, range: 0.0..100.0, slider: 0.0..10.0,
            help: "How soon the air slows them. 0.3 is debris, 5 is ash."
          number :fall, "Gravity", default: 1.0, range: -10.0..10.0, slider: -1.0..2.0,
            help: "1 falls as on earth; embers with little weight take 0.1, negative rises."
          number :stir, "Turbulence", unit: "m/s²", default: 2.0, range: 0.0..1000.0, slider: 0.0..20.0,
            help: "How much the air throws them about."
          number :stir_size, "Turbulence size", unit: "m", default: 0.5, range: 0.01..1000.0, slider: 0.05..2.0,
            help: "Across one swirl."
        end
        group "How they look", touches: :picture do
          number :glow, "Glow", default: 0.0, range: 0.0..1000.0, slider: 0.0..20.0, keyed: true,
            help: "How bright each is as a spark; 0 shows none. It dies with the particle."
          number :width, "Streak width", unit: "m", default: 0.012, range: 0.0005..10.0, slider: 0.002..0.1,
            help: "How thick a spark is drawn."
          colour :colour, "Colour", default: [1.0, 0.45, 0.12], range: 0.0..1.0, help: "Of the sparks (linear)."
          node :shows, "Seen as copies of", default: nil, of: :prop,
            help: "A prop, which may be hidden itself: leaves, shards, motes. They are seen in the developed view " \
              "and in pictures."
          number :copy_size, "Their size", default: 1.0, range: 0.0001..1000.0, slider: 0.05..2.0,
            help: "Of the prop's own."
          number :copy_vary, "Sizes vary", default: 0.3, range: 0.0..1.0, help: "0 makes all alike."
          number :copy_fade, "Shrink at the end", default: 0.2, range: 0.0..1.0,
            help: "Over this part of their life they go."
          number :tumble, "Tumble", unit: "°/s", default: 120.0, range: 0.0..10_000.0, slider: 0.0..720.0,
            help: "How fast they turn, each its own way."
        end
      end
    end
  end
end
