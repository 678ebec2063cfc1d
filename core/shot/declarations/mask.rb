# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Mask = Kind.new(:mask, "Mask", plural: "Masks", chapter: :finish,
        help: "Says where in the frame a layer or an effect counts.") do
        belongs :to
        group "Of what", touches: :finish do
          node :to, "Of", of: %i[layer effect], default: nil, help: "What it limits."
          choice :what, "Kind", default: "oval",
            choices: {
              oval: "an oval", box: "a box", outline: "an outline", ramp: "a soft edge across the frame",
              bright: "by brightness", coloured: "by a colour", covered: "by what the layer covers",
              prop: "by the shape of a prop", differs: "by what differs from an empty plate", texture: "by a texture"
            }, help: "The first four are placed in the frame; the others go by the picture."
          node :prop, "Prop", of: :prop, default: nil, only: {what: %w[prop]},
            help: "Where it is seen by the camera, whatever stands before it; it need not be shown itself."
          plate :clean, "Empty plate", default: nil, only: {what: %w[differs]},
            help: "The same place without what shall count: one picture, or one for each frame."
          node :texture, "Texture", of: :texture, default: nil, only: {what: %w[texture]},
            help: "As it lies on an upright sheet as high as the frame; it drifts as it does there."
          number :high_as, "Frame's height", unit: "m", default: 2.0, range: 0.001..10_000.0, slider: 0.2..10.0,
            keyed: true, only: {what: %w[texture]}, help: "How much of the texture is seen from top to bottom."
          choice :use, "Counts for", default: "seen",
            choices: {seen: "what is seen", tracking: "tracking, which passes over it"},
            help: "Where something goes by in front, nothing is sought that is followed in this layer. Of an " \
              "effect it counts for what is seen."
          choice :joined, "With those before it", default: "and",
            choices: {and: "also counts", without: "is taken away", within: "both must count"},
            help: "Of several masks of one thing."
        end
        group "Where", touches: :finish do
          number :x, "Across", unit: "%", default: 50.0, range: -1000.0..1000.0, slider: 0.0..100.0, keyed: true,
            only: {what: %w[oval box ramp]}, help: "Its middle: 0 is the left edge, 100 the right one."
          number :y, "Down", unit: "%", default: 50.0, range: -1000.0..1000.0, slider: 0.0..100.0, keyed: true,
            only: {what: %w[oval box ramp]}, help: "0 is the top, 100 the bottom."
          number :width, "Width", unit: "%", default: 60.0, range: 0.0..2000.0, slider: 0.0..200.0, keyed: true,
            only: {what: %w[oval box]}, help: "Of the frame's height."
          number :height, "Height", unit: "%", default: 60.0, range: 0.0..2000.0, slider: 0.0..200.0, keyed: true,
            only: {what: %w[oval box]}, help: "Of the frame's height."
          number :turn, "Turned", unit: "°", default: 0.0, range: -36_000.0..36_000.0, slider: -180.0..180.0,
            keyed: true, only: {what: %w[oval box ramp]}, help: "To the right."
          places :points, "Points", default: [], keyed: true, only: {what: %w[outline]},
            help: "Across and down in % of the frame, and how soft the edge is there besides, in % of its height; " \
              "the outline is smooth through all of them."
          number :across, "Shifted right", unit: "%", default: 0.0, range: -1000.0..1000.0, slider: -100.0..100.0,
            keyed: true, only: {what: %w[outline]}, help: "The whole outline, in % of the frame's width."
          number :along, "Shifted down", unit: "%", default: 0.0, range: -1000.0..1000.0, slider: -100.0..100.0,
            keyed: true, only: {what: %w[outline]}, help: "The whole outline, in % of the frame's height."
          node :follows, "Goes with", of: %i[prop lamp track], default: nil, only: {what: %w[oval box ramp outline]},
            help: "It is shifted as far as this goes after the first frame; a prop or lamp is where the camera sees it."
        end
        group "What it goes by", touches: :finish do
          number :low, "Nothing at", default: 0.2, range: 0.0..1000.0, slider: 0.0..1.0, keyed: true,
            only: {what: %w[bright texture]}, help: "How bright a place may be and does not count at all."
          number :high, "All at", default: 0.8, range: 0.0..1000.0, slider: 0.0..2.0, keyed: true,
            only: {what: %w[bright texture]}, help: "From here on it counts wholly."
          colour :colour, "Colour", default: [0.1, 0.5, 0.1], only: {what: %w[coloured]},
            help: "What has its hue counts, however bright it is."
          number :near, "How near", default: 0.15, range: 0.0..2.0, slider: 0.0..0.6, keyed: true,
            only: {what: %w[coloured differs]},
            help: "How far its hue and strength may be off; of an empty plate, how far brightness and colour may."
          number :fall, "Falls off over", default: 0.15, range: 0.001..2.0, slider: 0.01..0.6, keyed: true,
            only: {what: %w[coloured differs]},
            help: "Beyond that it goes over to nothing, or from nothing to all, over so much."
        end
        group "Its edge", touches: :finish do
          number :grown, "Grown", unit: "%", default: 0.0, range: -200.0..200.0, slider: -20.0..20.0, keyed: true,
            only: {what: %w[oval box outline]}, help: "Outwards, or inwards below 0, in % of the frame's height."
          number :soft, "Soft edge", unit: "%", default: 6.0, range: 0.0..400.0, slider: 0.0..60.0, keyed: true,
            help: "How wide it goes from nothing to all, in % of the frame's height."
          switch :inverted, "The other way round", default: false, help: "It counts where it did not."
          number :opacity, "How much", unit: "%", default: 100.0, range: 0.0..100.0, keyed: true,
            help: "100 is all of it."
          whole :order, "Order", default: 0, range: -10_000..10_000, help: "Masks are joined from the lowest number on."
        end
      end
    end
  end
end
