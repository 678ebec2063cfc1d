# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Sculpt = Kind.new(:sculpt, "Sculpt", plural: "Sculpts", chapter: :sculpt,
        help: "A volume built by an ordered list of steps, without simulation: clouds, carved solids, haze with a shape.") do
        group "What it begins with", touches: :sculpt do
          node :prop, "Prop", of: :prop, default: nil, help: "The distance to its surface is what the steps begin with: below 0 within it. Hide the prop unless it shall be seen too."
          nodes :also, "And", of: :prop, default: [], help: "More props, as one body with the first."
        end
        group "Its voxels", touches: :sculpt do
          number :voxel, "Voxel size", unit: "m", default: 0.03, range: 0.001..100.0, slider: 0.01..0.1, help: "Smaller shows more and takes longer: half of it takes eight times as many."
          number :room, "Room around", unit: "m", default: 0.2, range: 0.0..1000.0, slider: 0.0..2.0, help: "How far beyond its props it may reach."
        end
      end

      Step = Kind.new(:step, "Step", plural: "Steps", chapter: :sculpt,
        help: "One thing after the other, done to the values of a sculpt: what was there before goes in, what comes out goes on.") do
        group "What is done", touches: :sculpt do
          node :sculpt, "To sculpt", of: :sculpt, default: nil, help: "The sculpt whose values it changes."
          # Cards are put in order by hand, so no field shows it.
          whole :order, "Order", default: 0, range: 0..10_000, only: {what: []}, help: "Lower ones come first."
          choice :what, "It", default: "density",
            choices: {density: "makes density of the distance", grow: "grows or shrinks", shell: "leaves a shell", combine: "joins or cuts with a prop",
                      texture: "takes a texture to it", number: "takes a number to it", formula: "goes by a formula", warp: "is bent by noise",
                      blur: "blurs", median: "takes specks out", limit: "keeps what lies between"},
            help: "One thing after the other, in the order of the cards."
        end
        group "How", touches: :sculpt do
          number :inside, "Whole from", unit: "m", default: 0.1, range: 0.0001..1000.0, slider: 0.005..0.5, keyed: true, only: {what: %w[density]}, help: "So deep within, it is whole."
          number :outside, "Begins", unit: "m", default: 0.0, range: -1000.0..1000.0, slider: -0.1..0.5, keyed: true, only: {what: %w[density]}, help: "So far outside, it begins; below 0 only within."
          number :whole, "Density", default: 1.0, range: 0.0..1000.0, slider: 0.0..10.0, keyed: true, only: {what: %w[density]}, help: "What it is where it is whole."
          number :by, "By", unit: "m", default: 0.05, range: -100.0..100.0, slider: -0.3..0.3, keyed: true, only: {what: %w[grow]}, help: "How far its surface moves out; below 0 in."
          number :wall, "Wall", unit: "m", default: 0.05, range: 0.0001..100.0, slider: 0.005..0.3, keyed: true, only: {what: %w[shell]}, help: "How thick what is left of it is."
          node :other, "Prop", of: :prop, default: nil, only: {what: %w[combine]}, help: "The other body."
          choice :how, "Keeps", default: "cut", choices: {cut: "what lies outside the other", union: "both as one", intersect: "what both have"}, only: {what: %w[combine]}, help: "What is left of the two."
          number :blend, "Rounded by", unit: "m", default: 0.0, range: 0.0..100.0, slider: 0.0..0.5, keyed: true, only: {what: %w[combine]}, help: "How softly one goes over into the other."
          node :texture, "Texture", of: :texture, default: nil, only: {what: %w[texture]}, help: "The pattern; the same can lie on props and in fog."
          choice :sum, "It", default: "multiply",
            choices: {add: "is added", subtract: "is taken away", multiply: "multiplies", divide: "divides", difference: "the difference counts", greatest: "the greater counts", least: "the lesser counts", mix: "takes its place"},
            only: {what: %w[texture number]}, help: "What is done with the values before."
          number :factor, "Times", default: 1.0, range: -1000.0..1000.0, slider: -4.0..4.0, keyed: true, only: {what: %w[texture]}, help: "The texture's values are multiplied by this first."
          number :offset, "Plus", default: 0.0, range: -1000.0..1000.0, slider: -1.0..1.0, keyed: true, only: {what: %w[texture]}, help: "Then this is added to them."
          number :amount, "Number", default: 1.0, range: -1000.0..1000.0, slider: -2.0..4.0, keyed: true, only: {what: %w[number]}, help: "The number."
          text :formula, "Formula", default: "value", only: {what: %w[formula]},
            help: "A number for each place: x, y, z are metres, u, v, w go from 0 to 1 through the sculpt, value is what was there before."
          number :size, "Size", unit: "m", default: 0.3, range: 0.001..1000.0, slider: 0.05..2.0, keyed: true, only: {what: %w[warp]}, help: "Of the largest bends."
          number :far, "How far", unit: "m", default: 0.08, range: 0.0..100.0, slider: 0.0..0.5, keyed: true, only: {what: %w[warp]}, help: "How far places are bent aside."
          number :change, "Changes", unit: "per s", default: 0.0, range: 0.0..100.0, slider: 0.0..4.0, only: {what: %w[warp]}, help: "How often it becomes another noise."
          whole :seed, "Other noise", default: 1, range: 0..1_000_000, slider: 1..50, only: {what: %w[warp]}, help: "Another number bends otherwise."
          number :radius, "Radius", unit: "m", default: 0.05, range: 0.0..100.0, slider: 0.0..0.3, keyed: true, only: {what: %w[blur]}, help: "Of the bell that values are spread by."
          whole :cells, "Voxels around", default: 1, range: 1..2, only: {what: %w[median]}, help: "The middle one of all values so near takes a voxel's place: specks go, edges stay."
          number :low, "From", default: 0.0, range: -1000.0..1000.0, slider: 0.0..1.0, keyed: true, only: {what: %w[limit]}, help: "What is less becomes nothing."
          number :high, "To", default: 1.0, range: -1000.0..1000.0, slider: 0.0..2.0, keyed: true, only: {what: %w[limit]}, help: "What is more becomes 1; both the same cut sharply."
          number :strength, "How much of it", default: 1.0, range: 0.0..1.0, keyed: true, help: "0 leaves everything as it was before, 1 does the whole step."
        end
      end
    end
  end
end
