# frozen_string_literal: true

module Vumbral
  RSpec.describe Picture::Film do
    def film(**settings) =
      described_class.new(
        {
          "exposure" => 0.0, "tone" => "film", "contrast" => 1.0, "warmth" => 6500.0, "bloom" => 0.0, "grain" => 0.0
        }.merge(settings.transform_keys(&:to_s))
      )

    def pixels(film, *colours)
      film.develop(Kernel::Buffer.of(:f32, colours.flatten, 1, colours.size, 3)).to_a.each_slice(3).to_a
    end

    it "keeps black, middle grey and greys, and never turns back" do
      black, grey, white = pixels(film, [0.0] * 3, [0.18] * 3, [12.0] * 3)
      expect(black).to eq([0, 0, 0])
      expect(grey.uniq.size).to eq(1)
      expect(grey[0]).to be_within(2).of(118)
      expect(white).to all(be >= 254)
      ramp = pixels(film, *Array.new(60) { |n| [0.002 * 1.17**n] * 3 }).map(&:first)
      expect(ramp.each_cons(2).map { |a, b| b - a }.min).to be >= 0
    end

    it "lets fire run from red through orange and yellow to white as it gets brighter" do
      fire = Light::BlackBody.rgb(1700)
      dim, mid, bright, blinding = pixels(film, *[0.05, 0.5, 3.0, 30.0].map { |gain| fire.map { |c| c * gain } })
      expect(dim[0]).to be > 2.5 * dim[1]
      expect(mid[1].fdiv(mid[0])).to be_between(0.35, 0.8)
      expect(bright[1].fdiv(bright[0])).to be_between(0.75, 1.0)
      expect(bright[2]).to be < 0.75 * bright[0]
      expect(blinding.min).to be > 215
    end

    it "leaves numbers as they are when plain, and makes warm light white by its temperature" do
      expect(pixels(film(tone: "plain"), [0.5, 0.25, 2.0])[0]).to eq([188, 137, 255])
      warm = Light::BlackBody.rgb(3200).map { |c| 0.3 * c }
      white = pixels(film(tone: "plain", warmth: 3200.0), warm)[0]
      expect(white.max - white.min).to be < 6
      expect(pixels(film(tone: "plain", exposure: 1.0), [0.25] * 3)).to eq(pixels(film(tone: "plain"), [0.5] * 3))
      low, high = pixels(film(tone: "plain", contrast: 1.5), [0.05] * 3, [0.5] * 3).map(&:first)
      expect([low, high]).to match([be < 63, be > 188])
    end

    it "keeps hues where its top is soft, and lets only what is far too bright run to white" do
      low, middle, fire, blinding =
        pixels(film(tone: "soft"), [0.5, 0.25, 0.1], [1.0] * 3, [6.0, 3.0, 0.3], [60.0, 30.0, 3.0])
      expect(low).to eq(pixels(film(tone: "plain"), [0.5, 0.25, 0.1])[0])
      expect(middle.uniq.size).to eq(1)
      # Yellow with some white in it, neither orange alone nor a yellow without any blue.
      expect(fire[0]).to be > 250
      expect(fire[1]).to be_between(200, 235)
      expect(fire[2]).to be_between(150, 200)
      expect(blinding.min).to be > 235
    end

    def starred(film, size = 64) = film.develop(field(size, size, 3) { |y, x, _| (y == 32 && x == 32) ? 400.0 : 0.0 })

    it "spreads bright light around it, evenly, and makes none" do
      plain, glowing = starred(film), starred(film(bloom: 0.2))
      expect(plain[32, 36, 0]).to eq(0)
      expect(glowing[32, 36, 0]).to be > 5
      expect(glowing[32, 27, 0]).to be_within(6).of(glowing[27, 32, 0])
      light = field(40, 40, 3) { |y, x, _| (y == 20 && x == 20) ? 16.0 : 0.0 }
      film(bloom: 0.3).send(:bloom, light)
      expect(light.to_a.sum).to be_within(0.05 * 48).of(48)
    end

    # A glint of the sun is ten thousand times as bright as what is around it.
    it "spreads a glint without corners, edges or the grid on which it is made" do
      size = 201
      light = field(size, size, 3) { |y, x, _| (y == 100 && x == 100) ? 20_000.0 : 0.0 }
      film(bloom: 0.2).send(:bloom, light)
      along = (1..40).map { |r| light[100, 100 + r, 0] }
      expect(along.each_cons(2)).to all(satisfy { |near, far| far <= 1.001 * near })
      # By no more from pixel to pixel than a bell of its width does, a fifth and a bit more where it is steepest.
      expect(along.each_cons(2).map { |near, far| (near - far) / along[0] }.max).to be < 0.3
      [4, 7, 11, 15].each do |r|
        slant = (r / Math.sqrt(2)).round
        radius = Math.hypot(slant, slant)
        straight = along[radius.floor - 1] + (radius - radius.floor) * (along[radius.floor] - along[radius.floor - 1])
        expect(light[100 + slant, 100 + slant, 0]).to be_within(0.12 * along[0]).of(straight)
        expect(light[100 + slant, 100 - slant, 0]).to be_within(0.12 * along[0]).of(straight)
      end
    end

    it "has a grain that is uneven, mild and even-handed" do
      even = -> { field(32, 32, 3) { 0.18 } }
      grey = film(grain: 0.2).develop(even.call).to_a
      expect(grey.uniq.size).to be > 20
      expect(grey.sum.fdiv(grey.size)).to be_within(3).of(118)
      expect(film(grain: 0.2).develop(even.call).to_a).to eq(grey)
    end
  end
end
