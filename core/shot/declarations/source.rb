# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      # What the copies of a source may differ by.
      COPIED = %i[skin point_size smoke fuel temperature push colour along velocity carried rough breakup breakup_size
        breakup_speed fade].freeze

      Source = Kind.new(:source, "Source", plural: "Sources", chapter: :sources,
        help: "Feeds matter from a prop into the chamber.") do
        Giving.place(self)
        group "What it feeds" do
          choice :as, "Feeds as", default: "add", choices: {add: "add per second", hold: "hold at"},
            help: "Add makes more each second; hold keeps smoke and fuel at these densities."
          number :smoke, "Smoke", unit: "per s", default: 4.0, range: 0.0..1000.0, slider: 0.0..20.0, keyed: true,
            help: "Density added each second, or held. 4 is a thick plume at the usual look, 0.5 a haze."
          number :fuel, "Fuel", unit: "per s", default: 0.0, range: 0.0..1000.0, slider: 0.0..20.0, keyed: true,
            help: "Density added each second, or held. 1 is a small fire, 3 a large one, 12 a charge."
          switch :heats, "Sets temperature", default: true,
            help: "Off: what it feeds has the temperature of its surroundings and only drifts."
          choice :warm_as, "Temperature as", default: "hold", choices: {hold: "hold at", add: "add per second"},
            only: {heats: [true]},
            help: "Hold draws the gas to the temperature; add warms it by as much above the surroundings each " \
              "second."
          number :temperature, "Temperature", unit: "K", default: 520.0, range: 1.0..6000.0, slider: 200.0..1800.0,
            keyed: true, only: {heats: [true]},
            help: "What the gas in the source is held at. 320 rises slowly, 520 briskly, 1400 like a flame; below " \
              "the surroundings it sinks. Fuel lights above its ignition."
          number :push, "Pressure push", unit: "per s", default: 0.0, range: 0.0..10_000.0, slider: 0.0..60.0,
            keyed: true,
            help: "Volumes of gas that each volume of the source gives off in a second. 5 swells, 30 is a blast; it " \
              "needs a way out."
          switch :coloured, "Has a colour", default: false,
            help: "The smoke keeps this colour wherever it goes, on top of the look's own."
          colour :colour, "Colour", default: [0.5, 0.35, 0.25], range: 0.0..1.0, keyed: true, only: {coloured: [true]},
            help: "How much light this smoke throws on (linear)."
        end
        Giving.leave(self) do
          choice :speed_as, "Speed as", default: "hold", choices: {hold: "hold at", add: "add per second"},
            help: "Hold draws the gas to these speeds; add pushes it by as much each second."
        end
        Giving.strength(self)
        Giving.row(self, COPIED)
      end
    end
  end
end
