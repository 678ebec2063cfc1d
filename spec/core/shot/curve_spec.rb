# frozen_string_literal: true

module Vumbral
  RSpec.describe Shot::Curve do
    def key(frame, value, ease = "smooth", arrive = nil, leave = nil) =
      described_class::Key.new(frame, value, ease, arrive, leave)

    def curve(*rows, **beyond) = described_class.new(rows.map { |row| key(*row) }, **beyond)

    def at(curve, *frames) = frames.map { |frame| curve.at(frame).round(6) }

    it "never leaves the values between two keys, however uneven" do
      random = Random.new(3)
      20.times do
        rows = Array.new(12) { |n| [n * 5 + random.rand(0..3), random.rand(-10.0..10.0)] }
        found = curve(*rows)
        rows.each_cons(2) do |(from, a), (to, b)|
          11.times do |n|
            expect(found.at(from + (to - from) * n / 10.0)).to be_between([a, b].min - 1e-9, [a, b].max + 1e-9)
          end
        end
      end
    end

    it "passes through every key, and is the same from both sides" do
      found = curve([0, 1.0], [4, 3.0], [9, -2.0])
      expect([0, 4, 9].map { |frame| found.at(frame) }).to eq([1.0, 3.0, -2.0])
      expect(found.at(4 - 1e-9)).to be_within(1e-6).of(found.at(4 + 1e-9))
    end

    it "of one key stands still" do
      expect([-5, 3, 99].map { |frame| curve([3, 7.0]).at(frame) }).to eq([7.0, 7.0, 7.0])
    end

    it "puts, replaces and drops keys, each in its order, and leaves itself as it was" do
      first = curve([5, 1.0])
      second = first.put(key(2, 4.0, "held")).put(key(5, 2.0, "linear"))
      expect(second.to_a.map { |key| key.values_at(:frame, :value, :ease) }).to eq(
        [[2, 4.0, "held"], [5, 2.0, "linear"]]
      )
      expect(second.drop(2).to_a.size).to eq(1)
      expect(first.to_a).to eq([{frame: 5, value: 1.0, ease: "smooth"}])
      expect([second.ease_at(1), second.ease_at(4), second.ease_at(5)]).to eq([nil, "held", "linear"])
      expect(second.drop(2).drop(5)).to be_empty
    end

    it "finds its place among thousands of keys" do
      many = curve(*(0...5000).map { |n| [n * 2, n.to_f, "linear"] })
      expect([1, 777, 9997].map { |frame| many.at(frame) }).to eq([0.5, 388.5, 4998.5])
    end

    it "comes out of an eased key slowly, and slowly into the next" do
      found = curve([0, 0.0, "eased"], [10, 1.0], [20, 2.0])
      # 3t² - 2t³
      expect(at(found, 1, 5, 9)).to eq([0.028, 0.5, 0.972])
      expect(found.at(0.01) / 0.01).to be < 0.004
    end

    it "goes through its keys as steeply as they say" do
      found = curve([0, 0.0, "smooth", nil, 2.0], [10, 0.0, "smooth", -1.0, 3.0], [20, 0.0])
      near = ->(frame) { (found.at(frame + 1e-4) - found.at(frame - 1e-4)) / 2e-4 }
      expect([near.call(1e-4), near.call(10 - 1e-3), near.call(10 + 1e-3)].map { |slope| slope.round(1) }).to eq(
        [2.0, -1.0, 3.0]
      )
      # A cubic with these ends is t(1 - t)² 20 - t²(t - 1) (-10) at its middle.
      expect(found.at(5)).to be_within(1e-9).of(0.125 * 10 * (2.0 + 1.0))
      expect(found.slopes).to eq([[0.0, 2.0], [-1.0, 3.0], [0.0, 0.0]])
    end

    it "goes on beyond its ends in each of its ways" do
      rows = [[10, 1.0, "linear"], [12, 3.0, "linear"], [14, 2.0]]
      {
        "hold" => [2, 2, 2], "again" => [2, 3, 1], "back" => [2.5, 2, 3], "onward" => [3, 4, 3],
        "straight" => [1.5, 0, -1]
      }.each do |way, expected|
        found = curve(*rows, after: way)
        expect([at(found, 15, 18, 20), way]).to eq(
          [
            {
              "hold" => [2, 2, 2], "again" => [2.0, 1.0, 3.0], "back" => [2.5, 1.0, 3.0], "onward" => [3.0, 3.0, 5.0],
              "straight" => [1.5, 0.0, -1.0]
            }[
              way
            ],
            way
          ]
        )
      end
      before = %w[hold again back onward straight].to_h { |way| [way, at(curve(*rows, before: way), 9, 6)] }
      expect(before).to eq(
        "hold" => [1, 1], "again" => [2.5, 1], "back" => [2, 2], "onward" => [1.5, 0], "straight" => [0, -3]
      )
    end

    it "goes over the seam of an even loop without a kink, and comes back to the same number" do
      loop = curve([0, 0.0], [6, 2.0], [12, 1.0], [24, 0.0], before: "again", after: "again")
      expect(at(loop, 1.5, 7, 20)).to eq(at(loop, 25.5, 31, 44)).and eq(at(loop, -22.5, -17, -4))
      steep = ->(frame) { (loop.at(frame + 1e-3) - loop.at(frame)) / 1e-3 }
      expect(steep.call(24.0)).to be_within(1e-3).of(steep.call(24.0 - 1e-3))
      turn = curve([0, 0.0, "linear"], [24, 360.0, "linear"], after: "onward")
      expect(at(turn, 36, 240)).to eq([540.0, 3600.0])
    end

    it "goes on part by part with vectors, and holds switches whatever they say" do
      place = curve([0, [0.0, 1.0], "linear"], [4, [4.0, 3.0], "linear"], after: "onward")
      expect(place.at(6)).to eq([6.0, 4.0])
      tilted = curve([0, [0.0, 0.0], "smooth", nil, [1.0, nil]], [2, [0.0, 4.0]])
      expect(tilted.at(1)).to eq([0.25, 2.0])
      expect(tilted.slopes[0]).to eq([[0.0, 0.0], [1.0, 0.0]])
      blink = curve([0, true], [2, false], [4, true], after: "again")
      expect([1, 3, 5, 7].map { |frame| blink.at(frame) }).to eq([true, false, true, false])
    end

    it "of one key stands still whatever it does beyond" do
      %w[again back onward straight].each { |way| expect(curve([3, 7.0], before: way, after: way).at(99)).to eq(7.0) }
    end
  end
end
