# frozen_string_literal: true

module Vumbral
  # A spot in pictures whose motion is known, with noise, blur and changing light.
  RSpec.describe Finish::Tracker do
    include FinishHelp

    def wall(x, y) =
      0.35 + 0.12 * Math.sin(0.31 * x + 0.5 * Math.sin(0.11 * y)) + 0.1 * Math.cos(0.23 * y + 0.07 * x) +
        0.08 * Math.sin(0.09 * x - 0.19 * y) + 0.25 * Math.exp(-((x - 60)**2 + (y - 50)**2) / 40.0)

    def way(frame) = [48 + 1.37 * frame + 3 * Math.sin(0.4 * frame), 46 + 0.41 * frame + 2 * Math.cos(0.3 * frame) - 2]

    # @param covered [Range, nil] frames on which something else stands before it
    def picture(frame, random, noise: 0.012, covered: nil)
      left, top = way(frame)
      shifts = (frame % 5 == 3) ? [-1.2, -0.6, 0.0, 0.6, 1.2] : [0.0]
      painted(110, 90) do |x, y|
        value = shifts.sum { |shift| wall(x + 0.5 - left + 60 + shift, y + 0.5 - top + 50 + 0.4 * shift) } / shifts.size
        value = 0.5 + 0.3 * Math.sin(1.7 * x) * Math.cos(1.3 * y) if covered&.cover?(frame)
        value =
          (value * (1 + 0.01 * frame) + 0.001 * frame)**2 + noise * (random.rand + random.rand + random.rand - 1.5)
        [value] * 3 + [1.0]
      end
    end

    def follow(frames, **how)
      random = Random.new(3)
      Finish::Tracker
        .new(size: 21, search: 7, **how.except(:covered, :noise))
        .follow(frames, *way(frames[0])) { |frame| picture(frame, random, **how.slice(:covered, :noise)) }
    end

    def errors(found) = found.map { |spot| Math.hypot(*[spot.x, spot.y].zip(way(spot.frame)).map { |a, b| a - b }) }

    it "finds it within a tenth of a pixel in the mean, on and back" do
      [(0..20).to_a, 20.downto(6).to_a].each do |frames|
        found = follow(frames)
        expect(found.map(&:frame)).to eq(frames)
        expect(errors(found).sum / found.size).to be < 0.1
        expect(errors(found).max).to be < 0.2
      end
    end

    it "stays as near when its pattern is taken anew bit by bit" do
      found = follow((0..16).to_a, adapts: 0.3)
      expect(errors(found).sum / found.size).to be < 0.1
    end

    it "evens what trembles, and leaves what goes evenly, to its ends" do
      random = Random.new(2)
      way = (0..30).map { |n| 2.0 * n }
      rough = way.map { |x| x + random.rand - 0.5 }
      off = ->(places) { Math.sqrt(places.zip(way).sum { |a, b| (a - b)**2 } / way.size) }
      expect(off[described_class.even(rough, 2.0)]).to be < 0.6 * off[rough]
      expect(described_class.even(way, 3.0)).to all_be_near(way, 1e-9)
      expect(described_class.even(way, 0.0)).to eq(way)
    end

    it "notices that it slipped where something stands before it, and stops there" do
      found = follow((0..20).to_a, covered: 9..20)
      expect(found.last.frame).to eq(8)
      expect(found.map(&:sure).min).to be > 0.9
    end

    # A hand that passes over the left half of the picture, and what says where it is.
    def hand(frame)
      left = 12 * (frame - 6)
      cover =
        Kernel::Buffer.of(
          :f32, (0...90).flat_map { (0...110).map { |x| x.between?(left, left + 30) ? 1.0 : 0.0 } }, 90, 110
        )
      image = picture(frame, Random.new(frame))
      [
        painted(110, 90) do |x, y|
          (cover[y, x] > 0.5) ? [0.3 + 0.3 * Math.sin(1.7 * x) * Math.cos(1.3 * y)] * 3 + [1.0] : pixel(image, x, y)
        end,
        cover
      ]
    end

    it "passes over what is marked, waits for a spot behind it and finds it again" do
      tracker = described_class.new(size: 21, search: 7)
      blind = tracker.follow((0..20).to_a, *way(0)) { |frame| hand(frame)[0] }
      expect(blind.last.frame).to be < 12
      found = tracker.follow((0..20).to_a, *way(0)) { |frame| hand(frame) }
      expect(found.last.frame).to eq(20)
      expect((0..20).to_a - found.map(&:frame)).to include(9)
      expect(errors(found).max).to be < 0.5
    end

    it "follows several at once as each by itself" do
      tracker = described_class.new(size: 21, search: 7)
      two =
        tracker.follow_all([0, 1, 2], [way(0), way(0).map { |c| c + 6 }]) { |frame| picture(frame, Random.new(frame)) }
      expect(two[0]).to eq(tracker.follow([0, 1, 2], *way(0)) { |frame| picture(frame, Random.new(frame)) })
      expect(two[1].size).to eq(3)
    end

    it "stops where it leaves the frame, and finds nothing where nothing is to be seen" do
      plain = Finish::Tracker.new(size: 11, search: 5)
      expect(plain.follow([1, 2, 3], 8.0, 6.0) { plain(0.3, 0.3, 0.3, 1.0) }.size).to eq(1)
      out = Finish::Tracker.new(size: 11, search: 8).follow((0..9).to_a, 100.0, 40.0) { |frame|
        painted(110, 90) { |x, y| [0.2 + Math.exp(-((x - 99.5 - 4.0 * frame)**2 + (y - 39.5)**2) / 8.0)] * 3 + [1.0] }
      }
      expect(out.size).to be < 5
    end
  end
end
