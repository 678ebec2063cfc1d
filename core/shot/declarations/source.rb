# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Source = Kind.new(:source, "Source", plural: "Sources", chapter: :sources, help: "Feeds matter from a prop into the chamber.") do
        group "Where it comes from" do
          node :prop, "From prop", default: nil, of: :prop, help: "The object that gives off the matter."
          choice :from, "Comes from", default: "inside", choices: {inside: "the inside", surface: "the surface"}, help: "Inside fills the whole body; the surface feeds a skin around it, so it also works for open meshes and sheets."
          number :skin, "Skin", unit: "voxels", default: 1.5, range: 0.5..8.0, slider: 0.5..4.0, only: {from: %w[surface]}, help: "How thick the feeding skin is."
        end
        group "What it feeds" do
          number :smoke, "Smoke", unit: "per s", default: 4.0, range: 0.0..1000.0, slider: 0.0..20.0, keyed: true, help: "Density added each second. 4 is a thick plume at the usual look, 0.5 a haze."
          switch :heats, "Sets temperature", default: true, help: "Off: the smoke has the temperature of its surroundings and only drifts."
          number :temperature, "Temperature", unit: "K", default: 520.0, range: 1.0..6000.0, slider: 200.0..1800.0, keyed: true, only: {heats: [true]}, help: "What the gas in the source is held at. 320 rises slowly, 520 briskly, 1400 like a flame; below the surroundings it sinks."
        end
        group "How it leaves" do
          number :breakup, "Break-up noise", default: 0.6, range: 0.0..1.0, keyed: true, help: "How unevenly it feeds. 0 gives a smooth column, 1 leaves gaps."
          number :breakup_size, "Break-up size", unit: "m", default: 0.25, range: 0.001..1000.0, slider: 0.02..1.0, help: "Size of the uneven patches. About a third of the source looks natural."
          number :breakup_speed, "Break-up speed", unit: "per s", default: 3.0, range: 0.0..100.0, slider: 0.0..12.0, help: "How often the patches change."
        end
        group "When" do
          number :strength, "Strength", default: 1.0, range: 0.0..100.0, slider: 0.0..2.0, keyed: true, help: "Multiplies everything it feeds. Set notches here to let it swell and die."
          whole :first, "From frame", default: 1, range: 0..100_000, slider: 1..240, help: "The first frame on which it feeds."
          whole :last, "To frame", default: 0, range: 0..100_000, slider: 0..240, zero: "the end", help: "The last frame on which it feeds. 0: as long as the shot lasts."
        end
      end
    end
  end
end
