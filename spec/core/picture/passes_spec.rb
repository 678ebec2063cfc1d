# frozen_string_literal: true

module Vumbral
  RSpec.describe Picture::Passes do
    def prop(id, **dials) =
      {"do" => "add", "kind" => "prop", "id" => id, "name" => id.capitalize, "dials" => dials.transform_keys(&:to_s)}

    def shot(*edits)
      small_shot(
        edits: [
          {"do" => "remove", "node" => "prop-1"}, {"do" => "remove", "node" => "source-1"},
          set("ground", :shown, false), set("camera", :position, [0.0, 1.0, 4.0]),
          set("camera", :target, [0.0, 1.0, 0.0]), *edits
        ]
      )
    end

    def passes(document, frame, size = [40, 20], medium: nil)
      described_class.new(
        Picture::Renderer.settings(document, frame), Picture::Camera.settings(document, frame - 1), nil, *size,
        medium: medium
      )
    end

    let(:card) { prop("card", shape: "card", size: [1.0, 40.0, 1.0], position: [-0.5, 1.0, 0.0]) }

    it "has masks that cover what their props do, the larger first, and nothing beside" do
      masks =
        passes(
          shot(card, prop("other", shape: "card", size: [1.0, 40.0, 1.0], position: [0.5, 1.0, 0.0])), 1, [41, 21]
        ).masks({"card" => 2.0, "other" => 3.0})
      row = masks.to_a.each_slice(8).to_a[10 * 41, 41]
      expect(row[16][0, 2]).to eq([2.0, 1.0])
      expect(row[24][0, 2]).to eq([3.0, 1.0])
      # Both meet in the middle pixel.
      expect([row[20][0], row[20][2]]).to match_array([2.0, 3.0])
      expect([row[20][1], row[20][3]]).to eq([0.5, 0.5])
      expect(row[0]).to eq([0.0] * 8)
    end

    it "has normals of the world, and none where nothing is" do
      normal =
        passes(shot(prop("ball", shape: "sphere", radius: 0.5, divisions: 5, position: [0.0, 1.0, 0.0])), 1).normal
      expect(3.times.map { |c| normal[10, 20, c] }).to match(
        [be_within(0.08).of(0.0), be_within(0.08).of(0.0), be_within(0.02).of(1.0)]
      )
      expect(3.times.map { |c| normal[0, 0, c] }).to eq([0.0] * 3)
    end

    it "tells how far a prop moved, and how the picture moves with the camera" do
      keys =
        [1, 5].map do |frame|
          {
            "do" => "key", "node" => "card", "dial" => "position", "frame" => frame,
            "value" => [-0.5 + 0.1 * (frame - 1), 1.0, 0.0], "ease" => "linear"
          }
        end
      motion = passes(shot(card, *keys), 3).motion
      # A tenth of a metre four metres off.
      per = 40 / (2.0 * 4.0 * (18.0 / shot.the(:camera)[:focal]))
      expect([motion[10, 17, 0], motion[10, 17, 1]]).to match([be_within(0.02).of(0.1 * per), be_within(1e-3).of(0.0)])
      expect([motion[10, 2, 0], motion[10, 2, 1]]).to match([be_within(1e-2).of(0.0)] * 2)
      turning =
        [1, 5].map do |frame|
          {
            "do" => "key", "node" => "camera", "dial" => "target", "frame" => frame,
            "value" => [0.1 * (frame - 1), 1.0, 0.0], "ease" => "linear"
          }
        end
      expect(passes(shot(*turning), 3).motion[10, 20, 0]).to be < -0.05
    end

    it "adds up heat along the way, as far as the first surface" do
      medium =
        Light::Medium.new(
          Kernel::Buffer.new(:f32, 16, 16, 16), 0.1, [-0.8, 0.2, -0.8],
          heat: Kernel::Buffer.new(:f32, 16, 16, 16).fill(300.0)
        )
      expect(passes(shot, 1, medium: medium).heat[10, 20, 0]).to be_within(15.0).of(300.0 * 1.6)
      wall = prop("wall", shape: "card", size: [4.0, 4.0, 1.0], position: [0.0, 1.0, 0.0])
      expect(passes(shot(wall), 1, medium: medium).heat[10, 20, 0]).to be_within(15.0).of(300.0 * 0.8)
      expect(passes(shot, 1).heat.to_a.uniq).to eq([0.0])
    end

    it "tells how far smoke moved, and masks it and what one sees through by what they cover" do
      flow = Grid::VectorField.still([16, 16, 16]).tap { |all| all.x.fill(2.4) }
      # Nearly all is taken by 1.6 m of it, so what is seen is on its near side.
      medium = Light::Medium.new(Kernel::Buffer.new(:f32, 16, 16, 16).fill(2.0), 0.1, [-0.8, 0.2, -0.8], flow: flow)
      far = 4.0 - 0.8 + 0.05
      found = passes(shot, 3, medium: medium)
      expect(found.motion[10, 20, 0]).to be_within(0.06).of(0.1 * 40 / (2.0 * far * (18.0 / shot.the(:camera)[:focal])))
      expect(found.motion[10, 0, 0]).to be_within(1e-4).of(0.0)
      expect([found.masks({}, gas: 5.0)[10, 20, 0], found.masks({}, gas: 5.0)[10, 20, 1]]).to match([5.0, be > 0.99])
      thin = Light::Medium.new(Kernel::Buffer.new(:f32, 16, 16, 16).fill(0.02), 0.1, [-0.8, 0.2, -0.8])
      taken = 1.0 - Math.exp(-0.02 * 0.8 * Light::Rig.new(Light::Rig.settings(shot, 1)).thickness)
      both = passes(shot(card), 1, medium: thin).masks({"card" => 2.0}, gas: 5.0).to_a.each_slice(8).to_a[10 * 40 + 17]
      expect(both[0, 4].each_slice(2)).to contain_exactly(
        [5.0, be_within(0.02).of(taken)], [2.0, be_within(0.02).of(1.0 - taken)]
      )
      expect(both[1]).to be > both[3]
      sheer =
        passes(
          shot(card, prop("pane", shape: "card", size: [1.0, 40.0, 1.0], position: [-0.5, 1.0, 1.0], opacity: 0.25)), 1
        ).masks({"card" => 2.0, "pane" => 3.0})
      expect(4.times.map { |c| sheer[10, 17, c] }).to match(
        [2.0, be_within(1e-4).of(0.75), 3.0, be_within(1e-4).of(0.25)]
      )
    end

    describe Formats::IDMattes do
      it "hashes as published, and gives numbers that are proper floats" do
        expect(["", "test", "hello", "Hello, world!"].map { |text| described_class.hash(text) }).to eq(
          [0, 0xba6bd213, 0x248bfa47, 0xc0363e43]
        )
        numbers = Array.new(3000) { |n| described_class.number("prop #{n}") }
        expect(numbers).to all(satisfy { |number| number.finite? && number.abs > 1e-38 })
        told = described_class.told(%w[Pot Lid])
        expect(told.keys.map { |key| key.split("/").last }).to eq(%w[name hash conversion manifest])
        expect(JSON.parse(told.values.last).keys).to eq(%w[Pot Lid])
      end
    end
  end
end
