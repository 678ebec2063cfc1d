# frozen_string_literal: true

module Vumbral
  RSpec.describe Light::BlackBody do
    # CIE 15: the Planckian locus of the 2° observer.
    {2000 => [0.5267, 0.4133], 4000 => [0.3805, 0.3768], 6500 => [0.3135, 0.3237]}.each do |kelvin, (x, y)|
      it "has the chromaticity of CIE at #{kelvin} K" do
        expect(described_class.xy(kelvin)).to match([be_within(0.004).of(x), be_within(0.004).of(y)])
      end
    end

    it "goes from red through white to blue, at even luminance" do
      cold, hot = described_class.rgb(1200), described_class.rgb(9000)
      expect(cold[0]).to be > 3 * cold[1]
      expect(hot[2]).to be > hot[0]
      [cold, hot].each { |r, g, b| expect(0.2126 * r + 0.7152 * g + 0.0722 * b).to be_within(1e-6).of(1.0) }
      expect(described_class.seen(1212).zip(described_class.rgb(1212)).map { |a, b|
        a - b
      }).to all(be_within(0.01).of(0.0))
    end
  end

  RSpec.describe Light::Fire do
    def settings(**changes)
      {"by" => "heat", "gain" => 1.0, "from" => 800.0, "offset" => 0.0, "rise" => 3.0, "glow" => 1.0,
       "ambient" => 293.0}.merge(changes.transform_keys(&:to_s))
    end

    def hot(n = 12, kelvin = 1500.0)
      field(n, n, n) { |k, j, i| ([k, j, i].all? { |c| c.between?(4, 7) }) ? kelvin - 293.0 : 0.0 }
    end

    def fire(heat = hot, **changes) = described_class.new(settings(**changes), heat, 0.1, [0.0, 0.0, 0.0])

    it "glows above its temperature only, with its gain at 1500 K, and more as the rise says" do
      expect(fire(hot(12, 700.0)).any?).to be(false)
      light = fire.emission
      luminance = ->(rgb, *at) { 0.2126 * rgb[0, *at] + 0.7152 * rgb[1, *at] + 0.0722 * rgb[2, *at] }
      expect(luminance.call(light, 5, 5, 5)).to be_within(0.01).of(1.0)
      expect(light[0, 1, 1, 1]).to eq(0.0)
      expect(luminance.call(fire(hot(12, 3000.0)).emission, 5, 5, 5)).to be_within(0.05).of(8.0)
      expect(fire(hot, offset: 3000.0).emission.then { |rgb|
        rgb[2, 5, 5, 5] / rgb[0, 5, 5,
          5]
      }).to be > 5 * (light[2, 5, 5, 5] / light[0, 5, 5, 5])
    end

    it "lights smoke where light is asked for as if it lit all, and looks no further than what is black" do
      smoke = field(24, 24, 24) { |k, j, i| ([k, j, i].all? { |c| c.between?(5, 17) }) ? 1.0 : 0.0 }
      lamps = Vumbral::Kernel::Buffer.of(:f32, [1.0, 1.1, 1.2, 1.3, 9.0, 6.0, 3.0, 0.05], 1, 8)
      lattice = Grid::Lattice.new(0.0, 0.0, 0.0, 0.1)
      glow = ->(near, thickness) {
        Vumbral::Kernel::Buffer.new(:f32, 3, 8, 8, 8).tap { |rgb|
          Light::FireKernels.glow(rgb, smoke, near, lamps, 3, thickness, lattice, lattice)
        }
      }
      all, some = [0, 12].map { |from|
        Vumbral::Kernel::Buffer.new(:u8, 24, 24, 24).tap { |near|
          24.times.to_a.repeated_permutation(3) { |k, j, i| near[k, j, i] = (i < from) ? 0 : 1 }
        }
      }
      whole, part = glow.call(all, 2.0), glow.call(some, 2.0)
      8.times.to_a.repeated_permutation(3) { |k, j, i|
        # A voxel from 12 on reads the coarse cells from 3 on.
        expect(part[0, k, j, i]).to eq((i < 3) ? 0.0 : whole[0, k, j, i])
      }
      # Between the corner and the lamp is smoke that lets nothing through.
      expect(glow.call(all, 400.0)[0, 0, 0, 0]).to be < 1e-6
    end

    it "is stood for by a few lamps that give all of its light" do
      lamps = fire.lamps.to_a.each_slice(8).to_a
      expect(lamps.size).to be_between(1, described_class::MOST_LAMPS)
      total = fire.emission.to_a.first(12**3).sum * 0.1**3
      expect(lamps.sum { |lamp| lamp[4] }).to be_within(0.001 * total).of(total)
      many = described_class.new(settings, field(48, 48, 48) { |k, j, i| ((k + j + i) % 7 == 0) ? 1000.0 : 0.0 },
        0.1, [0.0, 0.0, 0.0])
      expect(many.lamps.dim(0)).to eq(described_class::MOST_LAMPS)
    end

    it "lights the smoke around it, and soot dims it" do
      document = Shot::Edits.apply(Shot::Document.blank("Test"), [set("sky", :strength, 0.0)])[0]
      rig, scene = Light::Rig.new(Light::Rig.settings(document, 1)), Picture::PropScene.new([], nil)
      medium = Light::Medium.new(field(12, 12, 12) { 0.2 }, 0.1, [0.0, 0.0, 0.0], heat: hot)
      light = medium.light(rig, scene, medium.fire(rig))
      expect(light[0, 5, 5, 9]).to be > light[0, 5, 5, 11]
      expect(light[0, 5, 5, 9]).to be > 2 * light[2, 5, 5, 9]
    end

    def pictured(smoke, *edits)
      document = Shot::Edits.apply(Shot::Document.blank("Test"),
        [set("camera", :position, [0.6, 0.6, 8.0]), set("camera", :target, [0.6, 0.6, 0.6]), set("sky", :strength, 0.0),
          *edits])[0]
      medium = Light::Medium.new(field(12, 12, 12) { |k, _, _| (k > 8) ? smoke : 0.0 }, 0.1, [0.0, 0.0, 0.0], heat: hot)
      Picture::Renderer.new(Picture::Renderer.settings(document, 1), nil).image(medium, 32, 32)
    end

    it "shows in the picture, and less through soot" do
      clear, sooty = pictured(0.0), pictured(3.0, set("look", :glow, 0.0))
      expect(clear[16, 16, 0]).to be_within(0.35).of(0.4 * Light::BlackBody.rgb(1500)[0])
      expect(sooty[16, 16, 0]).to be < 0.3 * clear[16, 16, 0]
      expect(pictured(0.0, set("look", :fire, 0.0))[16, 16, 0]).to eq(0.0)
    end

    it "throws its light on props" do
      ground = {"do" => "add", "kind" => "prop", "name" => "Ground",
                "dials" => {"shape" => "plane", "size" => [6.0, 1.0, 6.0], "position" => [0.6, 0.0, 0.6]}}
      view = [set("camera", :position, [0.6, 6.0, 0.61])]
      expect(pictured(0.0, ground, *view)[22, 16, 0]).to be > 0.002
      expect(pictured(0.0, ground, set("look", :glow, 0.0), *view)[22, 16, 0]).to eq(0.0)
    end
  end

  RSpec.describe Picture::Sparks do
    it "draws streaks that die, and are hidden behind props and dimmed by smoke" do
      emitter = {"do" => "add", "kind" => "emitter", "name" => "Sparks",
                 "dials" => {"glow" => 5.0, "rate" => 400.0, "position" => [0.0, 0.0, 0.0], "width" => 0.05}}
      wall = {"do" => "add", "kind" => "prop", "name" => "Wall",
              "dials" => {"shape" => "box", "size" => [20.0, 20.0, 0.1], "position" => [0.0, 0.0, 4.0],
                          "colour" => [0.0, 0.0, 0.0]}}
      pictures = [[], [wall]].map do |more|
        document = Shot::Edits.apply(Shot::Document.blank("Test"),
          [emitter, set("sky", :strength, 0.0), set("camera", :position, [0.0, 1.0, 8.0]),
            set("camera", :target, [0.0, 1.0, 0.0]), *more])[0]
        sparks = described_class.new(document, nil)
        expect(sparks.any?).to be(true)
        Picture::Renderer.new(Picture::Renderer.settings(document, 12), nil).image(nil, 64, 36, sparks: sparks.at(12))
      end
      sums = pictures.map { |image| image.to_a.each_slice(4).sum { |r, _, _, _| r } }
      expect(sums[0]).to be > 1.0
      expect(sums[1]).to eq(0.0)
      expect(described_class.new(Shot::Document.blank("None"), nil).any?).to be(false)
    end
  end

  RSpec.describe Light::Medium do
    it "gives smoke its own colour" do
      smoke = field(8, 8, 8) { 1.0 }
      document = Shot::Edits.apply(Shot::Document.blank("Test"),
        [set("sky", :strength, 1.0), set("sky", :colour, [1, 1, 1]), set("sky", :below, [1, 1, 1]), set("look",
          :colour, [0.8, 0.8, 0.8])])[0]
      rig = Light::Rig.new(Light::Rig.settings(document, 1))
      red = described_class.new(smoke, 0.1, [0.0, 0.0, 0.0], colour: [smoke, field(8, 8, 8) { 0.25 },
        Kernel::Buffer.new(:f32, 8, 8, 8)])
      light = red.light(rig, Picture::PropScene.new([], nil))
      expect(light[1, 4, 4, 4]).to be_within(1e-5).of(0.25 * light[0, 4, 4, 4])
      expect(light[2, 4, 4, 4]).to eq(0.0)
    end
  end

  RSpec.describe Light::ViewVolume do
    it "gives one quantity between its ends, speeds and divergences too" do
      state = Gas::State.still([10, 10, 10], fuel: true)
      state.smoke.fill(0.1)
      state.fuel[5, 5, 5] = 2.0
      state.u.replace(field(10, 10, 11) { |_, _, i| 0.1 * i })
      bricks = Grid::Bricks.pack(state)
      head = {"voxel" => 0.1, "corner" => [0.0, 0.0, 0.0]}
      read = lambda do |name|
        bytes = described_class.channel(bricks, head, name, 293.0)
        length = bytes.unpack1("L<")
        [JSON.parse(bytes[4, length]), bytes[4 + length..].bytes]
      end
      facts, fuel = read.call("fuel")
      expect([facts["low"], facts["high"], fuel.max, fuel[555]]).to eq([0.0, 2.0, 255, 255])
      facts, = read.call("temperature")
      expect([facts["low"], facts["unit"]]).to eq([293.0, "K"])
      facts, speed = read.call("speed")
      expect(facts["low"] + speed[444] / 255.0 * (facts["high"] - facts["low"])).to be_within(0.005).of(0.45)
      facts, divergence = read.call("divergence")
      expect(facts["low"] + divergence[444] / 255.0 * (facts["high"] - facts["low"])).to be_within(0.02).of(1.0)
      facts, velocity = read.call("velocity")
      expect(velocity.size).to eq(3000)
      expect(velocity[3 * 444] / 127.0 * facts["high"]).to be_within(0.01).of(0.45)
    end
  end
end
