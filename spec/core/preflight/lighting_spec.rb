# frozen_string_literal: true

module Vumbral
  RSpec.describe Preflight::Lighting do
    def findings(*edits) = described_class.new(Preflight::Survey.new(small_shot(edits: edits), nil)).findings

    # The codes that are left once a finding's remedy is taken.
    def after(*edits)
      document = small_shot(edits: edits)
      document =
        Shot::Edits.apply(
          document, described_class.new(Preflight::Survey.new(document, nil)).findings[0].remedy[:edits]
        )[
          0
        ]
      described_class.new(Preflight::Survey.new(document, nil)).findings
    end

    it "is content where something shines on something" do
      expect(findings).to eq([])
    end

    it "says where a look goes by what the run does not tell, and has the chamber tell it" do
      [["coloured_by", "age"], ["fire_by", "age_ramp"], ["fire_by", "burning_ramp"]].each do |dial, by|
        expect(findings(set("look", dial.to_sym, by)).map { |found| [found.code, found.dial.to_s] }).to eq(
          [["untold", dial]]
        )
        expect(after(set("look", dial.to_sym, by))).to eq([])
      end
    end

    it "says that all is dark, that smoke cannot be seen, and that pictures were not brought, each with a way out" do
      dark = [set("sun-1", :strength, 0.0), set("sky", :strength, 0.0), set("look", :fire, 0.0)]
      cases = {
        "dark" => dark,
        "clear" => [set("look", :thickness, 0.0), set("look", :fire, 0.0)],
        "no_sky_picture" => [set("sky", :model, "picture")],
        "no_texture_picture" => [
          {"do" => "add", "kind" => "texture", "id" => "tiles", "name" => "Tiles", "dials" => {"what" => "picture"}}
        ]
      }
      cases.each do |code, edits|
        expect(findings(*edits).map(&:code)).to eq([code])
        expect(after(*edits)).to eq([])
      end
      expect(findings(*cases["no_texture_picture"])[0].text).to eq(
        "Tiles goes by a picture, but none was brought; until then it is even."
      )
    end
  end
end
