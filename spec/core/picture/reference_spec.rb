# frozen_string_literal: true

module Vumbral
  RSpec.describe Picture::Reference do
    SUN = {"do" => "add", "kind" => "sun", "name" => "Sun", "dials" => {"colour" => [1.0, 1.0, 1.0],
                                                                        "strength" => 3.0, "around" => 70.0,
                                                                        "height" => 40.0,
                                                                        "size" => 0.0}}.freeze # rubocop:disable Lint/ConstantDefinitionInBlock

    def look(**dials) = dials.map { |dial, value| set("look", dial, value) }

    def settings(*edits)
      document = Shot::Edits.apply(Shot::Document.blank("Test"), [set("camera", :position, [0.0, 0.0, 8.0]),
        set("camera", :target, [0.0, 0.0, 0.0]), set("camera", :focal, 50.0),
        set("look", :shadow, 1.0), set("picture", :between, "straight"), set("sky", :strength, 0.5), set("sky",
          :colour, [0.6, 0.75, 1.0]), set("sky", :below, [0.3, 0.28, 0.25]), *edits.flatten])[0]
      Picture::Renderer.settings(document, 1)
    end

    def far(k, j, i, middle = [19.5] * 3) = Math.sqrt([k, j, i].zip(middle).sum { |a, b| (a - b)**2 })

    # A lump with a soft skin, and what is hot in it.
    def lump(hot: false)
      smoke = field(40, 40, 40) { |k, j, i|
        ((14.0 - far(k, j,
          i) - 2.5 * Math.sin(0.55 * i) * Math.cos(0.5 * j) - 2 * Math.sin(0.6 * k + 0.3 * j)) / 3.0).clamp(0.0, 1.0)
      }
      heat = hot ? field(40, 40, 40) { |k, j, i|
        1300.0 * ((8 - far(k, j, i, [19.5, 16,
          19.5]) - 1.5 * Math.sin(0.7 * i) * Math.cos(0.6 * k)) / 4).clamp(0, 1)
      } : nil
      Light::Medium.new(smoke, 0.1, [-2.0] * 3, heat: heat)
    end

    # Light in blocks of four by four pixels, where there is any, so that the reference's grain is little.
    def blocks(image)
      (0...9).to_a.product((0...9).to_a).map { |y, x|
        (0..2).map { |c| (0..15).sum { |n| image[4 * y + n / 4, 4 * x + n % 4, c] } / 16.0 }
      }
    end

    def error(settings, medium, paths)
      everyday = blocks(Picture::Renderer.new(settings, nil).image(medium, 36, 36))
      reference = blocks(described_class.new(settings).image(medium, 36, 36, paths: paths))
      everyday.flatten.zip(reference.flatten).sum { |a, b| (a - b).abs } / reference.flatten.sum
    end

    it "keeps white smoke under an even sky as bright as the sky" do
      white = settings(look(thickness: 20.0, colour: [1.0] * 3, forward: 0.3), set("sky", :colour, [1.0] * 3),
        set("sky", :below, [1.0] * 3))
      image = described_class.new(white).image(lump, 24, 24, paths: 60)
      seen = image.to_a.each_slice(4).select { |pixel| pixel[3] > 0.99 }.map(&:first)
      expect(seen.sum / seen.size).to be_within(0.01).of(0.5 / Math::PI)
    end

    it "lights a deep slab as Chandrasekhar found" do
      slab = Light::Medium.new(field(24, 60, 60) { |k, _, _| k.between?(2, 21) ? 1.0 : 0.0 }, 0.1, [-3.0, -3.0, -1.2])
      dials = [SUN.merge("dials" => SUN["dials"].merge("around" => 0.0, "height" => 0.0, "strength" => Math::PI)),
        set("sky", :strength, 0.0), set("camera", :position, [0.0, 0.0, 60.0]), set("camera", :focal, 900.0)]
      {0.9 => 0.3842, 0.5 => 0.0978}.each do |albedo, exact|
        image = described_class.new(settings(look(thickness: 60.0, colour: [albedo] * 3, forward: 0.0),
          dials)).image(slab, 16, 9, paths: 160)
        expect(image.to_a.each_slice(4).sum(&:first) / 144).to be_within(0.025 * exact).of(exact)
      end
    end

    it "counts bounces, and gives the same again" do
      medium = lump
      once, again, all = [0.0, 0.0, 100.0].map { |bounces|
        described_class.new(settings(SUN, look(thickness: 10.0,
          bounces: bounces))).image(medium, 16, 16, paths: 40).to_a.each_slice(4).map(&:first)
      }
      expect(once).to eq(again)
      expect(once.sum).to be < 0.7 * all.sum
    end

    {
      "thin smoke" => [[SUN], {thickness: 1.0, colour: [0.9] * 3, forward: 0.0}, 400],
      "thick smoke" => [[SUN], {thickness: 20.0, colour: [0.9] * 3, forward: 0.0}, 200],
      "smoke that sends light forwards" => [[SUN], {thickness: 8.0, colour: [0.95] * 3, forward: 0.6}, 300],
      "coloured smoke" => [[SUN], {thickness: 12.0, colour: [0.95, 0.7, 0.3], forward: 0.25}, 200],
      "fire in soot" => [[], {thickness: 4.0, colour: [0.3] * 3, forward: 0.0, fire: 10.0, fire_from: 850.0,
                              fire_rise: 4.0, glow: 1.0}, 2500]
    }.each do |name, (lamps, dials, paths)|
      it "is met by the everyday picture within ten percent in #{name}" do
        dark = lamps.empty? ? [set("sky", :strength, 0.0)] : []
        expect(error(settings(lamps, dark, look(**dials)), lump(hot: lamps.empty?), paths)).to be < 0.1
      end
    end
  end
end
