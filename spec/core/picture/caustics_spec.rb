# frozen_string_literal: true

module Vumbral
  RSpec.describe Picture::Caustics do
    # A ground with a sun above it, and a clear thing on or over it.
    def shot(thing, height: 90.0, **picture)
      Shot::Edits.apply(
        Studio::Starters.bare("Clear"),
        [
          {
            "do" => "add",
            "kind" => "prop",
            "name" => "Floor",
            "id" => "floor",
            "dials" => {
              "shape" => "box", "size" => [4.0, 0.1, 4.0], "position" => [0.0, -0.05, 0.0]
            }
          },
          {
            "do" => "add", "kind" => "prop", "name" => "Clear", "id" => "clear",
            "dials" => {"clear" => 1.0, "clear_depth" => 1000.0}.merge(thing)
          },
          {"do" => "set", "node" => "sun-1", "dial" => "height", "value" => height},
          *picture.map { |dial, value| {"do" => "set", "node" => "picture", "dial" => dial.to_s, "value" => value} }
        ]
      )[
        0
      ]
    end

    def gathered(document)
      settings = Picture::Renderer.settings(document, 1)
      scene = Picture::PropScene.new(Picture::PropScene.those(settings["props"], "seen"), nil)
      @lamps = Light::Rig.new(settings["rig"], nil).prop_lamps
      described_class.of(scene.record, @lamps, 256)
    end

    # By how much the light of the sun is changed at a place, its green.
    def factor(caustics, place) = Picture::CausticKernels.factor(*caustics, caustics[1][0].to_i, *place)[1]

    it "lets light through a flat slab as it is, less what that takes" do
      slab = {"shape" => "box", "size" => [1.0, 0.5, 1.0], "position" => [0.0, 0.5, 0.0]}
      caustics = gathered(shot(slab))
      [[0.0, 0.0, 0.0], [0.2, 0.0, -0.3], [-0.4, 0.0, 0.1]].each do |place|
        expect(factor(caustics, place)).to be_within(0.03).of(1.0)
      end
      # Beside it, above it, and far off.
      [[0.9, 0.0, 0.0], [0.0, 1.0, 0.0], [30.0, 0.0, 0.0]].each { |place| expect(factor(caustics, place)).to eq(1.0) }
      # Half a metre within what takes all but 1/e in as much.
      expect(
        factor(gathered(shot(slab.merge("clear_depth" => 0.5, "clear_colour" => [0.3, 0.5, 0.7]))), [0.1, 0.0, 0.1])
      ).to be_between(0.2, 0.8)
    end

    it "gathers it under a ball of glass, and loses none of it" do
      caustics =
        gathered(
          shot(
            {"shape" => "sphere", "radius" => 0.4, "position" => [0.0, 0.55, 0.0], "divisions" => 6, "bends" => 1.5}
          )
        )
      middle, ring = factor(caustics, [0.0, 0.0, 0.0]), factor(caustics, [0.3, 0.0, 0.0])
      expect(middle).to be > 3.0
      expect(ring).to be < 0.5
      map, lens = caustics
      whole = (0...map.dim(0)).sum { |j| (0...map.dim(0)).sum { |i| map[j, 5 * i + 1] } } * lens[12]**2
      expect(whole).to be_within(0.06 * Math::PI * 0.16).of(Math::PI * 0.16)
    end

    it "is the same in a part of a picture as in the whole" do
      document = shot({"shape" => "sphere", "radius" => 0.4, "position" => [0.0, 0.55, 0.0]})
      settings = Picture::Renderer.settings(document, 1)
      widths = []
      allow(described_class).to receive(:of).and_wrap_original { |of, *given|
        of.call(*given).tap { widths << given.last }
      }
      [[nil, 200], [[0.0, 0.0, 0.5, 1.0], 100], [[0.75, 0.0, 1.0, 1.0], 50]].each do |crop, width|
        Picture::Renderer.new(
          settings.merge("camera" => settings["camera"].merge(crop ? {"crop" => crop} : {})), nil
        ).image(nil, width, 60)
      end
      expect(widths).to eq([200] * 3)
    end

    it "is nothing without clear things, without a sun that casts shadows, and where the picture is without it" do
      expect(gathered(shot({"shape" => "sphere", "clear" => 0.0}))).to eq(described_class.none)
      dim =
        Shot::Edits.apply(
          shot({"shape" => "sphere"}), [{"do" => "set", "node" => "sun-1", "dial" => "shadows", "value" => false}]
        )[
          0
        ]
      expect(gathered(dim)).to eq(described_class.none)
      ball = {"shape" => "sphere", "radius" => 0.4, "position" => [0.0, 0.55, 0.0]}
      pictures = [true, false].map do |on|
        document = shot(ball, caustics: on, width: 96, height: 54)
        renderer = Picture::Renderer.new(Picture::Renderer.settings(document, 1), nil)
        renderer.image(nil, 96, 54)
      end
      expect(pictures[0].bytes).not_to eq(pictures[1].bytes)
    end
  end
end
