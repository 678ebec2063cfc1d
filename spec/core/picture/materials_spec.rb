# frozen_string_literal: true

module Vumbral
  RSpec.describe Picture::GlossKernels do
    # What facets throw back in all of a white room, the lobe summed over all directions of the light.
    def summed(rough, cosine, straight)
      a = rough * rough
      eye = [Math.sqrt(1.0 - cosine * cosine), cosine]
      (0...20_000).sum do |n|
        u, turn = (n + 0.5) / 20_000, 2.0 * Math::PI * ((n * 0.6180339887) % 1.0)
        up = Math.sqrt((1.0 - u) / (1.0 + (a * a - 1.0) * u))
        half = [Math.sqrt(1.0 - up * up) * Math.cos(turn), up, Math.sqrt(1.0 - up * up) * Math.sin(turn)]
        to = eye[0] * half[0] + eye[1] * up
        light = [2.0 * to * half[0] - eye[0], 2.0 * to * up - eye[1], 2.0 * to * half[2]]
        next 0.0 unless to.positive? && light[1].positive?

        shape, sheen =
          described_class.lobe(Geometry::Ray.new(*light, 0.0, 1.0, 0.0), eye[0], eye[1], 0.0, rough, straight)
        under = up * up * (a * a - 1.0) + 1.0
        shape * sheen * light[1] * 4.0 * to / (up * a * a / (Math::PI * under * under)) / 20_000
      end
    end

    it "throws back as much of a lamp, summed over all directions, as its table says of light from all around" do
      [0.2, 0.4, 0.6, 1.0].product([0.4, 0.8]).each do |rough, cosine|
        own, all = described_class.around(Picture::Sheen.table, rough, cosine)
        [0.04, 1.0].each do |straight|
          summed(rough, cosine, straight).then do |sum|
            expect(straight * own + all).to be_within(0.02 * [sum, 0.1].max).of(sum)
          end
        end
      end
      # Smooth metal throws back all, and rough metal at most that.
      expect(described_class.around(Picture::Sheen.table, 0.05, 0.9).sum).to be_within(0.01).of(1.0)
      expect(described_class.around(Picture::Sheen.table, 1.0, 0.9).sum).to be < 0.5
    end

    def ball(**dials)
      edits = [
        {"do" => "remove", "node" => "sun-1"}, set("ground", :shown, false), set("sky", :model, "even"),
        set("sky", :strength, Math::PI), set("sky", :colour, [1.0] * 3), set("sky", :below, [1.0] * 3),
        set("sky", :fade, 0.0), set("prop-1", :shape, "sphere"), set("prop-1", :divisions, 5),
        set("prop-1", :shown, true), set("prop-1", :radius, 0.5), set("prop-1", :position, [0.0, 1.0, 0.0]),
        set("prop-1", :colour, [1.0] * 3), set("camera", :position, [0.0, 1.0, 3.0]),
        set("camera", :target, [0.0, 1.0, 0.0]), *dials.map { |dial, value| set("prop-1", dial, value) }
      ]
      Picture::Renderer.new(Picture::Renderer.settings(small_shot(edits: edits), 1), nil).image(nil, 48, 27)
    end

    it "shows nothing brighter than a white room around it, whatever it is made of" do
      {
        mirror: {
          metal: 1.0, rough: 0.03
        },
        brass: {
          metal: 1.0, rough: 0.5
        },
        glaze: {
          shine: 0.5, rough: 0.1
        },
        clay: {}
      }.each do |_, dials|
        image = ball(**dials)
        inside =
          (16..32).to_a.product((8..18).to_a).select { |x, y| image[y, x, 3] > 0.9999 }.map { |x, y| image[y, x, 1] }
        expect(inside.max).to be <= 1.03
        expect(inside.min).to be > 0.55
      end
      mirror = ball(metal: 1.0, rough: 0.03)
      expect(mirror[13, 24, 1]).to be_within(0.02).of(1.0)
    end

    it "has a second colour where its texture is strong, bumps in its light, and light of its own" do
      stripes = {
        "do" => "add",
        "kind" => "texture",
        "id" => "stripes",
        "dials" => {
          "what" => "stripes", "size" => 0.2, "bend" => 0.0, "turn" => [0.0, 0.0, 50.0]
        }
      }
      row = ->(document) do
        Picture::Renderer
          .new(Picture::Renderer.settings(document, 1), nil)
          .image(nil, 96, 54)
          .then { |image| (36..60).map { |x| image[27, x, 0] } }
      end
      look = ->(*edits) do
        row.call(
          small_shot(
            edits: [
              stripes, set("prop-1", :shape, "box"), set("prop-1", :size, [1.5, 1.5, 1.5]), set("prop-1", :shown, true),
              set("prop-1", :position, [0.0, 1.3, 0.0]), set("prop-1", :uneven, 0.0), set("sky", :fade, 0.0),
              set("sun-1", :around, 60.0), *edits
            ]
          )
        )
      end
      plain = look.call
      striped = look.call(set("prop-1", :mixed_by, "stripes"), set("prop-1", :second, [0.9, 0.9, 0.9]))
      expect(striped.max - striped.min).to be > 3.0 * (plain.max - plain.min) + 0.03
      bumpy = look.call(set("prop-1", :bumps, "stripes"), set("prop-1", :bump_height, 0.03))
      expect(bumpy.max - bumpy.min).to be > 1.5 * (plain.max - plain.min)
      lit = look.call(set("prop-1", :light, 3.0), set("prop-1", :light_colour, [1.0, 0.5, 0.0]))
      expect(lit.zip(plain).map { |a, b| a - b }).to all(be_within(0.01).of(3.0))
    end
  end

  RSpec.describe Shot::Materials do
    it "makes a prop of it in one step, with a texture that comes along once" do
      take = ->(name, node = "prop-1") { {"do" => "take_material", "node" => node, "material" => name} }
      document = small_shot(edits: [set("prop-1", :shine, 1.0), take.call("wood"), take.call("wood", "ground")])
      expect(document.of(:texture).map(&:name)).to eq(["Wood grain"])
      expect([document.node("prop-1")[:mixed_by], document.node("ground")[:mixed_by]]).to eq(%w[wood-grain wood-grain])
      expect(small_shot(edits: [take.call("wood"), take.call("paper")]).node("prop-1")[:mixed_by]).to be_nil
      described_class::ALL.each_key do |name|
        expect(File).to exist(File.join(ROOT, "web", "public", "materials", "#{name}.png"))
      end
      expect { small_shot(edits: [take.call("gold")]) }.to raise_error(
        Refused, /There is no material "gold"; there are: raw-clay/
      )
      expect { small_shot(edits: [take.call("wood", "sun-1")]) }.to raise_error(Refused, /is no prop/)
    end
  end
end
