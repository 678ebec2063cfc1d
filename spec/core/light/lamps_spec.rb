# frozen_string_literal: true

module Vumbral
  RSpec.describe Light::Lamps do
    def lamp(**dials) =
      {
        "do" => "add",
        "kind" => "lamp",
        "id" => "lamp",
        "dials" => {strength: 2.0, colour: [1.0, 1.0, 1.0], position: [0.0, 2.0, 0.0]}.merge(dials).transform_keys(
          &:to_s
        )
      }

    def shot(*edits, **dials) =
      small_shot(
        edits: [
          {"do" => "remove", "node" => "sun-1"}, set("sky", :strength, 0.0), set("sky", :fade, 0.0),
          set("ground", :shown, false), *edits, lamp(**dials)
        ]
      )

    def rows(**dials) = Light::Rig.new(Light::Rig.settings(shot(**dials), 1)).lamps

    # Light straight before a lamp, or at a place.
    def gain(lamps, x, y, z) = Light::LampKernels.towards(lamps, 0, x, y, z)[4]

    it "keeps place, colour and links when its kind changes, and says them in what it was told in" do
      point, spot = rows, rows(as: "spot", cone: 60.0, soft: 0.0)
      expect(spot.to_a[1..7]).to eq(point.to_a[1..7])
      expect(rows(measure: "candela", strength: 500.0).to_a[4]).to be_within(1e-6).of(0.5)
      expect(rows(measure: "lumen", strength: 4000.0 * Math::PI, stops: 1.0).to_a[4]).to be_within(1e-5).of(2.0)
      warm = rows(kelvin: "kelvin", temperature: 1900.0).to_a[4, 3]
      expect(warm[0]).to be > 2.0 * warm[1]
      expect(warm[1]).to be > 2.0 * warm[2]
    end

    it "shines in a cone that fades between its inner and its outer edge, and falls off as told" do
      lamps = rows(as: "spot", target: [0.0, 0.0, 0.0], cone: 60.0, soft: 0.5)
      at = ->(degrees) do
        gain(lamps, 2.0 * Math.tan(degrees * Math::PI / 180), 0.0, 0.0) * 4.0 / Math.cos(degrees * Math::PI / 180)**2
      end
      expect([at.call(0), at.call(14)]).to all(be_within(1e-4).of(1.0))
      expect(at.call(22.5)).to be_between(0.3, 0.7)
      expect([at.call(30.5), at.call(60)]).to all(eq(0.0))
      expect(gain(lamps, 0.0, 4.0, 0.0)).to eq(0.0)
      expect(%w[square straight none].map { |falloff| gain(rows(falloff: falloff), 0.0, -2.0, 0.0) }).to match(
        [be_within(1e-6).of(1 / 16.0), be_within(1e-6).of(0.25), be_within(1e-6).of(1.0)]
      )
    end

    it "shines through a slide that fills its cone, upright as one looks along the beam" do
      shelf = Class.new { def picture(_digest) = Kernel::Buffer.of(:f32, [0.0, 0.25, 0.5, 1.0], 2, 2) }.new
      slide = {
        "do" => "add",
        "kind" => "texture",
        "id" => "slide",
        "dials" => {
          "what" => "picture", "picture" => "a slide", "repeats" => false
        }
      }
      settings =
        Light::Rig.settings(
          shot(
            slide, as: "spot", position: [0.0, 0.0, 2.0], target: [0.0, 0.0, 0.0], cone: 60.0, soft: 0.0, slide: "slide"
          ),
          1
        )
      lamps = Light::Rig.new(settings, shelf).lamps
      bare = rows(as: "spot", position: [0.0, 0.0, 2.0], target: [0.0, 0.0, 0.0], cone: 60.0, soft: 0.0)
      shares =
        [[-0.5, 0.5], [0.5, 0.5], [-0.5, -0.5], [0.5, -0.5]].map do |x, y|
          gain(lamps, x, y, 0.0) / gain(bare, x, y, 0.0)
        end
      expect(shares).to match([0.0, 0.25, 0.5, 1.0].map { |share| be_within(0.1).of(share) })
    end

    it "is seen itself as bright as it must be for its light, a ball and a sheet" do
      light = lambda do |**dials|
        document =
          shot(
            {"do" => "remove", "node" => "source-1"}, {"do" => "remove", "node" => "prop-1"},
            set("camera", :position, [0.0, 2.0, 4.0]), set("camera", :target, [0.0, 2.0, 0.0]), seen: true, **dials
          )
        image = Picture::Renderer.new(Picture::Renderer.settings(document, 1), nil).image(nil, 33, 33)
        [image[16, 16, 0], image[2, 2, 0]]
      end
      expect(light.call(radius: 0.3)).to match([be_within(1e-3).of(2.0 / (Math::PI * 0.09)), 0.0])
      expect(light.call(as: "area", wide: 0.8, high: 0.5, target: [0.0, 2.0, 4.0])).to match(
        [be_within(1e-3).of(2.0 / 0.4), 0.0]
      )
      expect(light.call(radius: 0.0)[0]).to eq(0.0)
    end

    it "shows a picture on a sheet, as bright in the mean as without, and lights in its mean colour" do
      shelf =
        Class
          .new do
            def coloured(_digest) =
              Kernel::Buffer.of(:f32, [[1.0, 0.2, 0.0, 1.0], [1.0, 0.6, 0.2, 1.0]].flatten * 2, 2, 2, 4)
          end
          .new
      document =
        shot(
          {"do" => "remove", "node" => "source-1"}, {"do" => "remove", "node" => "prop-1"},
          set("camera", :position, [0.0, 2.0, 4.0]), set("camera", :target, [0.0, 2.0, 0.0]), seen: true, as: "area",
          wide: 0.8, high: 0.5, target: [0.0, 2.0, 4.0], picture: "a window"
        )
      image = Picture::Renderer.new(Picture::Renderer.settings(document, 1), shelf).image(nil, 33, 33)
      bright = 0.2126 + 0.7152 * 0.4 + 0.0722 * 0.1
      expect(3.times.map { |c| image[16, 16, c] }).to match(
        [1.0, 0.4, 0.1].map { |value| be_within(0.02).of(value * 2.0 / 0.4 / bright) }
      )
      lamps = Light::Rig.new(Light::Rig.settings(document, 1), shelf).lamps
      expect(3.times.map { |c| lamps[0, 4 + c] }).to match(
        [1.0, 0.4, 0.1].map { |value| be_within(1e-4).of(2.0 * value / bright) }
      )
    end

    # Howell's catalogue of configuration factors: a small surface parallel to a rectangle, below one of its corners.
    def corner_factor(a, b, c)
      x, y = a / c, b / c
      (x / Math.sqrt(1 + x * x) * Math.atan(y / Math.sqrt(1 + x * x)) +
        y / Math.sqrt(1 + y * y) * Math.atan(x / Math.sqrt(1 + y * y))) / (2 * Math::PI)
    end

    it "lights a surface from a sheet as the exact form factor says, near and far, whole and partly below the " \
      "horizon" do
      lamps = rows(as: "area", wide: 2.0, high: 1.0, target: [0.0, 0.0, 0.0])
      [0.3, 1.0, 3.0].each do |far|
        exact = Math::PI / 2.0 * 4 * corner_factor(1.0, 0.5, far)
        expect(Light::LampKernels.sheet(lamps, 0, 0.0, 2.0 - far, 0.0, 0.0, 1.0, 0.0)).to be_within(0.005 * exact).of(
          exact
        )
      end
      # Upright, a metre below the middle of the sheet: half of it is behind.
      places = (0...200).to_a.product((0...100).to_a).map { |i, j| [(i + 0.5) / 100.0 - 1.0, (j + 0.5) / 100.0 - 0.5] }
      exact = places.sum { |u, v| [u, 0.0].max / (u * u + v * v + 1.0)**2 } / places.size
      expect(Light::LampKernels.sheet(lamps, 0, 0.0, 1.0, 0.0, 1.0, 0.0, 0.0)).to be_within(0.01 * exact).of(exact)
    end

    def picture(*edits, **dials)
      document =
        shot(
          set("prop-1", :shape, "plane"), set("prop-1", :size, [8.0, 1.0, 8.0]),
          set("prop-1", :colour, [1.0, 1.0, 1.0]), set("prop-1", :shown, true),
          set("prop-1", :position, [0.0, 0.0, 0.0]), set("camera", :position, [0.0, 6.0, 0.01]),
          set("camera", :target, [0.0, 0.0, 0.0]), *edits, **dials
        )
      renderer = Picture::Renderer.new(Picture::Renderer.settings(document, 1), nil)
      image = renderer.image(nil, 64, 36)
      ->(x, y) { image[y, x, 0] }
    end

    it "lights only what it is linked to, and softens shadows as its size says" do
      expect(picture.call(33, 17)).to be_within(0.005).of(2.0 / 4.0 / Math::PI)
      expect(picture(lights: "volumes").call(32, 18)).to eq(0.0)
      other = {
        "do" => "add",
        "kind" => "prop",
        "id" => "other",
        "dials" => {
          "shape" => "sphere", "radius" => 0.3, "position" => [0.0, 1.0, 0.0]
        }
      }
      expect(picture(other, only_props: ["other"]).call(50, 18)).to eq(0.0)
      shade = {
        "do" => "add",
        "kind" => "prop",
        "id" => "other",
        "dials" => {
          "shape" => "box", "size" => [1.0, 0.02, 8.0], "position" => [-0.5, 1.0, 0.0]
        }
      }
      # Beside the edge of what shades, on the floor.
      beside = ->(read) { (32..38).map { |x| (12..24).sum { |y| read.call(x, y) } / 13.0 } }
      hard, soft = [picture(shade), picture(shade, radius: 0.5)].map(&beside)
      expect(hard[0] / hard[4]).to be > 0.98
      expect(soft[0] / soft[4]).to be < 0.8
      expect(soft.first(5).each_cons(2)).to all(satisfy { |a, b| b >= a - 0.002 })
    end
  end
end
