# frozen_string_literal: true

module Vumbral
  RSpec.describe Picture::ParticleCopies do
    def shot(**dials)
      small_shot(
        edits: [
          set("prop-1", :shown, false),
          set("general", :last, 24),
          {
            "do" => "add",
            "kind" => "emitter",
            "id" => "leaves",
            "dials" => {
              "rate" => 48.0, "life" => 1.0, "shows" => "prop-1", "position" => [0.0, 1.0, 0.0],
              **dials.transform_keys(&:to_s)
            }
          }
        ]
      )
    end

    it "stands where the particles are, and moves with them within a frame" do
      document = shot
      copies = described_class.new(document, nil)
      found = copies.at(12)
      expect(found.size).to be_between(18, 26)
      alive = Particles::Swarm.new(Geometry::Throws.new(document, "leaves"), nil).alive(12, 11)
      expect(found.map { |prop| prop["body"]["to"]["position"] }).to match_array(alive.map { |row| row[0, 3] })
      expect(found.map { |prop| prop["body"]["from"]["position"] }).to match_array(alive.map { |row| row[3, 3] })
      expect(found.map { |prop| prop["body"]["to"]["turn"] }.uniq.size).to eq(found.size)
      expect(described_class.new(document, nil).at(12)).to eq(found)
    end

    it "comes, is as large as told, and goes" do
      sizes =
        described_class
          .new(shot(copy_size: 0.5, copy_vary: 0.0, copy_fade: 0.5), nil)
          .at(20)
          .map { |prop| prop["body"]["to"]["scale"][0] }
      expect(sizes.max).to be_within(1e-6).of(0.5)
      expect(sizes.min).to be < 0.25
    end

    it "has none without a prop" do
      expect(described_class.new(shot(shows: nil), nil).any?).to be(false)
      expect(described_class.new(shot(shows: nil), nil).at(5)).to eq([])
    end

    it "is seen in pictures" do
      with_workshop do |workshop|
        document = shot(copy_size: 0.15)
        expect(workshop.painting.settings(document, 12)["props"].count { |prop| prop["prop"] == "prop-1" }).to be > 10
        bare, covered =
          [shot(shows: nil), document].map do |one|
            workshop.painting.of(Picture::Renderer.sharp(workshop.painting.settings(one, 12)), nil, [48, 27]).to_a
          end
        expect(covered.zip(bare).count { |a, b| (a - b).abs > 0.01 }).to be > 20
      end
    end
  end
end
