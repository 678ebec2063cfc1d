# frozen_string_literal: true

module Vumbral
  # What effects make of colours, as a table.
  RSpec.describe Finish::Baked do
    include FinishHelp

    it "is exact at its points, and through it a picture comes out as through the effects" do
      effects = [
        effect("one", "exposure", stops: -0.7), effect("one", "grade", 1, lift: 0.05, gamma: 1.3),
        effect("one", "saturation", 2, saturation: 0.6, strength: 50.0)
      ]
      found = described_class.cube(stack([layer("one"), *effects])[0], FinishHelp::Stand.new)
      image =
        painted(33, 1) do |x, _|
          [x / 32.0, 0.5, 1.0 - x / 32.0].map { |c| (c <= 0.04045) ? c / 12.92 : ((c + 0.055) / 1.055)**2.4 } + [1.0]
        end
      direct = composite([layer("one"), *effects], FinishHelp::Stand.new(shots: image.copy), width: 33, height: 1)
      table =
        composite(
          [layer("one"), effect("one", "table", table: "any", space: "screen")],
          FinishHelp::Stand.new(shots: image.copy, table: Formats::Cube.read(found.write)), width: 33, height: 1
        )
      expect(table.to_a).to all_be_near(direct.to_a, 2e-4)
    end

    it "leaves out what is no matter of colours alone" do
      layer =
        stack(
          [
            layer("one"), effect("one", "glow"), effect("one", "exposure", 1), effect("one", "contrast", 2),
            mask("one-contrast", "oval")
          ]
        )[
          0
        ]
      expect(described_class.effects(layer).map { |all| all.map { |one| one.is_a?(Hash) ? one["what"] : one } }).to eq(
        [%w[exposure], %w[glow contrast]]
      )
    end
  end
end
