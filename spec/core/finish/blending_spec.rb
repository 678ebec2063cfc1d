# frozen_string_literal: true

module Vumbral
  # How layers are laid, against W3C Compositing and Blending Level 1.
  RSpec.describe Finish::BlendKernels do
    include FinishHelp

    below, above = [0.3, 0.6, 0.1], [0.8, 0.2, 0.5]
    soft = ->(b, s) {
      if s <= 0.5
        b - (1 - 2 * s) * b * (1 - b)
      else
        b + (2 * s - 1) * (((b <= 0.25) ? ((16 * b - 12) * b + 4) * b : Math.sqrt(b)) - b)
      end
    }
    {
      "over" => ->(_, s) { s }, "screen" => ->(b, s) { b + s - b * s }, "multiply" => ->(b, s) { b * s },
      "difference" => ->(b, s) { (b - s).abs },
      "overlay" => ->(b, s) { (b <= 0.5) ? 2 * b * s : 1 - 2 * (1 - b) * (1 - s) }, "soft" => soft,
      "lighter" => ->(b, s) { [b, s].max }, "darker" => ->(b, s) { [b, s].min }
    }.each do |mode, formula|
      it "lays a picture #{mode} as published, where both cover and where they cover in part" do
        [[1.0, 1.0], [0.6, 0.5]].each do |ab, as|
          stand =
            FinishHelp::Stand.new(
              shots: {
                "low" => plain(*below.map { |c| c * ab }, ab), "high" => plain(*above.map { |c| c * as }, as)
              }
            )
          got = pixel(composite([layer("low"), layer("high", 1, blend: mode)], stand), 3, 3)
          wanted = below.zip(above).map { |b, s| as * (1 - ab) * s + as * ab * formula.call(b, s) + (1 - as) * ab * b }
          expect(got.first(3)).to all_be_near(wanted, 2e-6)
          expect(got[3]).to be_within(1e-6).of(as + ab - as * ab)
        end
      end
    end

    it "adds light that covers nothing, and keeps lights brighter than white" do
      fire = plain(4.0, 2.0, 0.5, 0.0)
      wall = plain(0.2, 0.2, 0.2, 1.0)
      %w[over add].each do |mode|
        expect(
          pixel(
            composite(
              [layer("low"), layer("high", 1, blend: mode)],
              FinishHelp::Stand.new(shots: {"low" => wall, "high" => fire})
            ),
            1,
            1
          )
        ).to all_be_near([4.2, 2.2, 0.7, 1.0], 1e-5)
      end
      expect(
        pixel(
          composite(
            [layer("low"), layer("high", 1, blend: "screen")],
            FinishHelp::Stand.new(shots: {"low" => wall, "high" => fire})
          ),
          1,
          1
        )
      ).to all_be_near([4.0, 2.0, 0.6, 1.0], 1e-5)
    end

    it "keeps what lies below where a layer covers, does not cover, or is bright, as much as its opacity says" do
      wall = plain(0.4, 0.4, 0.4, 1.0)
      half = painted(16, 12) { |x, _| (x < 8) ? [0.5, 0.5, 0.5, 1.0] : [0.0] * 4 }
      {"inside" => [1.0, 0.0], "outside" => [0.0, 1.0], "bright" => [0.5, 0.0]}.each do |mode, (left, right)|
        image =
          composite(
            [layer("low"), layer("high", 1, blend: mode)],
            FinishHelp::Stand.new(shots: {"low" => wall, "high" => half})
          )
        expect([pixel(image, 2, 3)[0], pixel(image, 12, 3)[3]]).to all_be_near([0.4 * left, right], 1e-6)
      end
      image =
        composite(
          [layer("low"), layer("high", 1, blend: "inside", opacity: 50.0)],
          FinishHelp::Stand.new(shots: {"low" => wall, "high" => half})
        )
      expect(pixel(image, 12, 3)[3]).to be_within(1e-6).of(0.5)
    end

    it "lays layers in their order, leaves out what is switched off, and mixes what changes all below by its opacity" do
      wall = plain(0.4, 0.4, 0.4, 1.0)
      edits = [
        layer("change", 5, what: "change", opacity: 25.0), effect("change", "exposure", stops: 1.0), layer("low", -2),
        layer("off", 9, what: "colour", colour: [1.0, 0.0, 0.0]), {"do" => "switch", "node" => "off", "off" => true}
      ]
      expect(pixel(composite(edits, FinishHelp::Stand.new(shots: wall)), 5, 5)).to all_be_near(
        [0.5, 0.5, 0.5, 1.0], 1e-6
      )
    end
  end
end
