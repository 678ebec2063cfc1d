# frozen_string_literal: true

module Vumbral
  RSpec.describe Shot::Formula do
    # At the middle of a box of 2 m, frame 12, half a second.
    def value(text, before: 0.5)
      out = Kernel::Buffer.new(:f32, 1, 1, 1).fill(before)
      Shot::FormulaKernels.evaluate(out, described_class.new(text).program, setting)
      out[0, 0, 0]
    end

    def setting
      described_class.setting(
        frame: 12, time: 0.5, seed: 3, first: [1.0, 0.5, -0.25], voxel: 0.1, low: [0.0, 0.0, -1.0],
        size: [2.0, 2.0, 2.0]
      )
    end

    def divisions(text, *size)
      Shot::FormulaKernels.divisions_by_nothing(described_class.new(text).program, setting,
        Kernel::Buffer.of(:i32, size)).to_i
    end

    it "counts the places in which something is divided by nothing" do
      expect(divisions("1 / (x - 1)", 2, 3, 4)).to eq(6)
      expect(divisions("y % (x - 1) + 1 / (x - 1)", 2, 3, 4)).to eq(6)
      expect(divisions("(z - z) ^ (-1)", 2, 2, 2)).to eq(8)
      expect(divisions("1 / (x + 1)", 2, 3, 4)).to eq(0)
      expect(divisions("1 / 0", 0, 3, 4)).to eq(0)
    end

    it "knows what depends on the place, and what divides" do
      expect(%w[x+1 t u*v 1].map { |text| described_class.new(text).spatial? }).to eq([true, false, true, false])
      expect(["1/2", "x % 2", "x^2", "x*2"].map { |text| described_class.new(text).divides? }).to eq(
        [true, true, true, false]
      )
    end

    {
      "1 + 2 * 3" => 7.0, "(1 + 2) * 3" => 9.0, "2 ^ 3 ^ 2" => 512.0, "-2 ^ 2" => -4.0, "7 % 4 - 5 / 2" => 0.5,
      "10 - 3 - 2" => 5.0, "1e2 + .5" => nil, "x + y * z" => 0.875, "u + v + w" => 0.5 + 0.25 + 0.375,
      "frame + t" => 12.5, "value * 4" => 2.0, "seed" => 3.0, "if(x > 0 and y < 0.6, 3, 4)" => 3.0,
      "if(x <= 0.9 or y == 0.2, 3, 4)" => 4.0, "sin(0) + cos(0)" => 1.0, "abs(-3) + sqrt(16) + floor(2.7)" => 9.0,
      "exp(0)" => 1.0, "min(3, max(1, 2))" => 2.0, "clamp(9, 0, 4)" => 4.0, "mix(2, 6, 0.25)" => 3.0,
      "smooth(0, 1, 0.5)" => 0.5, "mod(-1, 4)" => 3.0, "1 / 0" => 0.0, "sqrt(-4)" => 0.0, "(-2) ^ 3" => -8.0,
      "0 ^ 0" => 1.0
    }.each do |text, wanted|
      next unless wanted

      it("makes #{wanted} of #{text}") { expect(value(text)).to be_within(1e-4 * [wanted.abs, 1.0].max).of(wanted) }
    end

    it "knows noise, and whether it moves" do
      expect(value("noise(3 * x, y, z)")).to be_between(-1.0, 1.0)
      expect([described_class.new("x + 1").moves?, described_class.new("sin(t)").moves?]).to eq([false, true])
    end

    {
      "1 +" => /does not read as a formula at character 3/, "" => /does not read as a formula at character 1/,
      "2 ** 3" => /at character \d/, "(1 + 2" => /at character 7/,
      "speed + 1" => /uses speed at character 1, but there are only: frame, t, x, y, z/,
      "1 + system(2)" => /calls system at character 5, but there are only: if, sin/,
      "mix(1, 2)" => /gives mix 2 numbers at character 1; it takes 3/, "`ls`" => /at character 1/,
      "x; y" => /at character 2/, "#{"(" * 40}1#{")" * 40}" => nil, ("1+" * 600 + "1") => /longer than 1000 characters/,
      ("sin(" * 60 + "1" + ")" * 60) => /nested too deeply/
    }.each do |text, message|
      next unless message

      it("refuses #{text[0, 30].inspect} with its place") do
        expect(refusal { described_class.new(text) }).to match(["bad_formula", message])
      end
    end

    it "is checked when it is typed, before anything runs" do
      expect(refusal { Shot::Edits.apply(small_shot, [set("source-1", :formula, "sin(")]) }).to match(
        ["bad_formula", /at character/]
      )
    end
  end
end
