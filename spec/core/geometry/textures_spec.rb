# frozen_string_literal: true

module Vumbral
  RSpec.describe Geometry::Textures do
    # A texture over a sheet of the world, 10 m wide.
    def look(frame: 1, **dials)
      document =
        small_shot(
          edits: [
            {
              "do" => "add", "kind" => "texture", "id" => "texture",
              "dials" => {size: 0.5, octaves: 1}.merge(dials).transform_keys(&:to_s)
            }
          ]
        )
      row =
        Kernel::Buffer.of(
          :f32, described_class.row(document, document.node("texture"), frame), 1, described_class::WIDTH
        )
      out = Kernel::Buffer.new(:f32, 96, 96)
      Geometry::TextureKernels.look(
        out, row, 0, Kernel::Buffer.of(:f32, [0.03, 0.2, 0.07, 10.0, 0.0, 0.0, 0.0, 0.0, 10.0])
      )
      out.to_a
    end

    def mean(values) = values.sum / values.size

    it "has noise about a half, billows below and ridges above, all from 0 to 1" do
      soft, billows, ridges = %w[soft billows ridges].map { |basis| look(basis: basis) }
      expect(mean(soft)).to be_within(0.05).of(0.5)
      expect(mean(billows)).to be < 0.45
      expect(mean(billows) + mean(ridges)).to be_within(1e-4).of(1.0)
      expect([soft, billows, ridges].flatten).to all(be_between(0.0, 1.0))
    end

    it "has cells whose gaps are as wide as told, with values of their own" do
      edges = ->(gap) { mean(look(what: "cells", measure: "edges", gap: gap, cell_value: 1.0, gap_value: 0.0)) }
      expect([edges.call(0.02), edges.call(0.2), edges.call(0.5)].each_cons(2)).to all(
        satisfy { |more, less| more > less }
      )
      expect(mean(look(what: "cells", measure: "edges", cell_value: 0.2, gap_value: 0.9, gap: 0.0))).to be_within(
        0.06
      ).of(0.2)
      near, second = %w[nearest second].map { |measure| look(what: "cells", measure: measure) }
      expect(near.zip(second)).to all(satisfy { |a, b| a <= b })
    end

    it "has stripes of the share that a band is told, round ones and bent ones too" do
      [0.25, 0.5, 0.8].each do |band|
        expect(mean(look(what: "stripes", band: band, bend: 0.0, edge: 0.02))).to be_within(0.02).of(band)
      end
      expect(mean(look(what: "stripes", round: true, band: 0.5, bend: 0.5, edge: 0.02))).to be_within(0.06).of(0.5)
    end

    it "falls off from a place over its size" do
      fall = ->(course) { look(what: "fall", shape: "point", course: course, offset: [5.03, 0.2, 5.07], size: 2.0) }
      straight, square = fall.call("straight"), fall.call("square")
      expect(straight.max).to be > 0.95
      # A cone has a third of its cylinder, of 2 m about a sheet of 10 by 10.
      expect(mean(straight)).to be_within(0.004).of(Math::PI * 4.0 / 3.0 / 100.0)
      expect(mean(square)).to be_within(0.004).of(Math::PI * 4.0 / 6.0 / 100.0)
    end

    it "drifts evenly, keeps its pattern, and goes by contrast, gamma, ramp and factor" do
      at = ->(x, frame, drift) do
        document =
          small_shot(
            edits: [
              {"do" => "add", "kind" => "texture", "id" => "texture", "dials" => {"size" => 0.5, "drift" => drift}}
            ]
          )
        row =
          Kernel::Buffer.of(
            :f32, described_class.row(document, document.node("texture"), frame), 1, described_class::WIDTH
          )
        Geometry::TextureKernels.value(row, 0, x, 0.3, 0.1, 0.0)
      end
      expect(at.call(1.2, 25, [1.0, 0.0, 0.0])).to be_within(1e-5).of(at.call(0.2, 1, [1.0, 0.0, 0.0]))
      plain = look
      expect(look(inverted: true).zip(plain)).to all(satisfy { |a, b| (a + b - 1.0).abs < 1e-5 })
      expect(look(contrast: 50.0).count { |value| value.between?(0.01, 0.99) }).to be < 0.12 * plain.size
      expect(mean(look(gamma: 3.0))).to be > mean(plain) + 0.1
      step =
        look(
          ramp: [{"at" => 0.5, "value" => 0.0, "pass" => "held"}, {"at" => 0.55, "value" => 2.0, "pass" => "held"}],
          factor: 3.0
        )
      expect(step.minmax).to eq([0.0, 6.0])
    end
  end
end
