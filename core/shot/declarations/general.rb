# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      General = Kind.new(:general, "Shot", plural: "Shot", chapter: :timeline, always: :one,
        help: "The frames that the shot covers, and how fast they pass.") do
        group "Frames" do
          whole :first, "First frame", default: 1, range: 0..100_000, slider: 0..100,
            help: "The frame on which everything starts from still air."
          whole :last, "Last frame", default: 72, range: 0..100_000, slider: 24..240,
            help: "The last frame of the shot. Tried with 48 for drafts of a puff, 240 for a long plume."
          number :rate, "Frames a second", unit: "fps", default: 24.0, range: 1.0..240.0, slider: 12.0..60.0,
            help: "How long one frame lasts. Changing it changes the run, for time passes differently."
          whole :seed, "Seed", default: 1, range: 0..1_000_000, slider: 1..100,
            help: "Another number gives other noise everywhere; the same number gives the same shot, byte for byte."
        end
      end
    end
  end
end
