# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      MASKS = {everywhere: "everywhere", content: "smoke or heat", smoke: "smoke", heat: "heat", speed: "speed"}.freeze

      Chamber = Kind.new(:chamber, "Chamber", plural: "Chamber", chapter: :chamber, always: :one,
        help: "The box that the gas moves in.") do
        group "The box" do
          Carried.declare(self)
          vector :position, "Floor centre", unit: "m", default: [0.0, 0.0, 0.0], range: -10_000.0..10_000.0,
            slider: -5.0..5.0,
            help: "The middle of its floor."
          vector :size, "Size", unit: "m", default: [2.4, 3.2, 2.4], range: 0.01..10_000.0, slider: 0.5..10.0,
            help: "Width, height and depth. Leave room for the roll of the smoke; empty room costs little while the " \
              "chamber follows its content."
          number :voxel, "Voxel size", unit: "m", default: 0.04, range: 0.0005..100.0, slider: 0.01..0.2,
            help: "Of a full run. Half the size shows twice the detail and takes some sixteen times as long."
          number :draft, "Draft voxels", unit: "times larger", default: 1.5, range: 1.0..8.0, slider: 1.0..4.0,
            help: "A draft takes voxels this much larger."
        end
        group("Sides that are open") { Sides.declare(self) }
        group "Follows its content" do
          switch :follow, "Follows", default: true,
            help: "Computes only the part of the box that holds something, with a margin. Off: always the whole box."
          number :margin, "Margin", unit: "m", default: 0.24, range: 0.0..1000.0, slider: 0.05..2.0,
            only: {follow: [true]},
            help: "Clean air kept around the content, two voxels at least. More lets the flow far from it be felt."
          switch :grow, "As far as it goes", default: false, only: {follow: [true]},
            help: "The box is only where it begins: past its open sides the chamber grows with the content, unless " \
              "it leads to a further chamber."
          number :most, "Voxels at most", unit: "millions", default: 4.0, range: 0.01..2000.0, slider: 0.5..40.0,
            only: {grow: [true]},
            help: "How far it may grow. What comes to that edge is let out, and the frame says so."
          whole :padding, "Padding kept", unit: "voxels", default: 0, range: 0..16, slider: 0..16,
            help: "Clean air around the content that frames and exports keep with its velocity, for motion blur."
          number :follow_speed, "Speed that counts", unit: "m/s", default: 0.0, range: 0.0..1000.0, slider: 0.0..10.0,
            zero: "none", only: {follow: [true]},
            help: "Air that moves faster than this counts as content too. 0: only matter does."
        end
        group "How the gas moves" do
          number :time_scale, "Time scale", default: 1.0, range: 0.0..100.0, slider: 0.0..3.0, keyed: true,
            help: "How fast time passes in the chamber: 0.5 is slow motion, 0 stands still."
          number :ambient, "Surroundings", unit: "K", default: 293.0, range: 1.0..3000.0, slider: 230.0..330.0,
            help: "Temperature of the still air."
          number :gravity, "Gravity", unit: "times", default: 1.0, range: -100.0..100.0, slider: 0.0..3.0, keyed: true,
            help: "Of the earth's. Scales lift and weights together: 0 is space, 0.4 a giant's slow blast."
          number :lift, "Thermal lift", default: 1.0, range: -10.0..10.0, slider: 0.0..3.0, keyed: true,
            help: "1 is what nature does: hot gas is light."
          number :weight, "Smoke weight", unit: "m/s²", default: 0.2, range: -100.0..100.0, slider: 0.0..5.0,
            keyed: true, help: "How a density of 1 pulls down; high values make it fall like dust."
          number :fuel_weight, "Fuel weight", unit: "m/s²", default: 0.0, range: -100.0..100.0, slider: 0.0..5.0,
            keyed: true,
            help: "How unburnt fuel of density 1 pulls down. Heavy fuel runs along the ground before it lights."
          number :viscosity, "Viscosity", unit: "m²/s", default: 0.0, range: 0.0..100.0, slider: 0.0..0.2, keyed: true,
            help: "How thick the gas is. 0 is air; 0.02 calms small rolls; 0.2 moves like syrup."
          number :outward, "Outward push", unit: "m²/s", default: 0.0, range: -10.0..10.0, slider: 0.0..0.2,
            keyed: true,
            help: "Drives smoke from where it is dense to where it is thin, so that puffs swell and keep their " \
              "edge. 0.02 is soft."
          number :smoke_spread, "Smoke spreads", unit: "m²/s", default: 0.0, range: 0.0..100.0, slider: 0.0..0.1,
            keyed: true, help: "How fast smoke soaks into clean air. 0.002 softens edges, 0.05 makes a haze."
          number :heat_spread, "Heat spreads", unit: "m²/s", default: 0.0, range: 0.0..100.0, slider: 0.0..0.1,
            keyed: true, help: "How fast heat soaks into cold gas. Much of it makes a plume broad and slow."
          number :curl_boost, "Curl boost", default: 0.5, range: 0.0..10.0, slider: 0.0..2.0,
            keyed: true,
            help: "Gives small rolls back the energy that the voxels take. From 0.8 on as much as turbulent gas " \
              "keeps; more puts it where rolls are strongest."
          choice :curl_mask, "Curl boost acts on", default: "everywhere", choices: MASKS,
            help: "Where small rolls are fed."
        end
        group "Turbulence" do
          number :stir, "Turbulence", unit: "m²/s³", default: 0.3, range: 0.0..1000.0, slider: 0.0..10.0, keyed: true,
            help: "The power that it puts into smoke and heat, without making or taking any air. 0.3 loosens a " \
              "plume, 3 tears it."
          number :stir_size, "Turbulence size", unit: "m", default: 0.5, range: 0.001..1000.0, slider: 0.05..2.0,
            help: "Across one swirl of the largest octave."
          number :stir_speed, "Turbulence speed", unit: "per s", default: 1.2, range: 0.0..100.0, slider: 0.0..6.0,
            help: "How often the swirls change."
          whole :stir_octaves, "Octaves", default: 2, range: 1..6,
            help: "Each further one is half as large and half as strong."
          choice :stir_mask, "Acts on", default: "content", choices: MASKS, help: "What is stirred."
        end
        group "Burning" do
          number :ignite, "Ignition", unit: "K", default: 600.0, range: 1.0..6000.0, slider: 300.0..1500.0, keyed: true,
            help: "Fuel burns where it is hotter than this. A source must be hotter to light its own fuel."
          number :burn_rate, "Burn rate", unit: "per s", default: 4.0, range: 0.0..1000.0, slider: 0.0..20.0,
            keyed: true,
            help: "Density of fuel that burns in a second. 2 is a lazy fire, 10 a flash."
          number :flame, "Flame length", default: 1.0, range: 0.05..20.0, slider: 0.2..4.0, keyed: true,
            help: "2: fuel takes twice as long to burn and flames twice as long to cool, so they reach farther."
          number :burn_heat, "Heat", unit: "K", default: 1500.0, range: 0.0..20_000.0, slider: 0.0..4000.0, keyed: true,
            help: "Kelvin that a density of 1 of fuel gives."
          number :burn_smoke, "Smoke made", default: 0.5, range: 0.0..100.0, slider: 0.0..4.0, keyed: true,
            help: "Smoke that a density of 1 of fuel leaves. 0.1 burns clean, 2 is an oil fire."
          number :burn_swell, "Expansion", default: 3.0, range: 0.0..200.0, slider: 0.0..20.0, keyed: true,
            help: "Volumes that a density of 1 of fuel becomes. 2 is a flame, 8 a fireball; very sensitive, and held " \
              "back where a step would burst."
          number :front, "Front break-up", unit: "m²/s³", default: 0.0, range: 0.0..10_000.0, slider: 0.0..200.0,
            keyed: true,
            help: "The power that tears the burning or pushing front, where the gas swells. 0 lets a blast leave as " \
              "a smooth egg."
          number :front_size, "Front size", unit: "m", default: 0.25, range: 0.001..1000.0, slider: 0.05..1.0,
            help: "Across one of the folds that this makes."
          number :air, "Air", default: 0.0, range: 0.0..100.0, slider: 0.0..10.0, zero: "as much as is wanted",
            keyed: true,
            help: "Volumes of air that a density of 1 of fuel needs to burn. Above 0 a fire burns where fuel and air " \
              "meet: the inside of a rich ball burns late, and its soot burns off at the tips."
          number :cooling, "Cooling", unit: "K/s", default: 700.0, range: 0.0..100_000.0, slider: 0.0..5000.0,
            keyed: true,
            help: "What gas 1000 K above the surroundings loses by radiating; hotter gas loses far more."
          number :shield, "Heat kept by soot", unit: "per m", default: 6.0, range: 0.0..1000.0, slider: 0.0..40.0,
            keyed: true,
            help: "How thick smoke of density 1 is for heat that radiates. 0 cools everywhere alike; 10 keeps the " \
              "inside of a thick ball hot."
          switch :sooty, "Soot has a colour", default: false,
            help: "Smoke made by burning takes the colour below; other smoke keeps its own."
          colour :soot, "Soot colour", default: [0.06, 0.055, 0.05], range: 0.0..1.0, keyed: true,
            only: {sooty: [true]},
            help: "How much light soot throws on (linear)."
        end
        group "How it fades" do
          number :smoke_fade, "Smoke fades", unit: "per s", default: 0.0, range: 0.0..100.0, slider: 0.0..4.0,
            keyed: true, half_life: true,
            help: "Which share of the smoke goes in a moment. 0: it stays; 0.7 halves it each second."
          number :heat_fade, "Heat fades", unit: "per s", default: 0.6, range: 0.0..100.0, slider: 0.0..4.0,
            keyed: true, half_life: true,
            help: "How fast gas comes back to the surroundings' temperature. 0: it stays hot; 0.7 halves the " \
              "difference each second."
          number :fuel_fade, "Fuel fades", unit: "per s", default: 0.0, range: 0.0..100.0, slider: 0.0..4.0,
            keyed: true, half_life: true,
            help: "How fast unburnt fuel goes. 0: it stays until it burns."
        end
        group "What it tells" do
          switch :tells_age, "Its smoke's age", default: false,
            help: "Each frame also keeps how long ago its smoke came, so that looks and exports can go by it. It " \
              "takes a little more time and room."
          switch :tells_burning, "Where it burns", default: false,
            help: "Each frame also keeps how much fuel burns a second, so that looks and exports can go by it."
        end
        group "How exact" do
          choice :transport, "Transport", default: "sharp",
            choices: {sharp: "sharp, second order", soft: "soft, first order"},
            help: "Sharp keeps detail; soft is a third faster and blurs."
          number :cells, "Cells a substep", default: 4.0, range: 0.25..32.0, slider: 1.0..8.0,
            help: "The fastest gas may cross this many voxels before a frame is divided further."
          whole :substeps_least, "Substeps at least", default: 1, range: 1..64, slider: 1..8,
            help: "Each frame is divided at least so often."
          whole :substeps_most, "Substeps at most", default: 4, range: 1..64, slider: 1..16,
            help: "Each frame is divided at most so often."
          number :accuracy, "Accuracy", default: 1e-4, range: 1e-7..0.1, slider: 1e-6..1e-2,
            help: "Flow left over in a cell around colliders, as part of the top speed. Without colliders it is " \
              "exact."
        end
      end
    end
  end
end
