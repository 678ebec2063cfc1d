# frozen_string_literal: true

module Vumbral
  RSpec.describe Light::BounceKernels do
    def random(*shape, seed) = Random.new(seed).then { |dice|
      Kernel::Buffer.of(:f32, Array.new(shape.reduce(:*)) { dice.rand }, *shape)
    }

    # What leaves a cell along a way, from what comes to it.
    def leaves(beams, source, parts, n, place, ends)
      x, y, z = described_class.way(n)
      before = [place[0] - z, place[1] - y, place[2] - x]
      inside = before.zip(source.shape).all? { |at, size| at.between?(0, size - 1) }
      came = inside ? beams[n, *before] : described_class.around(y, *ends)
      source[*place] + (came - source[*place]) * parts[(n > 5) ? 2 : 0, *place]
    end

    [[3, 4, 5], [1, 1, 1], [1, 3, 1], [2, 1, 6]].each do |shape|
      it "carries light from cell to cell along all ways, in #{shape.join(" x ")} cells" do
        source = random(*shape, 1)
        parts = Kernel::Buffer.new(:f32, 4, *shape)
        described_class.pass(parts, random(*shape, 2), 1.5)
        beams = Kernel::Buffer.new(:f32, described_class::WAYS, *shape)
        described_class.sweep(beams, source, parts, 1.0, 0.25)
        places = shape.map { |size| (0...size).to_a }.then { |z, y, x| z.product(y, x) }
        described_class::WAYS.times do |n|
          told = places.map { |place| beams[n, *place] }
          expect(told).to all_be_near(places.map { |at| leaves(beams, source, parts, n, at, [1.0, 0.25]) }, 1e-6)
        end
      end
    end

    it "tells a cell the mean of what comes to it: one light all around is that light, however thick" do
      shape = [3, 4, 5]
      parts = Kernel::Buffer.new(:f32, 4, *shape)
      described_class.pass(parts, random(*shape, 3), 4.0)
      source = Kernel::Buffer.new(:f32, *shape).fill(0.7)
      beams = Kernel::Buffer.new(:f32, described_class::WAYS, *shape)
      light, first = Array.new(2) { Kernel::Buffer.new(:f32, *shape) }
      ends = Kernel::Buffer.of(:f32, [0.7, 0.7])
      described_class.sweep(beams, source, parts, 0.7, 0.7)
      change = described_class.renew(source, light, beams, parts, first, 1.0, ends, false)
      expect(light.to_a).to all(be_within(1e-5).of(0.7))
      expect(change).to be < 1e-5
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
