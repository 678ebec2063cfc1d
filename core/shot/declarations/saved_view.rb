# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      SavedView = Kind.new(:view, "Saved view", plural: "Saved views", chapter: :camera,
        help: "A place to look from, kept so that one comes back to it: the view's own, which the " \
          "camera can take over.") do
        group "Where one looks from", touches: :view do
          vector :position, "Position", unit: "m", default: [0.0, 1.6, 6.0], range: -10_000.0..10_000.0,
            slider: -20.0..20.0, help: "Where one stands."
          vector :target, "Looks at", unit: "m", default: [0.0, 1.3, 0.0], range: -10_000.0..10_000.0,
            slider: -20.0..20.0, help: "The point in the middle."
          number :focal, "Focal length", unit: "mm", default: 40.0, range: 1.0..5000.0, slider: 14.0..135.0,
            help: "On a frame 36 mm wide."
        end
      end
    end
  end
end
