# frozen_string_literal: true

module Vumbral
  RSpec.describe Grid::Sampling do
    it "meets the values at grid points, is exact on a slope and goes on beyond the edge" do
      slope = field(4, 5, 6) { |k, j, i| 1.0 + 2.0 * i - 3.0 * j + 0.5 * k }
      expect(described_class.linear(slope, 5.0, 4.0, 3.0)).to eq(slope[3, 4, 5])
      expect(described_class.linear(slope, 1.25, 2.5, 0.75)).to be_within(1e-5).of(1.0 + 2.5 - 7.5 + 0.375)
      expect(described_class.linear(slope, -3.0, 2.0, 9.0)).to eq(slope[3, 2, 0])
      low, high = described_class.bounds(slope, 1.25, 2.5, 0.75)
      expect([low, high]).to eq([1.0 + 2.0 - 9.0, 1.0 + 4.0 - 6.0 + 0.5])
    end

    it "reads face velocities at any place" do
      u, v, w =
        field(3, 4, 6) { |_, _, i| i.to_f },
        field(3, 5, 5) { |_, j, _| 2.0 * j },
        field(4, 4, 5) { |k, _, _| -k.to_f }
      expect(described_class.velocity(u, v, w, 2.5, 1.25, 1.5)).to match(
        [be_within(1e-5).of(2.5), be_within(1e-5).of(2.5), be_within(1e-5).of(-1.5)]
      )
    end
  end

  RSpec.describe Grid::Noise do
    it "is the same every time, smooth, within its bounds and even on average" do
      values = (0...2000).map { |n| described_class.value(n * 0.37, n * 0.11, n * 0.53, n * 0.07, 4) }
      expect(values).to all(be_between(-1.0, 1.0))
      expect(values.sum / values.size).to be_within(0.05).of(0.0)
      expect(values.uniq.size).to be > 1900
      expect(described_class.value(0.37, 0.11, 0.53, 0.07, 4)).to eq(values[1])
      expect(described_class.value(0.37, 0.11, 0.53, 0.07, 5)).not_to eq(values[1])
      near = described_class.value(0.3701, 0.1101, 0.5301, 0.0701, 4)
      expect(near).to be_within(0.002).of(values[1])
    end
  end

  RSpec.describe Grid::Bricks do
    it "keeps padding around the content, with its velocity" do
      state = Gas::State.still([48, 48, 48])
      state.smoke[24, 24, 30] = 1.0
      state.u.fill(2.0)
      counts = [0, 4, 16].map { |padding| described_class.pack(state, padding: padding).count }
      expect(counts).to eq([1, 2, 27])
      expect(described_class.pack(state, padding: 4).field(:x)[24, 24, 35]).to eq(2.0)
    end

    it "keeps what has content, to half precision, and nothing else" do
      state = Gas::State.still([20, 40, 33])
      state.smoke[3, 5, 30] = 0.4
      state.heat[19, 39, 2] = -55.5
      state.v[3, 5, 30] = 2.0
      state.v[3, 6, 30] = 4.0
      bricks = described_class.pack(state)
      expect(bricks.count).to eq(2)
      expect(bricks.places.to_a.each_slice(3).to_a).to contain_exactly([0, 0, 1], [1, 2, 0])
      expect(bricks.field(:smoke)[3, 5, 30]).to be_within(0.0003).of(0.4)
      expect(bricks.field(:heat)[19, 39, 2]).to eq(-55.5)
      # Velocity stays on faces; at centres it is the mean of two, or of the one that is kept.
      expect(bricks.field(:y)[3, 5, 30]).to eq(2.0)
      expect(bricks.velocity[1][3, 5, 30]).to eq(3.0)
      expect(bricks.velocity[1][3, 6, 30]).to eq(2.0)
      expect(bricks.field(:smoke).to_a.count(&:positive?)).to eq(1)
    end

    it "is nothing at all for clean air" do
      bricks = described_class.pack(Gas::State.still([9, 9, 9]))
      expect(bricks.count).to eq(0)
      expect(bricks.field(:smoke).to_a.uniq).to eq([0.0])
    end
  end

  RSpec.describe Grid::Coarsening do
    it "takes means of eight and keeps the sum" do
      fine = random_field(6, 8, 4, range: 0.0..1.0)
      half = described_class.half(fine)
      expect(half.shape).to eq([3, 4, 2])
      expect(half.to_a.sum * 8).to be_within(1e-3).of(fine.to_a.sum)
      expect(described_class.half(field(3, 3, 3) { 1.0 }).shape).to eq([2, 2, 2])
    end
  end
end
