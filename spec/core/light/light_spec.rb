# frozen_string_literal: true

module Vumbral
  RSpec.describe Picture::Renderer do
    # A picture of a shot with no props but those added, and of a given volume.
    def picture(medium, *edits, width: 32, height: 18)
      document = Shot::Edits.apply(Shot::Document.blank("Test"),
        [set("camera", :position, [0.0, 0.0, 6.0]), set("camera", :target, [0.0, 0.0, 0.0])] + edits)[0]
      described_class.new(described_class.settings(document, 1), nil).image(medium, width, height)
    end

    # A slab of even smoke, one metre deep, seen head on.
    def slab(density, n: 40)
      Light::Medium.new(field(n, n, n) { density }, 1.0 / n * 2.0, [-1.0, -1.0, -1.0])
    end

    def lamp(kind, **dials)
      {"do" => "add", "kind" => kind, "name" => "Light", "dials" => dials.transform_keys(&:to_s)}
    end

    it "lets through an even slab what Beer and Lambert say, to half a percent" do
      [0.1, 0.5, 1.5].each do |density|
        image = picture(slab(density), set("look", :thickness, 1.0))
        alpha = image[9, 16, 3]
        expect(1.0 - alpha).to be_within(0.005).of(Math.exp(-density * 2.0))
      end
    end

    it "scatters a parallel light once in a slab as the closed form says" do
      # With shadow depth 0 the light is even: what is seen is albedo × light × (1 − transmittance).
      image =
        picture(
          slab(0.4), lamp("sun", strength: 2.0, colour: [1.0, 0.5, 0.25]), set("sky", :strength, 0.0),
          set("look", :thickness, 1.0), set("look", :shadow, 0.0), set("look", :forward, 0.0),
          set("look", :colour, [1.0, 1.0, 0.5])
        )
      # Nothing shades, so nothing stands around either: no light goes a second way.
      even = 2.0 / (4 * Math::PI) * (1 - Math.exp(-0.8))
      expect(image[9, 16, 0]).to be_within(0.01 * even).of(even)
      expect(image[9, 16, 1]).to be_within(0.01 * even).of(0.5 * even)
      expect(image[9, 16, 2]).to be_within(0.01 * even).of(0.125 * even)
    end

    it "darkens smoke away from its light" do
      image = picture(slab(3.0), lamp("sun", strength: 3.0, around: 90.0, height: 0.0), set("sky", :strength, 0.0),
        set("look", :thickness, 3.0), width: 64, height: 36)
      expect(image[18, 44, 0]).to be > 2.0 * image[18, 20, 0]
    end

    it "shades props by the cosine, with shadows of props and of smoke" do
      ground = lamp("prop", shape: "plane", size: [8.0, 1.0, 8.0], position: [0.0, -1.0, 0.0], colour: [0.5, 0.5, 0.5])
      view = [set("camera", :position, [0.0, 5.0, 0.01]), set("sky", :strength, 0.0)]
      sun = lamp("sun", strength: Math::PI, colour: [1.0, 1.0, 1.0], height: 90.0)
      bare = picture(nil, ground, sun, *view)
      expect(bare[9, 16, 0]).to be_within(0.002).of(0.5)
      low = picture(nil, ground, lamp("sun", strength: Math::PI, colour: [1.0, 1.0, 1.0], height: 30.0), *view)
      expect(low[9, 16, 0]).to be_within(0.002).of(0.25)
      block = lamp("prop", shape: "box", size: [3.0, 0.1, 3.0], position: [0.0, 6.0, 0.0])
      expect(picture(nil, ground, sun, block, *view)[9, 16, 0]).to eq(0.0)
      over =
        picture(
          Light::Medium.new(field(20, 10, 20) { 1.0 }, 0.1, [-1.0, 7.0, -1.0]), ground, sun, *view,
          set("look", :thickness, 1.0), set("look", :shadow, 1.0)
        )
      expect(over[9, 16, 0]).to be_within(0.01).of(0.5 * Math.exp(-1.0))
    end

    it "falls off with the square of a lamp's distance" do
      ground = lamp("prop", shape: "plane", size: [8.0, 1.0, 8.0], colour: [1.0, 1.0, 1.0])
      view = [set("camera", :position, [0.0, 5.0, 0.01]), set("sky", :strength, 0.0)]
      near, far =
        [1.0, 2.0].map do |y|
          picture(nil, ground, lamp("lamp", strength: 1.0, colour: [1.0, 1.0, 1.0], position: [0.0, y, 0.0]), *view)[
            9, 16, 0
          ]
        end
      expect(near / far).to be_within(0.05).of(4.0)
    end

    it "hides smoke behind props and shows props through smoke" do
      block = lamp("prop", shape: "box", size: [1.0, 1.0, 1.0], position: [0.0, 0.0, 3.0], colour: [1.0, 0.0, 0.0])
      image = picture(slab(1.0), block, set("look", :thickness, 1.0), set("sky", :strength, 2.0))
      expect(image[9, 16, 3]).to eq(1.0)
      expect(image[9, 16, 1]).to eq(0.0)
      behind =
        picture(
          slab(1.0),
          lamp("prop", shape: "box", size: [1.0, 1.0, 1.0], position: [0.0, 0.0, -3.0], colour: [1.0, 0.0, 0.0]),
          set("look", :thickness, 1.0), set("sky", :strength, 2.0)
        )
      expect(behind[9, 16, 0]).to be > behind[9, 16, 1] + 0.005
      expect(behind[9, 16, 3]).to be_within(1e-5).of(1.0)
    end

    it "frames what the focal length says" do
      # At 6 m and 36 mm the frame is 6 m wide: a 3 m box fills half of it.
      image = picture(nil, lamp("prop", shape: "box", size: [3.0, 0.5, 0.001]), set("camera", :focal, 36.0),
        set("sky", :strength, 1.0), width: 64, height: 36)
      expect((0...64).count { |x| image[18, x, 3] > 0.5 }).to be_within(1).of(32)
    end

    it "smooths the edges of props, and of props only" do
      image = picture(nil, lamp("prop", shape: "sphere", radius: 0.7), width: 64, height: 36)
      alphas = indices([36, 64]).map { |y, x| image[y, x, 3] }.uniq
      expect(alphas.size).to be_between(3, 6)
    end

    it "develops to a screen's curve, and cuts out with alpha and no background" do
      document =
        Shot::Edits.apply(
          Shot::Document.blank("Test"),
          [
            set("picture", :background, [0.2140411, 0.0, 0.0]), set("picture", :tone, "plain"),
            set("picture", :exposure, 0.0)
          ]
        )[
          0
        ]
      renderer = described_class.new(described_class.settings(document, 1), nil)
      image = Kernel::Buffer.of(:f32, [0.0, 0.0, 0.0, 0.0, 0.5, 0.25, 2.0, 1.0, 0.1, 0.1, 0.1, 0.5], 1, 3, 4)
      expect(renderer.develop(image).to_a.first(6)).to eq([127, 0, 0, 188, 137, 255]).or eq([128, 0, 0, 188, 137, 255])
      cut = renderer.cut_out(image).to_a
      expect(cut[3]).to eq(0)
      expect([cut[7], cut[11]]).to eq([255, 128])
      # The colour is not multiplied by its alpha.
      expect(cut[8]).to be_within(1).of(124)
    end
  end

  RSpec.describe Light::Medium do
    it "lights the near side more, and nothing where there is no smoke" do
      smoke = field(12, 12, 12) { |k, j, i| ([k, j, i].all? { |n| n.between?(3, 9) }) ? 2.0 : 0.0 }
      document =
        Shot::Edits.apply(
          Shot::Document.blank("Test"),
          [
            set("sky", :strength, 0.0),
            {"do" => "add", "kind" => "sun", "name" => "Sun", "dials" => {"height" => 90.0}}
          ]
        )[
          0
        ]
      rig, scene = Light::Rig.new(Light::Rig.settings(document, 1)), Picture::PropScene.new([], nil)
      light = described_class.new(smoke, 0.1, [0.0, 0.0, 0.0]).light(rig, scene)
      expect(light[0, 5, 9, 5]).to be > 1.5 * light[0, 5, 3, 5]
      expect(light[0, 0, 0, 0]).to eq(0.0)
    end
  end

  RSpec.describe Light::ViewVolume do
    it "holds light, smoke and heat in eight bits, and how much they mean" do
      smoke, heat = field(3, 4, 5) { |_, j, _| j * 0.5 }, field(3, 4, 5) { |k, _, _| k * 100.0 }
      light = field(3, 3, 4, 5) { |c, _, _, i| (c == 1) ? i * 0.1 : 0.0 }
      bytes = described_class.encode(Light::Medium.new(smoke, 0.2, [1.0, 2.0, 3.0], heat: heat), light, nil)
      length = bytes.unpack1("L<")
      head = JSON.parse(bytes[4, length])
      expect(head).to include("size" => [5, 4, 3], "voxel" => 0.2, "corner" => [1.0, 2.0, 3.0])
      expect([head["smoke"], head["heat"],
        head["light"]]).to match([be_within(1e-5).of(1.5), be_within(1e-3).of(200.0), be_within(1e-5).of(0.4)])
      lit = bytes[4 + length, 4 * 60].bytes
      expect(bytes.bytesize).to eq(4 + length + 8 * 60)
      at = (1 * 4 + 2) * 5 + 4
      expect((lit[4 * at + 3] / 255.0)**2 * 1.5).to be_within(0.01).of(1.0)
      expect((lit[4 * at + 1] / 255.0)**2 * 0.4).to be_within(0.004).of(0.4)
      expect((bytes[4 + length + 240 + 4 * at + 3].ord / 255.0)**2 * 200).to be_within(1.0).of(100.0)
    end
  end
end
