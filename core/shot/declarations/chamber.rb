# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Chamber = Kind.new(:chamber, "Chamber", plural: "Chamber", chapter: :chamber, single: true, help: "The box that the gas moves in.") do
        group "The box" do
          vector :position, "Floor centre", unit: "m", default: [0.0, 0.0, 0.0], range: -10_000.0..10_000.0, slider: -5.0..5.0, help: "The middle of its floor."
          vector :size, "Size", unit: "m", default: [2.4, 3.2, 2.4], range: 0.01..10_000.0, slider: 0.5..10.0, help: "Width, height and depth. Leave room for the roll of the smoke, and no more."
          number :voxel, "Voxel size", unit: "m", default: 0.04, range: 0.0005..100.0, slider: 0.01..0.2, help: "Of a full run. Half the size shows twice the detail and takes some sixteen times as long."
          number :draft, "Draft voxels", unit: "times larger", default: 1.5, range: 1.0..8.0, slider: 1.0..4.0, help: "A draft takes voxels this much larger."
        end
        group "Sides that are open" do
          {x0: "Left (−x)", x1: "Right (+x)", y0: "Floor", y1: "Ceiling", z0: "Back (−z)", z1: "Front (+z)"}.each do |side, label|
            switch :"open_#{side}", label, default: side != :y0, help: "Open: gas leaves and air comes in. Closed: a wall."
          end
        end
        group "How the gas moves" do
          number :ambient, "Surroundings", unit: "K", default: 293.0, range: 1.0..3000.0, slider: 230.0..330.0, help: "Temperature of the still air."
          number :lift, "Thermal lift", default: 1.0, range: -10.0..10.0, slider: 0.0..3.0, keyed: true, help: "1 is what nature does: hot gas is light."
          number :weight, "Smoke weight", unit: "m/s²", default: 0.2, range: -100.0..100.0, slider: 0.0..5.0, keyed: true, help: "How a density of 1 pulls down; high values make it fall like dust."
          number :curl_boost, "Curl boost", unit: "per s", default: 2.0, range: 0.0..100.0, slider: 0.0..10.0, keyed: true, help: "Gives small rolls back the energy that the voxels blur away. 2 is lively, 8 is nervous."
        end
        group "Turbulence" do
          number :stir, "Turbulence", unit: "m/s²", default: 1.5, range: 0.0..1000.0, slider: 0.0..10.0, keyed: true, help: "Pushes smoke and heat about, without making or taking any air. 1.5 loosens a plume, 6 tears it."
          number :stir_size, "Turbulence size", unit: "m", default: 0.5, range: 0.001..1000.0, slider: 0.05..2.0, help: "Across one swirl; half of the push is in swirls half as large."
          number :stir_speed, "Turbulence speed", unit: "per s", default: 1.2, range: 0.0..100.0, slider: 0.0..6.0, help: "How often the swirls change."
        end
        group "How it fades" do
          number :smoke_half, "Smoke half-life", unit: "s", default: 0.0, range: 0.0..10_000.0, slider: 0.0..10.0, keyed: true, zero: "never", help: "After this long half of the smoke is gone. 0: it stays."
          number :heat_half, "Heat half-life", unit: "s", default: 1.2, range: 0.0..10_000.0, slider: 0.0..10.0, keyed: true, zero: "never", help: "After this long the gas is half as far above the surroundings. 0: it stays hot."
        end
        group "How exact" do
          choice :transport, "Transport", default: "sharp", choices: {sharp: "sharp, second order", soft: "soft, first order"}, help: "Sharp keeps detail; soft is a third faster and blurs."
          number :cells, "Cells a substep", default: 4.0, range: 0.25..32.0, slider: 1.0..8.0, help: "The fastest gas may cross this many voxels before a frame is divided further."
          whole :substeps_least, "Substeps at least", default: 1, range: 1..64, slider: 1..8, help: "Each frame is divided at least so often."
          whole :substeps_most, "Substeps at most", default: 4, range: 1..64, slider: 1..16, help: "Each frame is divided at most so often."
          number :accuracy, "Accuracy", default: 1e-4, range: 1e-7..0.1, slider: 1e-6..1e-2, help: "Flow left over in a cell around colliders, as part of the top speed. Without colliders it is exact."
        end
      end
    end
  end
end
