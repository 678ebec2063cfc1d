# frozen_string_literal: true

module Vumbral
  # A moment between two pictures, along what moves.
  RSpec.describe Finish::Between do
    include FinishHelp

    def wall(x, y) =
      0.4 + 0.15 * Math.sin(0.35 * x + 0.4 * Math.sin(0.17 * y)) + 0.12 * Math.cos(0.29 * y - 0.08 * x) +
        0.08 * Math.sin(0.9 * x + 0.7 * y)

    # All of it goes along, and turns a little.
    def picture(t, width: 128, height: 96)
      angle = 0.02 * t
      painted(width, height) do |x, y|
        u, v = x - 64 - 5.3 * t, y - 48 + 2.4 * t
        [wall(64 + Math.cos(angle) * u + Math.sin(angle) * v, 48 - Math.sin(angle) * u + Math.cos(angle) * v)] * 3 +
          [1.0]
      end
    end

    def off(a, b) = Math.sqrt((12...84).sum { |y| (14...114).sum { |x| (a[y, x, 0] - b[y, x, 0])**2 } } / (72 * 100))

    it "finds how far each place goes" do
      way = described_class.new(picture(0.0), picture(1.0)).way(0.5)
      errors =
        (16...80)
          .step(8)
          .flat_map do |y|
            (20...108)
              .step(8)
              .map { |x| Math.hypot(way[y, x, 0] - 5.3 + 0.02 * (y - 48), way[y, x, 1] + 2.4 - 0.02 * (x - 64)) }
          end
      expect(errors.sum / errors.size).to be < 0.2
    end

    it "comes far nearer to the moment between than both over each other" do
      [0.25, 0.5].each do |t|
        first, second, middle = [0.0, 1.0, t].map { |at| picture(at) }
        plain = first.copy.tap { |out| Finish::BlendKernels.mix(out, second, Finish::Masks::EVERYWHERE, t) }
        expect(off(described_class.new(first, second).at(t), middle)).to be < 0.15 * off(plain, middle)
      end
    end

    it "leaves what stands still, and what shows nothing, as it is" do
      still = picture(0.3)
      expect(off(described_class.new(still, still).at(0.5), still)).to be < 1e-4
      grey = plain(0.2, 0.2, 0.2, 1.0, width: 40, height: 30)
      expect(described_class.new(grey, grey).at(0.3).to_a).to all_be_near(grey.to_a, 1e-5)
    end

    it "is what a layer shows between two frames of its plate, where it shall" do
      frames = {0 => picture(0.0), 1 => picture(1.0)}
      stand = FinishHelp::Stand.new(plate: ->(frame) { frames[frame] })
      edits = [
        layer(
          "wall", what: "plate", plate: "p", speed: 0.5, own_rate: false, between: true, moved: true, fit: "stretch"
        )
      ]
      found = composite(edits, stand, width: 128, height: 96, frame: 2, plates: FinishHelp::Facts.new(2, nil))
      expect(off(found, picture(0.5))).to be < 0.01
    end
  end
end
