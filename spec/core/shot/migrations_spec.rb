# frozen_string_literal: true

module Vumbral
  RSpec.describe Shot::Migrations do
    def read(*nodes) =
      Shot::Document.load(JSON.generate("format" => "vumbral-shot", "version" => 1, "name" => "Old", "nodes" => nodes))

    def row(kind, dials, notches = {}, id: "#{kind}-1") =
      {"id" => id, "kind" => kind, "name" => "N", "dials" => dials, "notches" => notches}

    it "turns pushes into powers, half-lives into rates, voxels into metres, with their notches" do
      old =
        read(
          row(
            "chamber", {"voxel" => 0.1, "curl_boost" => 2.0, "stir" => 1.5, "heat_half" => 2.0, "smoke_half" => 0.0},
            {"stir" => [{"frame" => 1, "value" => 6.0}], "smoke_half" => [{"frame" => 3, "value" => 0.5}]},
            id: "chamber"
          ),
          row("prop", {}),
          row("source", {"prop" => "prop-1", "skin" => 2.0}),
          row("force", {"what" => "turbulence"}),
          row("force", {"what" => "push", "strength" => 3.0}, id: "force-2")
        )
      chamber = old.the(:chamber)
      expect(chamber[:curl_boost]).to eq(0.5)
      expect(chamber[:margin]).to be_within(1e-9).of(0.6)
      expect(chamber[:heat_fade]).to be_within(1e-6).of(Math.log(2.0) / 2.0)
      expect(chamber[:smoke_fade, 3]).to be_within(1e-6).of(Math.log(2.0) / 0.5)
      expect(chamber[:stir, 1]).to be_within(1e-6).of(2.4)
      expect(old.node("source-1")[:skin]).to be_within(1e-9).of(0.2)
      expect(old.node("force-1")[:strength]).to be_within(1e-3).of(0.462)
      expect(old.node("force-2")[:strength]).to eq(3.0)
    end

    it "reads courses by their old name, and the edits that made them" do
      data = {
        "format" => "vumbral-shot",
        "version" => 3,
        "name" => "Old",
        "nodes" => [
          row("prop", {}), row("source", {"prop" => "prop-1"}, {"smoke" => [{"frame" => 2, "value" => 3.0}]})
        ]
      }
      old = Shot::Document.load(JSON.generate(data))
      expect(old.node("source-1")[:smoke, 9]).to eq(3.0)
      expect(JSON.parse(old.to_json)["nodes"].flat_map(&:keys)).not_to include("notches")
      edits = [
        {"do" => "notch", "frame" => 5, "value" => 1.0}, {"do" => "move_notch", "frame" => 5, "to" => 6},
        {"do" => "drop_notch", "frame" => 2}
      ]
      changed = Shot::Edits.apply(old, edits.map { |edit| edit.merge("node" => "source-1", "dial" => "smoke") })[0]
      expect(changed.node("source-1").curves[:smoke].to_a).to eq([{frame: 6, value: 1.0, ease: "smooth"}])
    end

    it "leaves what was never set at what it is now, and refuses what makes no sense in a sentence" do
      expect(read(row("chamber", {}, id: "chamber")).the(:chamber)[:curl_boost]).to eq(0.5)
      expect(refusal { read(row("chamber", {"stir" => "much"}, id: "chamber")) }[1]).to include("Turbulence")
      expect(refusal { read("nodes") }[1]).to include("not an object")
      expect(
        refusal do
          Shot::Document.load(JSON.generate("format" => "vumbral-shot", "version" => 1, "name" => "Old", "nodes" => 3))
        end[
          1
        ]
      ).to include("list of nodes")
    end
  end
end
