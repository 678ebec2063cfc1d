# frozen_string_literal: true

module Vumbral
  RSpec.describe Geometry::MapKernels do
    let(:corners) { Kernel::Buffer.of(:f32, [0, 0, 0, 2, 0, 0, 0, 2, 0].map(&:to_f), 1, 9) }

    it "shares a place between the corners of its triangle" do
      expect(described_class.shares(corners, 0, 0.5, 1.0,
        3.0)).to match([be_within(1e-6).of(0.25), be_within(1e-6).of(0.25), be_within(1e-6).of(0.5)])
      expect(described_class.shares(corners, 0, -5.0, -5.0, 0.0)).to eq([1.0, 0.0, 0.0])
    end

    it "reads a picture between its pixels, the first row on top, and repeats it" do
      picture = Kernel::Buffer.of(:f32, [0.0, 1.0, 0.5, 0.25], 2, 2)
      expect(described_class.pixel(picture, 0.25, 0.75)).to be_within(1e-5).of(0.0)
      expect(described_class.pixel(picture, 0.75, 0.75)).to be_within(1e-5).of(1.0)
      expect(described_class.pixel(picture, 0.75, 0.25)).to be_within(1e-5).of(0.25)
      expect(described_class.pixel(picture, 1.75, -0.75)).to be_within(1e-5).of(0.25)
      expect(described_class.pixel(picture, 0.5, 0.5)).to be_within(1e-5).of(0.4375)
    end
  end

  RSpec.describe Geometry::Pose do
    it "goes part of the way, and knows how fast a place on it moves" do
      from, to = described_class.new([0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [1.0, 1.0, 1.0]),
described_class.new([1.0, 0.0, 0.0], [0.0, 90.0, 0.0], [1.0, 1.0, 3.0])
      half = from.towards(to, 0.5)
      expect([half.position, half.turn, half.scale]).to eq([[0.5, 0.0, 0.0], [0.0, 45.0, 0.0], [1.0, 1.0, 2.0]])
      shift = described_class.new([0.5, 0.0, 0.0], [0.0, 0.0, 0.0], [1.0, 1.0, 1.0])
      motion = Geometry::Transform.motion(from.transform, from.transform, shift.transform, 0.25)
      expect(motion.apply([3.0, 4.0,
        5.0])).to match([be_within(1e-9).of(2.0), be_within(1e-9).of(0.0), be_within(1e-9).of(0.0)])
      turned = described_class.new([0.0, 0.0, 0.0], [0.0, 0.5, 0.0], [1.0, 1.0, 1.0])
      spin = Geometry::Transform.motion(from.transform, from.transform, turned.transform, 0.1)
      expect(spin.apply([1.0, 0.0, 0.0])[2]).to be_within(0.01).of(-5.0 * Math::PI / 180)
    end

    it "leads back" do
      place = described_class.new([1.0, -2.0, 3.0], [20.0, 130.0, -75.0], [2.0, 0.5, 1.5]).transform
      point = [0.3, -0.7, 1.1]
      expect(place.inverse.apply(place.apply(point)).zip(point).map { |a, b| (a - b).abs }.max).to be < 1e-9
      expect((place * place.inverse).apply(point).zip(point).map { |a, b| (a - b).abs }.max).to be < 1e-9
    end
  end

  RSpec.describe Geometry::Caps do
    def triangles(rings, points)
      described_class.new(points.map { |x, y| [x.to_f, y.to_f, 0.0] }, rings, [0.0, 0.0, 1.0]).triangles
    end

    def covered(found, points)
      found.sum { |a, b, c|
        ((points[b][0] - points[a][0]) * (points[c][1] - points[a][1]) -
        (points[b][1] - points[a][1]) * (points[c][0] - points[a][0])) / 2.0
      }
    end

    # The plane's own axes may be turned about; areas stay.
    it "fills a ring that bends inwards" do
      points = [[0, 0], [4, 0], [4, 4], [2, 1], [0, 4]]
      found = triangles([[0, 1, 2, 3, 4]], points)
      expect(found.size).to eq(3)
      expect(covered(found, points)).to be_within(1e-9).of(16 - 6)
    end

    it "leaves holes open, also several, and rings within rings" do
      square = ->(x, y, s) { [[x, y], [x + s, y], [x + s, y + s], [x, y + s]] }
      points = square.call(0, 0, 10) + square.call(1, 1, 2) + square.call(5, 5, 3) + square.call(20, 0, 1)
      found = triangles([[0, 1, 2, 3], [7, 6, 5, 4], [11, 10, 9, 8], [12, 13, 14, 15]], points)
      expect(covered(found, points)).to be_within(1e-9).of(100 - 4 - 9 + 1)
      expect(found.map { |t| covered([t], points) }).to all(be >= -1e-9)
    end
  end
end
