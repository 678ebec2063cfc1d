# frozen_string_literal: true

module Vumbral
  # Effects on colours against their formulas.
  RSpec.describe Finish::Colours do
    include FinishHelp

    def one(what, colour, through: nil, alpha: 1.0, **dials)
      stand = FinishHelp::Stand.new(shots: plain(*colour.map { |c| c * alpha }, alpha), table: through)
      pixel(composite([layer("one"), effect("one", what, **dials)], stand), 2, 2).first(3).map { |c| c / alpha }
    end

    def screen(x) = (x <= 0.0031308) ? 12.92 * x : 1.055 * x**(1 / 2.4) - 0.055

    def light(y) = (y <= 0.04045) ? y / 12.92 : ((y + 0.055) / 1.055)**2.4

    def grey(colour) = [0.2126, 0.7152, 0.0722].zip(colour).sum { |a, b| a * b }

    given = [0.5, 0.18, 0.04]

    it "changes exposure by powers of two, also of light that covers nothing" do
      expect(one("exposure", given, stops: -1.5)).to all_be_near(given.map { |c| c * 2**-1.5 }, 1e-6)
    end

    it "lifts darks, middles and lights: (gain (x + lift (1 - x)))^(1 / gamma)" do
      [1.0, 0.5].each do |alpha|
        expect(one("grade", given, alpha: alpha, lift: 0.1, gamma: 1.8, gain: 0.9)).to all_be_near(
          given.map { |x| (0.9 * (x + 0.1 * (1 - x)))**(1 / 1.8) }, 2e-5
        )
      end
    end

    it "turns contrast about a light that stays" do
      expect(one("contrast", given, contrast: 1.4)).to all_be_near(given.map { |x| 0.18 * (x / 0.18)**1.4 }, 1e-5)
      expect(one("contrast", [0.18] * 3, contrast: 3.0)).to all_be_near([0.18] * 3, 1e-6)
    end

    it "bends brightness by curves as a screen has it, and leaves all with a straight one" do
      expect(one("curves", given)).to all_be_near(given, 2e-4)
      stops = [[0.0, 0.1], [1.0, 0.7]].map { |at, value| {"at" => at, "value" => value, "pass" => "linear"} }
      expect(one("curves", given, curve: stops)).to all_be_near(given.map { |x| light(0.1 + 0.6 * screen(x)) }, 3e-4)
      expect(one("curves", [4.0] * 3)[0]).to be > 3.0
    end

    it "takes colour away about the brightness of Rec. 709, and turns hues without changing it" do
      expect(one("saturation", given, saturation: 0.0)).to all_be_near([grey(given)] * 3, 1e-6)
      turned = one("saturation", [0.4, 0.3, 0.24], hue: 120.0)
      expect(grey(turned)).to be_within(5e-4).of(grey([0.4, 0.3, 0.24]))
      expect(turned[1]).to eq(turned.max)
      expect(one("saturation", given, hue: 360.0)).to all_be_near(given, 1e-5)
    end

    it "keeps colour by hue" do
      stops =
        [[0.0, 1.0], [119.0, 1.0], [120.0, 0.0], [239.0, 0.0], [240.0, 1.0]].map do |at, value|
          {"at" => at, "value" => value, "pass" => "held"}
        end
      expect(one("saturation", [0.1, 0.5, 0.1], by_hue: stops).uniq { |c| c.round(3) }.size).to eq(1)
      expect(one("saturation", given, by_hue: stops)).to all_be_near(given, 1e-5)
    end

    it "tints nothing with greys, and darks and lights apart" do
      expect(one("tint", given)).to all_be_near(given, 1e-5)
      blue = one("tint", [0.001] * 3, darks: [0.2, 0.3, 0.9])
      expect(blue[2]).to be > 2 * blue[0]
      expect(one("tint", [1.0] * 3, darks: [0.2, 0.3, 0.9])).to all_be_near([1.0] * 3, 1e-4)
    end

    it "makes the light of a lamp white and keeps grey's brightness" do
      lamp = Light::BlackBody.rgb(3200.0)
      white = one("balance", lamp.map { |c| 0.3 * c / lamp.max }, white: 3200.0)
      neutral = Light::BlackBody.rgb(6500.0)
      expect(white.zip(neutral).map { |a, b| a / b }.minmax.then { |low, high| high / low }).to be < 1.001
      expect(grey(one("balance", [0.5] * 3, white: 4000.0, green: -0.2))).to be_within(1e-5).of(0.5)
    end

    it "reads a table exactly at its points, evenly between them, and greys as greys" do
      points =
        [0, 1, 2].product([0, 1, 2], [0, 1, 2]).map { |b, g, r| [r / 2.0 * 0.8 + 0.1, (g / 2.0)**2, 1.0 - b / 2.0] }
      table = Formats::Cube.new(Kernel::Buffer.of(:f32, points.flatten, 3, 3, 3, 3))
      dials = {table: "any", space: "linear"}
      expect(one("table", [0.5, 1.0, 0.0], through: table, **dials)).to all_be_near([0.5, 1.0, 1.0], 1e-6)
      expect(one("table", [1.0, 0.5, 0.5], through: table, **dials)).to all_be_near([0.9, 0.25, 0.5], 1e-6)
      expect(one("table", [0.25, 0.0, 1.0], through: table, **dials)).to all_be_near([0.3, 0.0, 0.0], 1e-6)
      same =
        Formats::Cube.new(
          Kernel::Buffer.of(
            :f32, [0, 1].product([0, 1], [0, 1]).flat_map { |b, g, r| [r, g, b] }.map(&:to_f), 2, 2, 2, 3
          )
        )
      %w[linear screen video log film].each do |space|
        expect(one("table", given, through: same, **dials.merge(space: space))).to all_be_near(given, 1e-5)
      end
    end

    it "cuts a colour out and takes what it threw onto the rest" do
      stand =
        FinishHelp::Stand.new(
          shots: painted(16, 12) { |x, _| (x < 8) ? [0.08, 0.45, 0.1, 1.0] : [0.4, 0.42, 0.3, 1.0] }
        )
      image = composite([layer("one", backdrop: "never"), effect("one", "key", colour: [0.08, 0.45, 0.1])], stand)
      expect(pixel(image, 2, 2)).to all_be_near([0.0] * 4, 1e-5)
      left = pixel(image, 12, 2)
      expect(left[3]).to eq(1.0)
      expect(left[1]).to be < 0.42
    end
  end

  RSpec.describe Formats::Cube do
    it "reads what it writes, of one and of three dimensions, with the ends of where it counts" do
      one =
        Formats::Cube.new(
          Kernel::Buffer.of(:f32, [0.0, 0.1, 0.2, 0.5, 0.6, 0.7], 2, 1, 1, 3), low: [-1.0, 0.0, 0.0],
          high: [1.0, 2.0, 1.0], title: "Dusk"
        )
      back = Formats::Cube.read(one.write)
      expect([back.size, back.flat?, back.low, back.high, back.title]).to eq(
        [2, true, [-1.0, 0.0, 0.0], [1.0, 2.0, 1.0], "Dusk"]
      )
      expect(back.colours.to_a).to all_be_near([0.0, 0.1, 0.2, 0.5, 0.6, 0.7], 1e-7)
    end

    {
      "nothing" => ["# only words\n", /does not say how large/],
      "too few" => ["LUT_3D_SIZE 2\n0 0 0\n", /has 1 colours where its size of 2 asks for 8/],
      "no number" => ["LUT_1D_SIZE 2\n0 0 x\n0 0 0\n", /no number at "x" on line 2/],
      "too large" => ["LUT_3D_SIZE 500\n", /2 to 129/], "other words" => ["BEGIN\n", /says nothing known/],
      "ends swapped" => ["LUT_1D_SIZE 2\nDOMAIN_MIN 1 1 1\nDOMAIN_MAX 0 1 1\n0 0 0\n1 1 1\n", /begins where it ends/]
    }.each do |what, (text, words)|
      it "refuses a table with #{what} in a sentence" do
        expect(refusal { Formats::Cube.read(text, name: "dusk.cube") }[1]).to match(words)
      end
    end

    it "reads a film's scan by its density: black at 95, white at 685, and 18 % grey at 470" do
      undense = ->(code) { Finish::GradeKernels.undense(code / 1023.0) }
      expect([undense[95], undense[685]]).to all_be_near([0.0, 1.0], 1e-5)
      expect(undense[470]).to be_within(0.005).of(0.18)
      expect(
        [0.0, 0.02, 0.18, 1.0, 5.0].map { |x| Finish::GradeKernels.undense(Finish::GradeKernels.dense(x)) }
      ).to all_be_near([0.0, 0.02, 0.18, 1.0, 5.0], 1e-4)
    end
  end
end
