# frozen_string_literal: true

module Vumbral
  RSpec.describe Gas::SwirlKernels do
    def tile(seed)
      edge = described_class::TILE
      potential = Kernel::Buffer.new(:f32, 3, edge, edge, edge)
      described_class.weave(potential, seed)
      Kernel::Buffer.new(:f32, edge, edge, edge, 4).tap { |tile| described_class.curl(tile, potential) }
    end

    def period = described_class::TILE.fdiv(described_class::SAMPLES)

    def rolls(tile, places, n = 0) = places.map { |place| described_class.swirl(tile, *place, n) }

    let(:chance) { Random.new(4) }
    let(:places) { Array.new(400) { Array.new(3) { chance.rand * 40.0 - 20.0 } } }
    let(:woven) { tile(7) }

    it "is the same for a seed, and another for another" do
      expect(tile(7).bytes == woven.bytes).to be(true)
      expect(tile(8).bytes == woven.bytes).to be(false)
    end

    it "begins again where it ends, without an edge" do
      far = places.map { |x, y, z| [x + period, y - 2 * period, z + period] }
      rolls(woven, places).flatten.zip(rolls(woven, far).flatten) { |a, b| expect(a).to be_within(1e-3).of(b) }
      # From the last sample on to the first.
      before, after = [-1e-3, 1e-3].map { |x| rolls(woven, places.map { |_, y, z| [x, y, z] }).flatten }
      before.zip(after) { |a, b| expect(a).to be_within(0.03).of(b) }
    end

    # Between two samples what comes in goes out (the centred differences of a curl of centred differences are exact).
    it "neither gathers nor scatters" do
      edge = described_class::TILE
      leaks, sizes =
        Array.new(300) do
          k, j, i = Array.new(3) { chance.rand(edge) }
          parts = [[0, 0, 0, 1], [1, 0, 1, 0], [2, 1, 0, 0]].map do |c, dk, dj, di|
            [1, -1].map { |s| woven[(k + s * dk) % edge, (j + s * dj) % edge, (i + s * di) % edge, c] }.reduce(:-)
          end
          [parts.sum.abs, parts.sum(&:abs)]
        end.transpose
      expect(leaks.max).to be < 1e-4 * sizes.max
    end

    # The curl of noise that is no tile: 0.75 (root of the mean square, each axis).
    it "is as strong as the curl of the noise it stands for, and alike along each axis" do
      3.times do |axis|
        strength = Math.sqrt(rolls(woven, places).sum { |roll| roll[axis]**2 } / places.size)
        expect(strength).to be_within(0.12).of(0.75)
      end
    end

    it "has parts that know nothing of each other" do
      one, two = [0, 3].map { |n| rolls(woven, places, n).map(&:first) }
      together = one.zip(two).sum { |a, b| a * b } / Math.sqrt(one.sum { |a| a * a } * two.sum { |b| b * b })
      expect(together.abs).to be < 0.15
    end
  end
end
