# frozen_string_literal: true

module Vumbral
  RSpec.describe Light::Shaping do
    def stops(*rows) = rows.map { |at, value| {"at" => at, "value" => value, "pass" => "linear"} }

    def medium(**more) = Light::Medium.new(field(4, 5, 6) { |k, j, i| 0.02 * (k + j + i) }, 0.5, [0.0, 1.0, 2.0],
      **more)

    # What a look with these dials makes of a medium.
    def shown(medium, frame: 1, **dials)
      document = Shot::Edits.apply(small_shot, [set("look", :edge, 0.0), *dials.map { |dial, value|
        set("look", dial,
          value)
      }])[0]
      described_class.new(described_class.settings(document, document.look, frame), 293.0).call(medium)
    end

    it "leaves a volume as it is, the very same, unless the look says otherwise" do
      smoke = medium
      expect(shown(smoke)).to equal(smoke)
      expect(shown(smoke, formula: " value ")).to equal(smoke)
    end

    it "shows densities through a ramp, and nothing where nothing is" do
      smoke = shown(medium, density_ramp: stops([0.0, 1.0], [0.1, 0.0], [0.2, 4.0])).smoke
      expect([smoke[0, 0, 0], smoke[0, 0, 5], smoke[1, 2, 2], smoke[3, 4, 5]]).to match([0.0, 0.0, 0.0,
        4.0].map { |value| be_within(0.02).of(value) })
      expect(smoke[0, 0, 1]).to be_within(0.01).of(0.8)
      expect(shown(medium, density_ramp: stops([0.05, 2.0])).smoke.to_a.uniq).to eq([0.0, 2.0])
    end

    it "makes edges crisper or softer, and leaves dense smoke alone" do
      crisp, soft = [1.0, -1.0].map { |edge| shown(medium, edge: edge, edge_at: 0.1).smoke }
      expect([crisp[0, 0, 1], soft[0, 0, 1]]).to match([be < 0.01, be > 0.04])
      expect([crisp, soft].map { |smoke| smoke[3, 4, 5] }).to all(be_within(1e-6).of(0.24))
    end

    it "calculates density by a formula over place, time and what was there" do
      smoke = shown(medium, formula: "value * (x > 1)").smoke
      expect([smoke[2, 2, 1], smoke[2, 2, 3]]).to match([0.0, be_within(1e-6).of(0.14)])
      later = [1, 13].map { |frame| shown(medium, frame: frame, formula: "t").smoke[0, 0, 0] }
      expect(later).to match([0.0, be_within(1e-6).of(0.5)])
      # What divides by nothing is nothing; what is below nothing too.
      expect(shown(medium, formula: "1 / (x - x)").smoke.to_a).to all(be_between(0.0, 1e30))
      expect(shown(medium, formula: "-5").smoke.to_a.uniq).to eq([0.0])
    end

    it "multiplies density by a texture where it lies, by so much of it, and follows one that moves" do
      woven = lambda do |change, *edits|
        texture = {
          "do" => "add",
          "kind" => "texture",
          "id" => "wisps",
          "dials" => {
            "what" => "noise", "change" => change
          }
        }
        Shot::Edits.apply(small_shot, [set("look", :edge, 0.0), texture, set("look", :texture, "wisps"), *edits])[0]
      end
      document = woven.call(0.0)
      smoke, plain =
        described_class.new(described_class.settings(document, document.look, 1), 293.0).call(medium).smoke,
        medium.smoke
      rows = Maps::Patterns.buffer([Geometry::Textures.row(document, document.node("wisps"), 1)], nil)
      told = ->(k, j, i) do
        [Geometry::TextureKernels.value(rows, 0, 0.5 * i + 0.25, 0.5 * j + 1.25, 0.5 * k + 2.25, 0.5), 0.0].max
      end
      places = [[0, 0, 1], [1, 2, 3], [3, 4, 5], [2, 1, 4]]
      expect(places.map { |at| smoke[*at] }).to match(
        places.map { |at| be_within(1e-5).of(plain[*at] * told.call(*at)) }
      )
      expect(places.map { |at| told.call(*at) }.uniq.size).to be > 2
      half = woven.call(0.0, set("look", :textured, 0.5))
      smoke = described_class.new(described_class.settings(half, half.look, 1), 293.0).call(medium).smoke
      expect(smoke[1, 2, 3]).to be_within(1e-5).of(plain[1, 2, 3] * (0.5 + 0.5 * told.call(1, 2, 3)))
      expect([document, woven.call(1.0)].map { |one| described_class.moves?(one, one.look) }).to eq([false, true])
      off = woven.call(0.0, {"do" => "switch", "node" => "wisps", "off" => true})
      expect(described_class.settings(off, off.look, 1)).to be_empty
    end

    it "colours smoke by its density or its temperature, over its own colour" do
      ramp = stops([0.0, [1.0, 0.0, 0.0]], [0.24, [0.0, 0.0, 1.0]])
      tint = shown(medium, coloured_by: "smoke", smoke_ramp: ramp).tint
      expect([tint[0, 0, 0, 0], tint[2, 3, 4, 5], tint[0, 1, 2, 3]]).to match([be_within(0.01).of(1.0),
        be_within(0.01).of(1.0), be_within(0.01).of(0.5)])
      hot = medium(heat: field(4, 5, 6) { |_, j, _| 100.0 * j }, tint: Kernel::Buffer.new(:f32, 3, 4, 5, 6).fill(0.5))
      tint = shown(hot, coloured_by: "heat", heat_ramp: stops([293.0, [0.0] * 3], [693.0, [1.0] * 3])).tint
      expect([tint[0, 0, 0, 0], tint[1, 0, 2, 0], tint[2, 0, 4, 0]]).to match([0.0, 0.25,
        0.5].map { |value| be_within(0.005).of(value) })
    end

    it "lets fire follow ramps over temperature or over fuel" do
      rig = lambda { |by, **dials|
        document = Shot::Edits.apply(small_shot, [set("look", :fire_by, by), set("look", :fire, 2.0),
          *dials.map { |dial, value| set("look", dial, value) }])[0]
        Light::Rig.new(Light::Rig.settings(document, 1))
      }
      gas = medium(heat: field(4, 5, 6) { |_, _, i| 200.0 * i }, told: {fuel: field(4, 5, 6) { |k, _, _| 0.1 * k }})
      warm = gas.fire(rig.call("heat_ramp", fire_heat_colours: stops([600.0, [1.0, 0.5, 0.0]]),
        fire_heat_strength: stops([693.0, 0.0], [1293.0, 3.0]))).emission
      expect([warm[0, 0, 0, 2], warm[0, 0, 0, 5], warm[1, 0, 0, 5], warm[2, 0, 0, 5]]).to match([0.0, 6.0, 3.0,
        0.0].map { |value| be_within(0.02).of(value) })
      lean = gas.fire(rig.call("fuel_ramp", fire_fuel_colours: stops([0.0, [0.0, 0.0, 1.0]]),
        fire_fuel_strength: stops([0.0, 0.0], [0.2, 1.0], [0.3, 0.0]))).emission
      expect([lean[2, 0, 0, 0], lean[2, 1, 0, 0], lean[2, 2, 0, 0], lean[2, 3, 0, 0]]).to match([0.0, 1.0, 2.0,
        0.0].map { |value| be_within(0.02).of(value) })
      expect(gas.fire(rig.call("fuel_ramp", fire_fuel_strength: []))).to be_nil
      expect(medium.fire(rig.call("fuel_ramp"))).to be_nil
    end

    it "makes light anew only for what changes" do
      keys = lambda { |formula|
        document = Shot::Edits.apply(small_shot, [set("look", :formula, formula)])[0]
        [1, 7].map { |frame| described_class.settings(document, document.look, frame) }.uniq.size
      }
      expect([keys.call("value * noise(x, y, z)"), keys.call("value * noise(x, y, t)")]).to eq([1, 2])
    end
  end

  RSpec.describe Light::Histogram do
    it "counts what is there, in the quantity's own unit" do
      state = Gas::State.still([16, 16, 16])
      state.smoke.replace(field(16, 16, 16) { |k, _, _| (k < 8) ? 0.0 : 0.25 * (k - 7) })
      state.heat.replace(field(16, 16, 16) { |k, _, _| (k == 3) ? 707.0 : 0.0 })
      bricks = Grid::Bricks.pack(state)
      smoke, heat = %w[smoke temperature].map { |name| described_class.of(bricks, name, 293.0) }
      expect([smoke[:low], smoke[:high], smoke[:counts].sum, smoke[:counts].last]).to eq([0.0, 2.0, 8 * 256, 256])
      expect([heat[:low], heat[:high], heat[:counts].sum]).to match([293.0, be_within(1.0).of(1000.0), 256])
      expect(described_class.of(bricks, "fuel", 293.0)[:counts].sum).to eq(0)
      expect { described_class.of(bricks, "luck", 293.0) }.to raise_error(Refused,
        /no histogram of "luck"; there are: smoke, fuel, temperature/)
    end
  end
end
