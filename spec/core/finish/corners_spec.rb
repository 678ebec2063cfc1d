# frozen_string_literal: true

module Vumbral
  # Spots that can be followed well.
  RSpec.describe Finish::Corners do
    include FinishHelp

    # Bright squares on grey, and a long edge, which is no corner.
    def squares
      painted(120, 80) do |x, y|
        inside =
          [[20, 20], [60, 20], [90, 50]].any? { |left, top| x.between?(left, left + 11) && y.between?(top, top + 11) }
        [(inside || y > 74) ? 0.8 : 0.2] * 3 + [1.0]
      end
    end

    let(:corners) do
      [[20, 20], [60, 20], [90, 50]].flat_map { |x, y| [[x, y], [x + 12, y], [x, y + 12], [x + 12, y + 12]] }
    end

    it "finds corners and no edges" do
      found = Finish::Corners.new(squares).best(60)
      expect(found.size).to be >= 12
      found
        .first(12)
        .each do |place|
          expect(corners.map { |corner| Math.hypot(corner[0] - place[0], corner[1] - place[1]) }.min).to be < 4
        end
    end

    it "spreads few, and leaves out what is taken or to be passed over" do
      few = Finish::Corners.new(squares).best(3)
      expect(few.combination(2).map { |a, b| Math.hypot(a[0] - b[0], a[1] - b[1]) }.min).to be > 25
      expect(
        Finish::Corners
          .new(squares)
          .best(3, besides: few)
          .map { |place| few.map { |other| Math.hypot(other[0] - place[0], other[1] - place[1]) }.min }
      ).to all(be > 25)
      ignored = Kernel::Buffer.of(:f32, (0...80).flat_map { |_| (0...120).map { |x| (x > 50) ? 1.0 : 0.0 } }, 80, 120)
      expect(Finish::Corners.new(squares, ignored).best(60).map(&:first)).to all(be < 51)
    end

    it "finds none where nothing is to be seen" do
      expect(Finish::Corners.new(plain(0.4, 0.4, 0.4, 1.0, width: 60, height: 40)).best(10)).to eq([])
    end
  end
end
