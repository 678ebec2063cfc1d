# frozen_string_literal: true

module Vumbral
  RSpec.describe Picture::StoneKernels do
    def stones(x, z, share: 0.6, size: 0.1, pixel: 1e-4) =
      described_class.stones(Geometry::Ray.new(x, 0.0, z, 0.0, 1.0, 0.0), size, share, pixel)

    # Places all over a piece of level ground, the same each time.
    def places(count = 3000)
      chance = Random.new(5)
      Array.new(count) { [20.0 * chance.rand, 20.0 * chance.rand] }
    end

    def covered(**how) = places.count { |x, z| stones(x, z, **how)[0].positive? }.fdiv(3000)

    it "lies on none of it, some of it and most of it" do
      expect(covered(share: 0.0)).to eq(0.0)
      few, some, many = [0.15, 0.5, 1.0].map { |share| covered(share: share) }
      expect(few).to be_between(0.02, 0.2)
      expect(some).to be > 1.8 * few
      expect(many).to be > 1.2 * some
      expect(many).to be < 0.8
    end

    it "stands out no higher than its stones are wide, and grows with them" do
      heights = places(1500).map { |x, z| stones(x, z)[0] }
      expect(heights.max).to be_between(0.015, 0.07)
      expect(places(1500).map { |x, z| stones(10 * x, 10 * z, size: 1.0)[0] }.max).to be_between(0.15, 0.7)
    end

    it "tells how tall they are beyond a height as it tells of all, for their shadows" do
      above = places(800).map { |x, z|
        place = Geometry::Ray.new(x, 0.0, z, 0.0, 1.0, 0.0)
        [stones(x, z)[0], *[0.0, 0.01, 0.03].map { |least| described_class.tall(place, 0.1, 0.6, 1e-4, least) }]
      }
      above.each do |whole, *parts|
        parts.zip([0.0, 0.01, 0.03]) { |part, least| expect([part, least].max).to eq([whole, least].max) }
      end
      expect(above.map(&:first).max).to be < described_class::TALLEST * 0.1
    end

    it "throws shadows along the ground away from a low lamp, and none from one overhead" do
      past = ->(x, z, way) {
        described_class.past(Geometry::Ray.new(x, 0.0, z, *way), 0.0, 1.0, 0.0, 0.1, 0.6, 1e-4, stones(x, z)[0])
      }
      low, steep, over = [[0.98, 0.2, 0.0], [0.6, 0.8, 0.0], [0.1, 0.995, 0.0]].map { |way|
        places(600).sum { |x, z| past.call(x, z, way) } / 600
      }
      expect(low).to be < steep - 0.1
      expect(steep).to be < over
      expect(over).to be > 0.999
      # A sheet of light may be seen from behind the surface: there is an end to the search.
      expect(places(20).map { |x, z| past.call(x, z, [0.8, -0.6, 0.0]) }).to all(be_between(0.0, 1.0))
    end

    it "leans outwards from the top of each stone and lies flat on it" do
      on = places.map { |x, z| stones(x, z) }.select { |high, *| high > 0.004 }
      expect(on).not_to be_empty
      # What leans, leans along the ground, and not beyond the stone's own edge.
      expect(on.map { |_, x, y, z| [y.abs, Math.sqrt(x * x + z * z)] }.transpose.map(&:max)).to match(
        [be < 1e-5, be_between(0.5, 1.3)]
      )
      turned = places(1000).sum { |x, z| stones(x, z)[1] } / 1000
      expect(turned.abs).to be < 0.05
    end

    it "keeps light from the ground beside a stone, and from no other" do
      all = places.map { |x, z| stones(x, z, share: 0.3) }
      expect(all.map { |row| row[5] }).to all(be_between(0.4, 1.0))
      expect(all.count { |row| row[5] < 0.9 }).to be_between(100, 2400)
      expect(all.select { |row| row[0].positive? }.map { |row| row[5] }.uniq).to eq([1.0])
    end

    it "is not looked at one by one where a pixel sees many, but told as steep ground" do
      far = places(200).map { |x, z| stones(x, z, pixel: 0.5) }
      expect(far.map(&:first).uniq).to eq([0.0])
      expect(far.map(&:last).uniq.first).to be_within(1e-6).of(3 * described_class::STEEP * 0.6)
      between = places(400).map { |x, z| stones(x, z, pixel: 0.02)[0] }.max
      expect(between).to be < places(400).map { |x, z| stones(x, z)[0] }.max
    end

    it "throws shadows away from the light, and longer ones from a low light" do
      left = ->(up) {
        per = 1.0 / Math.sqrt(1.0 + up * up)
        places(800).sum { |x, z|
          described_class.past(
            Geometry::Ray.new(x, 0.0, z, per, up * per, 0.0), 0.0, 1.0, 0.0, 0.1, 0.8, 1e-4, stones(x, z, share: 0.8)[0]
          )
        } / 800
      }
      expect(left.call(0.15)).to be < left.call(0.6)
      expect(left.call(0.6)).to be < left.call(3.0)
      expect(
        described_class.past(Geometry::Ray.new(0.0, 0.0, 0.0, 0.0, 1.0, 0.0), 0.0, 1.0, 0.0, 0.1, 0.8, 1e-4, 0.0)
      ).to eq(1.0)
    end

    it "is the same on whatever side a surface faces" do
      wall =
        places(1500).count do |x, y|
          described_class.stones(Geometry::Ray.new(x, y, 0.0, 0.0, 0.0, 1.0), 0.1, 0.6, 1e-4)[0].positive?
        end
      expect(wall.fdiv(1500)).to be_within(0.08).of(covered)
    end
  end

  RSpec.describe Picture::BumpKernels do
    def bumps(x, z, pixel) = described_class.bumps(x, 0.0, z, 0.8, pixel)

    def places
      chance = Random.new(3)
      Array.new(1500) { [60.0 * chance.rand, 60.0 * chance.rand] }
    end

    it "counts the slopes that it leaves out" do
      near = places.map { |x, z| bumps(x, z, 1e-5) }
      steep = near.sum { |_, gx, _, gz, _| 0.5 * (gx * gx + gz * gz) } / near.size
      expect(near.map(&:last).max).to be < 0.02 * steep
      expect(bumps(1.0, 2.0, 10.0).last).to be_within(0.35 * steep).of(steep)
      [0.003, 0.03, 0.3].each do |pixel|
        some = places.map { |x, z| bumps(x, z, pixel) }
        kept = some.sum { |_, gx, _, gz, _| 0.5 * (gx * gx + gz * gz) } / some.size
        expect(kept + some[0].last).to be_within(0.35 * steep).of(steep)
      end
    end

    it "is lit the same in the mean, near by and from so far that no bump is seen" do
      [0.2, 0.5, 0.9].each do |height|
        across = Math.sqrt(1.0 - height * height)
        near = places.sum { |x, z|
          _, gx, gy, gz, lost = bumps(x, z, 1e-5)
          per = Math.sqrt(1.0 + (0.1 * gx)**2 + (0.1 * gz)**2)
          Picture::SurfaceKernels.faced((height - across * 0.1 * gx) / per, 0.0, 1.0, 0.8, 0.173 * Math.sqrt(lost)) +
            0.0 * gy
        } / 1500
        far = Picture::SurfaceKernels.faced(height, 0.0, 1.0, 0.8, 0.173 * Math.sqrt(bumps(0.0, 0.0, 10.0).last))
        expect(far).to be_within(0.12 * near).of(near)
      end
    end

    it "has stains far wider than its patches" do
      values = places.map { |x, z| described_class.stains(3 * x, 0.0, 3 * z, 0.8, 1e-4) }
      expect(values.map(&:abs).max).to be_between(0.3, 1.9)
      expect((values.sum / values.size).abs).to be < 0.15
      steps =
        places.map do |x, z|
          (described_class.stains(x, 0.0, z, 0.8, 1e-4) - described_class.stains(x + 0.08, 0.0, z, 0.8, 1e-4)).abs
        end
      expect(steps.max).to be < 0.1
      expect(described_class.stains(3.0, 0.0, 4.0, 0.8, 1000.0)).to eq(0.0)
    end
  end
end
