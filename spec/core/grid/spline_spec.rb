# frozen_string_literal: true

module Vumbral
  RSpec.describe Grid::Spline do
    def random(*size) = Random.new(3).then { |chance| field(*size) { chance.rand } }

    # As the book says it: sixty-four values by their weights, the nearest where there is none.
    def told(values, x, y, z)
      parts =
        [z, y, x].zip(values.shape).map do |at, count|
          at = at.clamp(0.0, count - 1.0)
          low = at.to_i.clamp(0, count - 2)
          (0..3).map { |n| (low - 1 + n).clamp(0, count - 1) }.zip(weights(at - low))
        end
      parts[0].product(*parts[1..]).sum { |(k, c), (j, b), (i, a)| a * b * c * values[k, j, i] }
    end

    def weights(f) =
      [(1 - f)**3, 3 * f**3 - 6 * f**2 + 4, 3 * (1 - f)**3 - 6 * (1 - f)**2 + 4, f**3].map { |w| w / 6.0 }

    it "weighs sixty-four values, in the middle of a field as at its border and beyond" do
      values = random(7, 6, 9)
      chance = Random.new(8)
      400.times do
        at = [9, 6, 7].map { |count| chance.rand * (count + 2) - 1.5 }
        expect(described_class.read(values, *at)).to be_within(2e-6).of(told(values, *at))
      end
    end

    it "makes nothing that is not between what it mixes, and returns an even field" do
      values = random(5, 5, 5)
      found = Random.new(2).then { |chance|
        Array.new(200) {
          described_class.read(values, *Array.new(3) { 4 * chance.rand })
        }
      }
      expect(found.minmax).to all(be_between(*values.to_a.minmax))
      expect(described_class.read(field(4, 4, 4) { 0.7 }, 1.3, 2.2, 0.4)).to be_within(1e-6).of(0.7)
    end

    it "comes out nearly as a wave was, once that is prepared" do
      wave = field(16, 16, 16) { |k, j, i| 1.0 + Math.sin(0.5 * i) * Math.cos(0.4 * j + 0.3 * k) }
      ready = described_class.of(wave)
      off = 6.times.map { |n| (described_class.read(ready, 4.0 + n, 6.0, 7.0) - wave[7, 6, 4 + n]).abs }
      plain = 6.times.map { |n| (described_class.read(wave, 4.0 + n, 6.0, 7.0) - wave[7, 6, 4 + n]).abs }
      expect(off.max).to be < 0.35 * plain.max
    end
  end
end
