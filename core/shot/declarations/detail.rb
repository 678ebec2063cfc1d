# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Detail = Kind.new(:detail, "Finer detail", plural: "Finer detail", chapter: :chamber, always: :one,
        help: "Adds rolls that are finer than the voxels, after the run and without changing its motion.") do
        group "After the run" do
          switch :on, "Finer detail", default: false,
            help: "Can be switched and changed without running the simulation again."
          choice :runs, "Refines", default: "both",
            choices: {both: "drafts and full runs", draft: "drafts only", full: "full runs only"},
            help: "Drafts alone, twice as fine, are about as fine as a full run of half their voxels."
          whole :finer, "Times finer", default: 2, range: 2..3, help: "Each voxel becomes 8 or 27."
          number :strength, "Detail strength", default: 1.0, range: 0.0..10.0, slider: 0.0..3.0,
            help: "How far smoke is drawn aside where the flow is lively."
          number :scale, "Size", unit: "voxels", default: 5.0, range: 1.0..20.0, slider: 1.5..8.0,
            help: "Across the largest of the new rolls, in voxels of the run."
          node :texture, "Where", of: :texture, default: nil,
            help: "A texture that says where there is more detail: none at 0, all at 1. One that reads a sculpt " \
              "puts it where that is dense."
          number :sharpen, "Sharpen smoke", default: 0.4, range: -1.0..3.0, slider: -1.0..1.5,
            help: "Lifts edges that the voxels have softened; below 0 softens them."
          number :sharpen_heat, "Sharpen heat", default: 0.4, range: -1.0..3.0, slider: -1.0..1.5,
            help: "The same for what glows."
          number :sharpen_fuel, "Sharpen fuel", default: 0.4, range: -1.0..3.0, slider: -1.0..1.5,
            help: "The same for unburnt fuel."
        end
      end
    end
  end
end
