# frozen_string_literal: true

module Vumbral
  RSpec.describe Picture::SceneCourse do
    def lit(*edits)
      lamp = {"do" => "add", "kind" => "lamp", "id" => "lamp", "name" => "Lamp", "dials" => {}}
      small_shot("Lit", edits: [lamp] + edits)
    end

    def scene(document) = Picture::Renderer.scene(document, document.first_frame)

    def at(document, frame) = described_class.at(document, frame, scene(document), nil)

    def key(node, dial, frame, value) =
      {"do" => "key", "node" => node, "dial" => dial, "frame" => frame, "value" => value}

    it "does not change where nothing is keyed" do
      expect(described_class.changes?(lit)).to be(false)
      expect(at(lit, 5)).to eq({})
    end

    it "tells the parts that are others at a frame" do
      document = lit(key("lamp", "strength", 1, 2.0), key("lamp", "strength", 8, 9.0))
      expect(described_class.changes?(document)).to be(true)
      parts = at(document, 8)
      expect(parts.keys).to eq(["rig"])
      strengths = [scene(document)["rig"], parts["rig"]].map { |rig| rig["lamps"].last[4] }
      expect(strengths[1]).to be_within(1e-3).of(4.5 * strengths[0])
      brighter = lit(key("picture", "exposure", 1, 0.0), key("picture", "exposure", 8, 2.0))
      expect(at(brighter, 8)["film"].first).to be_within(1e-4).of(4.0 * scene(brighter)["film"][0])
    end

    it "changes with a lamp that goes with a prop" do
      led = lit({"do" => "set", "node" => "lamp", "dial" => "leader", "value" => "prop-1"})
      expect(described_class.changes?(led)).to be(true)
      moving = lit(key("camera", "focal", 1, 30.0), key("camera", "focal", 8, 60.0))
      expect(described_class.changes?(moving)).to be(false)
    end
  end
end
