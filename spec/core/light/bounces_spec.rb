# frozen_string_literal: true

module Vumbral
  RSpec.describe Light::BounceKernels do
    def random(*shape, seed) = Random.new(seed).then { |dice|
      Kernel::Buffer.of(:f32, Array.new(shape.reduce(:*)) { dice.rand }, *shape)
    }

    # What leaves a cell along a way, of a colour, from what comes to it.
    def leaves(beams, source, parts, n, (k, j, i), colour, ends)
      x, y, z = described_class.way(n)
      before = [k - z, j - y, i - x]
      inside = before.zip([*parts.shape[1, 2], parts.dim(3) / 3]).all? { |at, size| at.between?(0, size - 1) }
      up = described_class.above(y)
      came = inside ? beams[n, *before.take(2), 3 * before[2] + colour] : up * ends[0] + (1.0 - up) * ends[1]
      own = source[k, j, 3 * i + colour]
      own + (came - own) * parts[(n > 5) ? 2 : 0, k, j, 3 * i + colour]
    end

    def passed(mean, thick, first = Kernel::Buffer.new(:f32, 3, *mean.shape))
      shape = [*mean.shape.take(2), 3 * mean.dim(2)]
      parts, abreast = Kernel::Buffer.new(:f32, 4, *shape), Kernel::Buffer.new(:f32, *shape)
      described_class.pass(parts, abreast, first, mean, thick)
      [parts, abreast]
    end

    # The same for each of a row's cells. @param rows [Array<Array<Float>>] of three colours each
    def rows(rows, cells) = Kernel::Buffer.of(:f32, rows.flat_map { |rgb| rgb * cells }, rows.size, 3 * cells)

    [[3, 4, 5], [1, 1, 1], [1, 3, 1], [2, 1, 6]].each do |shape|
      it "carries light of three colours from cell to cell along all ways, in #{shape.join(" x ")} cells" do
        across = [*shape.take(2), 3 * shape[2]]
        source = random(*across, 1)
        parts, = passed(random(*shape, 2), 1.5)
        beams = Kernel::Buffer.new(:f32, described_class::WAYS, *across)
        above, below = [1.0, 0.5, 0.2], [0.25, 0.3, 0.0]
        described_class.sweep(beams, source, parts, rows([above, below, [1.0] * 3, [1.0] * 3], shape[2]))
        places = shape.map { |size| (0...size).to_a }.then { |z, y, x| z.product(y, x) }
        described_class::WAYS.times do |n|
          3.times do |c|
            told = places.map { |k, j, i| beams[n, k, j, 3 * i + c] }
            expect(told).to all_be_near(
              places.map { |at| leaves(beams, source, parts, n, at, c, [above[c], below[c]]) }, 1e-6
            )
          end
        end
      end
    end

    it "tells a cell the mean of what comes to it: one light all around is that light, however thick" do
      shape = [3, 4, 5]
      parts, first = passed(random(*shape, 3), 4.0)
      even = [0.7, 0.2, 0.4]
      ends = rows([even, even, [1.0] * 3, even.map { |light| 1.0 / light }], 5)
      source = Kernel::Buffer.of(:f32, even * 60, 3, 4, 15)
      beams = Kernel::Buffer.new(:f32, described_class::WAYS, 3, 4, 15)
      light = Kernel::Buffer.new(:f32, 3, 4, 15)
      described_class.sweep(beams, source, parts, ends)
      change = described_class.renew(source, light, beams, parts, first, ends, false)
      expect(light.to_a).to all_be_near(even * 60, 1e-5)
      expect(change).to be < 1e-5
    end

    it "tells how much changed as a part of each colour's brightest light" do
      parts, first = passed(Kernel::Buffer.new(:f32, 2, 2, 2), 1.0, Kernel::Buffer.of(:f32, [0.5, 4.0, 0.1].flat_map { |lamp| [lamp] * 8 }, 3, 2, 2, 2))
      expect(described_class.peaks(first)).to all_be_near([0.5, 4.0, 0.1], 1e-7)
      ends = rows([[0.0] * 3, [0.0] * 3, [0.6, 0.2, 0.9], [2.0, 0.25, 10.0]], 2)
      source, light = Array.new(2) { Kernel::Buffer.new(:f32, 2, 2, 6) }
      beams = Kernel::Buffer.new(:f32, described_class::WAYS, 2, 2, 6)
      described_class.sweep(beams, source, parts, ends)
      expect(described_class.renew(source, light, beams, parts, first, ends, false)).to be_within(1e-6).of(0.9)
      expect(source.to_a.first(3)).to all_be_near([0.3, 0.8, 0.09], 1e-6)
    end

    it "softens deep skins only, and puts colours one after the other" do
      light = random(3, 3, 9, 5)
      skin = Kernel::Buffer.new(:f32, 3, 3, 3)
      skin[1, 1, 1] = 1.0
      out = Kernel::Buffer.new(:f32, 3, 3, 3, 3)
      described_class.soften(out, light, skin)
      around = [-1, 0, 1].product([-1, 0, 1], [-1, 0, 1])
      3.times do |c|
        mean = around.sum { |k, j, i|
          [k, j, i].reduce(1.0) { |all, n| all * (2 - n.abs) } * light[1 + k, 1 + j, 3 * (1 + i) + c]
        } / 64.0
        expect(out[c, 1, 1, 1]).to be_within(1e-5).of(mean)
        expect(out[c, 0, 2, 1]).to eq(light[0, 2, 3 + c])
      end
    end

    it "has light at once that is, in the mean, that of a patient look" do
      document = Shot::Edits.apply(
        Shot::Document.blank("Test"), [{"do" => "add", "kind" => "sun", "name" => "Sun"}, set("look", :thickness, 12.0)]
      )[0]
      rig = Light::Rig.new(Light::Rig.settings(document, 1), nil)
      alone = Picture::PropScene.new([], nil)
      ball = field(24, 24, 24) { |z, y, x| [1.0 - Math.hypot(Math.hypot(x - 12, y - 12), z - 12) / 10.0, 0.0].max }
      medium = Light::Medium.new(ball, 0.05, [-0.6, 0.0, -0.6])
      quick, patient = [medium.quick_light(rig, alone), medium.light(rig, alone)]
        .map { |light| light.to_a.zip(ball.to_a * 3).sum { |value, density| value * density } }
      expect(quick).to be_within(0.1 * patient).of(patient)
    end
  end
end
