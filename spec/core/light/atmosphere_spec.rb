# frozen_string_literal: true

module Vumbral
  RSpec.describe Light::Atmosphere do
    def sunlight(haze, degrees) = described_class.sunlight(haze, Math.sin(degrees * Math::PI / 180))

    def table(haze, degrees) = described_class.table(haze, Math.sin(degrees * Math::PI / 180)).each_slice(6).to_a

    # What is seen at a row over the horizon, in the middle of its columns, without what haze throws ahead.
    def aside(haze, degrees, row) = table(haze, degrees)[row * described_class::COLUMNS + 8].first(3)

    it "lets as much of an overhead sun through as the depth of its layers says" do
      # Molecules thin by 1/e in 8 km, ozone is a tent 30 km wide.
      expected = [0.00884, 0.01365, 0.0268].zip([0.00255, 0.001881, 0.00022]).map { |molecules, ozone|
        Math.exp(-8.0 * molecules - 15.0 * ozone)
      }
      sunlight(1.0, 90).zip(expected) { |found, right| expect(found).to be_within(0.004).of(right) }
      # Haze adds its own layer of 1.2 km, most in blue.
      hazy = sunlight(3.0, 90).zip(expected).map { |found, clear| -Math.log(found / clear) }
      expect(hazy[1]).to be_within(0.02).of(2 * described_class::HAZE * 1.2)
      expect(hazy).to eq(hazy.sort)
    end

    it "takes as much of a lower sun as the air mass says (Kasten & Young 1989)" do
      {60 => 1.154, 30 => 1.994, 10 => 5.586, 5 => 10.305}.each do |height, mass|
        depth = ->(degrees) { -Math.log(sunlight(1.0, degrees)[2]) }
        # Ozone stands higher than the rest and takes next to nothing of blue.
        expect(depth.call(height) / depth.call(90)).to be_within(0.03 * mass).of(mass)
      end
    end

    it "turns a low sun orange, and gives nothing of one that has set" do
      expect(sunlight(2.5, 4).each_cons(2)).to all(satisfy { |more, less| more > 1.5 * less })
      expect(sunlight(2.5, -2)).to all(be < 1e-9)
    end

    it "is blue above and pale at the horizon by day, and blue above after sunset" do
      zenith, horizon = aside(2.0, 35, 23), aside(2.0, 35, 1)
      expect(zenith[2] / zenith[0]).to be_between(1.7, 3.5)
      expect(horizon[2] / horizon[0]).to be_between(0.95, 1.4)
      expect(horizon[1]).to be > 2 * zenith[1]
      dusk = aside(2.0, -5, 23)
      expect(dusk[2]).to be > 2.0 * dusk[0]
      expect(dusk[1]).to be_between(dusk[0], dusk[2])
      # Where the sun went down it is warmer than across from there.
      toward, opposite = [0, 15].map { |column| table(2.0, -5)[5 * described_class::COLUMNS + column] }
      expect(toward[0] / toward[2]).to be > 1.2 * opposite[0] / opposite[2]
    end

    it "gives out no more light than the sun brings, most of it straight on clear days" do
      [[1.5, 0.04..0.2], [3.0, 0.15..0.6]].each do |haze, share|
        sky = Light::Sky.of({"model" => "clear", "strength" => 1.0, "colour" => [1.0] * 3, "below" => [0.0] * 3,
          "haze" => haze, "fade" => 0.0, "background" => [0.0] * 3, "sun" => [0.0, Math.sin(0.9), Math.cos(0.9)]})
        # The gain brings the sky's light on a level sheet to 1.
        straight = sunlight(haze, 0.9 * 180 / Math::PI)[1] * Math.sin(0.9)
        expect(1.0 / sky[29] / straight).to be_between(share.first, share.last)
        expect(1.0 / sky[29] + straight).to be < Math.sin(0.9)
      end
    end

    it "keeps a sky that was asked for before" do
      expect(described_class.table(2.25, 0.3)).to equal(described_class.table(2.25, 0.3))
    end
  end

  RSpec.describe Light::Rig do
    def sun(**dials)
      edits = [
        {"do" => "add", "kind" => "sun", "name" => "Sun", "id" => "sun-1", "dials" => dials.transform_keys(&:to_s)}
      ]
      described_class.settings(Shot::Edits.apply(Shot::Document.blank("Yard"), edits)[0], 1)["lamps"][0]
    end

    it "colours a sun as the air does, as strong as before until it sets" do
      plain, aired = sun(height: 6.0, colour: [1.0] * 3), sun(height: 6.0, colour: [1.0] * 3, aired: true)
      luminance = ->(row) { row[4, 3].zip([0.2126, 0.7152, 0.0722]).sum { |c, part| c * part } }
      expect(luminance.call(aired)).to be_within(0.01).of(luminance.call(plain))
      expect(aired[4] / aired[6]).to be > 3
      expect(sun(height: -3.0, aired: true)[4, 3]).to all(be < 1e-9)
      expect(sun(height: -3.0)[4, 3]).to all(be > 1.0)
    end
  end
end
