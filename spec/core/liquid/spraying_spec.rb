# frozen_string_literal: true

module Vumbral
  RSpec.describe Liquid::Spraying do
    # @param places [Array<Array<Float>>] x, y, z in cells
    def spray(places, life: 1.0, kind: 1)
      Liquid::Spray.of(places.size).tap do |all|
        all.at.replace(Kernel::Buffer.of(:f32, places.flatten, places.size, 3))
        places.each_index do |n|
          all.life[n, 1] = life
          all.kind[n] = kind
          all.id[n] = n
        end
      end
    end

    def seen(...) = described_class.density(...)

    # What a volume holds, in cells of the liquid.
    def held(bricks, fine) = bricks.values.to_a.sum / fine**3

    let(:random) { Random.new(3) }
    let(:places) { Array.new(500) { Array.new(3) { 2.0 + 8.0 * random.rand } } }

    it "holds as much however fine it is told, one cell's density by the particle at two cells a voxel" do
      all = [1, 2, 5, 8].map { |fine| held(seen(spray(places), [12, 12, 12], fine, 0.1), fine) }
      expect(all).to all be_within(0.002 * all[0]).of(all[0])
      expect(all[0]).to be_within(0.1 * 500 * 0.1 / 8).of(500 * 0.1 / 8)
    end

    it "stands where the particles are, some heavier than others" do
      fine = 4
      bricks = seen(spray([[3.2, 4.1, 5.3], [8.7, 8.2, 9.9]]), [12, 12, 12], fine, 1.0)
      expect([bricks.size, bricks.origin]).to eq([[32, 48, 48], [16, 0, 0]])
      field = bricks.field(:smoke)
      full = (0...48 * 48 * 32).map { |n| [n / 2304, n / 48 % 48, n % 48] }.reject { |place| field[*place].zero? }
        .map { |place| place.zip(bricks.origin).map { |c, o| (c + o + 0.5) / fine }.reverse }
      near, far = full.partition { |place| place[0] < 6 }
      expect([near.size, far.size].max).to be <= 8
      expect(near).to all satisfy { |place| place.zip([3.2, 4.1, 5.3]).all? { |a, b| (a - b).abs <= 1.0 / fine } }
      expect(far).to all satisfy { |place| place.zip([8.7, 8.2, 9.9]).all? { |a, b| (a - b).abs <= 1.0 / fine } }
      weights =
        Array
          .new(200) { |n| held(seen(spray([[5.0] * 3] * (n + 1)), [12, 12, 12], 2, 1.0), 2) }
          .each_cons(2)
          .map { |a, b| b - a }
      expect(weights.max).to be > 2.5 * weights.sum / weights.size
      expect(weights.min).to be < 0.05 * weights.sum / weights.size
    end

    it "is weaker as life ends, and bubbles are hardly seen" do
      whole, ending, bubbles =
        [{}, {life: 0.15}, {kind: 2}].map { |more| held(seen(spray(places, **more), [12, 12, 12], 3, 0.1), 3) }
      expect(ending).to be_within(0.01 * whole).of(0.5 * whole)
      expect(bubbles).to be_within(0.01 * whole).of(0.25 * whole)
    end

    it "takes room only where there is any, and leaves out what lies outside" do
      huge = [300, 300, 300]
      expect(seen(spray([[150.0] * 3, [1.0, 299.9, 20.0]]), huge, 16, 1.0).count).to be_between(2, 16)
      expect(seen(spray([[-5.0, 2.0, 2.0], [2.0, 900.0, 2.0]]), huge, 8, 1.0).count).to eq(0)
      expect(seen(Liquid::Spray.of(0), huge, 8, 1.0).count).to eq(0)
    end
  end
end
