# frozen_string_literal: true

module Vumbral
  RSpec.describe Light::HillKernels do
    def sky(height: 4.0, seed: 1, sunlight: [6.0, 5.8, 5.5], **settings)
      hills = height.zero? ? {} : {"hills" => {"height" => height, "seed" => seed, "colour" => [0.08, 0.08, 0.06], "sunlight" => sunlight}}
      Light::Sky.of(
        {
          "model" => "clear", "strength" => 0.5, "colour" => [1.0, 1.0, 1.0], "below" => [0.3, 0.3, 0.3], "haze" => 2.0,
          "fade" => 90.0, "background" => [0.0, 0.0, 0.0], "sun" => [0.2, 0.4, Math.sqrt(0.8)]
        }.merge(settings.transform_keys(&:to_s), hills)
      )
    end

    # Towards a compass way, so many degrees above the horizon.
    def way(turn, up) =
      [
        Math.sin(turn) * Math.cos(up * Math::PI / 180), Math.sin(up * Math::PI / 180),
        Math.cos(turn) * Math.cos(up * Math::PI / 180)
      ]

    def seen(sky, turn, up, wide: 0.001) = described_class.seen(sky, *way(turn, up), wide)

    def plain(sky, turn, up) = Light::SkyKernels.radiance(sky, *way(turn, up))

    def crests(sky, row, count: 360, wide: 0.001)
      Array
        .new(count) { |n| 2 * Math::PI * n / count }
        .map { |turn| described_class.crest(sky, Math.sin(turn), Math.cos(turn), row, wide)[0] }
    end

    it "leaves the sky as it is without hills, high above them and below the horizon" do
      [[0.0, 1.0], [2.0, 3.0], [4.0, 0.1]].each do |turn, up|
        expect(seen(sky(height: 0.0), turn, up)).to eq(plain(sky(height: 0.0), turn, up))
      end
      hilly = sky
      [8.0, 40.0, -5.0].each { |up| expect(seen(hilly, 1.0, up)).to eq(plain(hilly, 1.0, up)) }
    end

    it "stands as high as it is told, the farthest row highest" do
      near, middle, far = Array.new(3) { |row| crests(sky, row) }
      slope = Math.tan(4.0 * Math::PI / 180)
      expect(far.sum / far.size).to be_between(0.35 * slope, 0.75 * slope)
      expect(far.max).to be_between(0.75 * slope, described_class::MOST * slope)
      expect(near.sum).to be < middle.sum
      expect(middle.sum).to be < far.sum
      expect([near, middle, far].flatten.min).to be > 0
    end

    it "closes all around and has no steps" do
      ridge = crests(sky, 1, count: 4000)
      steps = ridge.each_cons(2).map { |a, b| (a - b).abs }
      expect((ridge.last - ridge.first).abs).to be <= steps.max
      expect(steps.max).to be < 0.05 * ridge.max
    end

    it "is another skyline by another number, and the same by the same" do
      expect(crests(sky(seed: 7), 0, count: 40)).to eq(crests(sky(seed: 7), 0, count: 40))
      apart = crests(sky(seed: 7), 0, count: 40).zip(crests(sky(seed: 8), 0, count: 40)).map { |a, b| (a - b).abs }
      expect(apart.max).to be > 0.2 * Math.tan(4.0 * Math::PI / 180)
    end

    it "leaves out what is finer than a pixel" do
      fine, coarse = crests(sky, 2, count: 720), crests(sky, 2, count: 720, wide: 0.3)
      bends = ->(line) { line.each_cons(3).sum { |a, b, c| (a - 2 * b + c).abs } }
      expect(bends.call(coarse)).to be < 0.4 * bends.call(fine)
      expect(coarse.sum / coarse.size).to be_within(0.1 * fine.sum / fine.size).of(fine.sum / fine.size)
    end

    it "goes over into the haze at its foot and stands out at its crest" do
      hilly = sky
      haze = plain(hilly, 1.0, 0.0)
      expect(seen(hilly, 1.0, 0.0).zip(haze).map { |a, b| (a - b).abs / b }).to all(be < 0.02)
      crest = Math.atan(described_class.crest(hilly, Math.sin(1.0), Math.cos(1.0), 0, 0.001)[0]) * 180 / Math::PI
      expect(seen(hilly, 1.0, 0.9 * crest)[2]).to be < 0.75 * haze[2]
    end

    it "has nearer rows darker than those behind, and soft edges as wide as a pixel" do
      hilly = sky
      turn = 1.0
      near, far =
        [0, 2].map do |row|
          Math.atan(described_class.crest(hilly, Math.sin(turn), Math.cos(turn), row, 0.001)[0]) * 180 / Math::PI
        end
      expect(seen(hilly, turn, 0.97 * near).sum).to be < seen(hilly, turn, 0.97 * far).sum
      half = seen(hilly, turn, far, wide: 0.0005)
      under, over = seen(hilly, turn, far - 0.06, wide: 0.0005), seen(hilly, turn, far + 0.06, wide: 0.0005)
      expect(half[0]).to be_between([under[0], over[0]].min, [under[0], over[0]].max)
    end

    it "is lit by the sun from where that stands" do
      lit = ->(turn, light = 6.0) {
        sun = sky(sun: [0.968 * Math.sin(turn), 0.25, 0.968 * Math.cos(turn)], sunlight: [light] * 3)
        Array
          .new(48) { |n| described_class.slope(sun, Math.sin(0.6 + 0.02 * n), 0.4, Math.cos(0.6 + 0.02 * n), 0.0).sum }
          .sum
      }
      # Behind the hills, beside them, and behind whoever looks.
      before, beside, behind = lit.call(1.0), lit.call(2.6), lit.call(1.0 + Math::PI)
      expect([before, beside, behind]).to eq([before, beside, behind].sort)
      expect(behind).to be > 1.5 * before
      expect(lit.call(1.0 + Math::PI, 12.0) - behind).to be_within(1e-3 * behind).of(
        behind - lit.call(1.0 + Math::PI, 0.0)
      )
    end

    it "lights nothing: what is lit stays as it was, and light that is kept is used again" do
      expect(sky.to_a.first(7)).to eq(sky(height: 0.0).to_a.first(7))
      settings = {
        "model" => "clear",
        "strength" => 0.5,
        "fade" => 90.0,
        "background" => [0.0] * 3,
        "hills" => {
          "height" => 4.0
        }
      }
      expect(Light::Sky.lighting(settings)).to eq("model" => "clear", "strength" => 0.5)
    end

    it "comes from the dials of the sky, but not where a picture stands all around" do
      document = ->(edits) { Shot::Edits.apply(Studio::Starters.build("plume", "Hills"), edits)[0] }
      dial = ->(name, value) { {"do" => "set", "node" => "sky", "dial" => name, "value" => value} }
      sky = Light::Rig.settings(document.call([dial.call("hills", 6.0), dial.call("hills_seed", 12)]), 1)["sky"]
      expect(sky["hills"]).to include("height" => 6.0, "seed" => 12)
      expect(sky["hills"]["sunlight"].sum).to be > 3.0
      expect(Light::Rig.settings(document.call([dial.call("hills", 0.0)]), 1)["sky"]).not_to have_key("hills")
      expect(Light::Rig.settings(document.call([dial.call("model", "picture")]), 1)["sky"]).not_to have_key("hills")
    end

    it "is seen behind a picture that shows the sky alone" do
      document =
        Shot::Edits.apply(
          Studio::Starters.build("plume", "Hills"),
          [{"do" => "set", "node" => "ground", "dial" => "shown", "value" => false}]
        )[
          0
        ]
      rows = ->(settings) do
        Picture::Renderer.new(settings, nil).then { |renderer| renderer.send(:behind, 64, 36).to_a }
      end
      settings = Picture::Renderer.settings(document, 1)
      bare =
        Picture::Renderer.settings(
          Shot::Edits.apply(document, [{"do" => "set", "node" => "sky", "dial" => "hills", "value" => 0.0}])[0], 1
        )
      apart =
        rows
          .call(settings)
          .zip(rows.call(bare))
          .each_slice(64 * 3)
          .map { |row| row.count { |a, b| (a - b).abs > 1e-4 } }
      expect(apart.count(&:positive?)).to be_between(1, 12)
      expect(apart.max).to be > 100
    end
  end
end
