# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Map = Kind.new(:map, "Map", plural: "Maps", chapter: :sources,
        help: "Says where a source, an emitter or a prop's second colour is strong. Several are " \
          "joined in the order of their cards.") do
        belongs :to
        group "What it is" do
          # Both are said by where its card stands.
          node :to, "Belongs to", default: nil, of: %i[source inflow emitter prop], only: {what: []},
            help: "What it makes strong or weak."
          whole :order, "Order", default: 0, range: 0..10_000, only: {what: []}, help: "Lower ones come first."
          choice :what, "Strength from", default: "front",
            choices: {
              front: "a front's age", box: "a box", ball: "a ball", near: "nearness to a prop", noise: "noise",
              picture: "a picture", paint: "point colours", formula: "a formula"
            }, help: "What says where it is strong."
          choice :how, "Joined by", default: "times",
            choices: {times: "multiplying", plus: "adding", minus: "taking away", most: "the larger of both"},
            help: "With what the maps before it came to; the first one begins with all, or with nothing where it adds."
          number :opacity, "How much", default: 1.0, range: 0.0..1.0, keyed: true,
            help: "0 leaves out the map, 1 counts it whole."
          switch :inverted, "The other way round", default: false, help: "Strong where it was weak."
        end
        group "How" do
          node :front, "Front", default: nil, of: :front, only: {what: %w[front]}, help: "Whose age it takes."
          number :rise, "Rises in", unit: "s", default: 0.1, range: 0.0..1000.0, slider: 0.0..2.0, zero: "at once",
            keyed: true, only: {what: %w[front]}, help: "How long after the front has come it is whole."
          number :lasts, "Lasts", unit: "s", default: 1.0, range: 0.0..10_000.0, slider: 0.0..5.0, zero: "for ever",
            keyed: true, only: {what: %w[front]}, help: "How long it stays whole."
          number :fall, "Falls in", unit: "s", default: 0.5, range: 0.0..1000.0, slider: 0.0..3.0, zero: "at once",
            keyed: true, only: {what: %w[front]}, help: "How long it takes to go."
          node :near, "Prop", default: nil, of: :prop, only: {what: %w[near]},
            help: "What it is near to, as that moves and changes: a hot pot in water, water that wets a wall, a " \
              "hand on clay. What lies within it is near."
          number :reach, "Reaches", unit: "m", default: 0.1, range: 0.0001..10_000.0, slider: 0.01..1.0, keyed: true,
            only: {what: %w[near]}, help: "So far from it is nothing left of it."
          switch :heats, "By how hot it is", default: false, only: {what: %w[near]},
            help: "For steam: strong only while that prop is hot."
          number :hot, "Its temperature", unit: "K", default: 900.0, range: 0.0..10_000.0, slider: 273.0..1500.0,
            keyed: true, only: {what: %w[near], heats: [true]},
            help: "Of the prop that it is near to. Key it as that cools."
          number :boils, "Begins at", unit: "K", default: 373.0, range: 0.0..10_000.0, slider: 273.0..1000.0,
            only: {what: %w[near], heats: [true]}, help: "Colder than this there is nothing: water boils at 373 K."
          number :boils_all, "In full at", unit: "K", default: 800.0, range: 0.0..10_000.0, slider: 273.0..1500.0,
            only: {what: %w[near], heats: [true]}, help: "From here on hotter makes no more of it."
          choice :space, "Stands in", default: "world", choices: {world: "the world", own: "the prop's own space"},
            only: {what: %w[box ball noise]}, help: "Whether it stays where it is when the prop moves, or goes along."
          vector :position, "Middle", unit: "m", default: [0.0, 0.5, 0.0], range: -10_000.0..10_000.0,
            slider: -5.0..5.0, keyed: true, only: {what: %w[box ball]}, help: "Of the box or the ball."
          vector :size, "Size", unit: "m", default: [1.0, 1.0, 1.0], range: 0.0001..10_000.0, slider: 0.1..5.0,
            keyed: true, only: {what: %w[box]}, help: "Full lengths."
          number :radius, "Radius", unit: "m", default: 0.5, range: 0.0001..10_000.0, slider: 0.05..5.0, keyed: true,
            only: {what: %w[ball]}, help: "To where it ends."
          number :soft, "Soft edge", default: 0.5, range: 0.0..1.0, keyed: true, only: {what: %w[box ball near]},
            help: "Which part of it fades."
          number :grain, "Patches", unit: "m", default: 0.25, range: 0.001..1000.0, slider: 0.02..2.0, keyed: true,
            only: {what: %w[noise]}, help: "Across the largest of them."
          whole :octaves, "Octaves", default: 3, range: 1..6, only: {what: %w[noise]},
            help: "Each adds patches of half the size."
          number :change, "Changes", unit: "per s", default: 0.0, range: 0.0..100.0, slider: 0.0..6.0,
            only: {what: %w[noise]}, help: "How often the patches change. 0: they stand."
          number :level, "Level", default: 0.0, range: -1.0..1.0, keyed: true, only: {what: %w[noise]},
            help: "Higher leaves fewer patches strong."
          number :hard, "Hardness", default: 1.5, range: 0.0..100.0, slider: 0.0..10.0, keyed: true,
            only: {what: %w[noise]}, help: "0.5 is faint, 2 plain, 10 has hard edges."
          whole :seed, "Other patches", default: 1, range: 0..1_000_000, slider: 1..50, only: {what: %w[noise]},
            help: "Another number puts them elsewhere."
          picture :picture, "Picture", default: nil, only: {what: %w[picture]},
            help: "Its brightness at the prop's texture places."
          text :formula, "Formula", default: "value", only: {what: %w[formula]},
            help: "A number from 0 to 1 for each place. Names: frame, t, x, y, z (the world's), seed, and value, " \
              "which the maps before it came to."
        end
      end
    end
  end
end
