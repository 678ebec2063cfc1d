# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Camera = Kind.new(:camera, "Camera", plural: "Camera", chapter: :light, single: true,
        help: "Where the picture is taken from.") do
        group "Where it stands", touches: :picture do
          vector :position, "Position", unit: "m", default: [0.0, 1.6, 6.0], range: -10_000.0..10_000.0,
            slider: -20.0..20.0, help: "Where the camera stands."
          vector :target, "Looks at", unit: "m", default: [0.0, 1.3, 0.0], range: -10_000.0..10_000.0,
            slider: -20.0..20.0, help: "The point in the middle of the picture."
        end
        group "Lens", touches: :picture do
          number :focal, "Focal length", unit: "mm", default: 40.0, range: 4.0..1000.0, slider: 14.0..135.0,
            help: "On a frame 36 mm wide: 24 is wide, 50 as the eye sees, 100 narrow."
        end
      end
    end
  end
end
