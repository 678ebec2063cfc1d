# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Annex = Kind.new(:annex, "Further chamber", plural: "Further chambers", chapter: :chamber,
        help: "One more box that gas moves in, with the voxels and the behaviour of the first. Where it touches " \
          "another and both sides there are open, gas passes; apart, it is computed by itself.") do
        group "The box" do
          Carried.declare(self)
          vector :position, "Floor centre", unit: "m", default: [2.4, 0.0, 0.0], range: -10_000.0..10_000.0,
            slider: -5.0..5.0, help: "The middle of its floor."
          vector :size, "Size", unit: "m", default: [2.4, 3.2, 2.4], range: 0.01..10_000.0, slider: 0.5..10.0,
            help: "Width, height and depth."
        end
        group("Sides that are open") { Sides.declare(self) }
      end
    end
  end
end
