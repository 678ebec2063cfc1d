# frozen_string_literal: true

module Vumbral
  RSpec.describe Preflight::Fogs do
    def add(kind, id, **dials) =
      {"do" => "add", "kind" => kind, "id" => id, "name" => id.capitalize, "dials" => dials.transform_keys(&:to_s)}

    def findings(*edits)
      survey = Preflight::Survey.new(small_shot(edits: edits), nil)
      described_class.new(survey).findings
    end

    it "is content with a fog in a hidden prop, and with a lamp in the open or behind holes" do
      room = add("prop", "room", shape: "box", size: [2.0, 2.0, 2.0], position: [0.0, 1.0, 0.0], shown: false)
      shell = [
        add("prop", "shell", shape: "sphere", radius: 0.5, position: [3.0, 1.0, 0.0]),
        add("operation", "pierced", prop: "shell", what: "pierce", share: 0.3)
      ]
      expect(
        findings(
          room, add("fog", "mist", fills: "prop", prop: "room"), *shell, add("lamp", "glim", position: [3.0, 1.0, 0.0]),
          add("lamp", "free", position: [0.0, 3.0, 0.0])
        )
      ).to eq([])
    end

    it "says what fills nothing, has no inside, hides its fog or cannot be seen, each with a way out" do
      expect(findings(add("fog", "mist", fills: "prop")).map(&:code)).to eq(%w[fog_nowhere])
      sheet = add("prop", "sheet", shape: "plane", size: [2.0, 1.0, 2.0])
      expect(findings(sheet, add("fog", "mist", fills: "prop", prop: "sheet")).map(&:code)).to eq(%w[fog_open])
      jar = add("prop", "jar", shape: "sphere", radius: 0.6, position: [0.0, 1.0, 0.0])
      hidden = findings(jar, add("fog", "mist", fills: "prop", prop: "jar"))[0]
      expect(hidden.text).to eq("Jar is opaque and hides Mist inside it.")
      expect(hidden.remedy[:edits]).to eq([{"do" => "set", "node" => "jar", "dial" => "shown", "value" => false}])
      expect(findings(add("fog", "mist", thickness: 0.0))[0].text).to match(/cannot be seen: its thickness is 0/)
    end

    it "says which fogs and beams are too many" do
      fogs = (1..13).map { |n| add("fog", "fog-#{n}", thickness: 0.01) }
      expect(findings(*fogs).map(&:text)).to eq(
        ["A picture shows 12 fogs and beams at most, so Fog-13 cannot be seen; let some go."]
      )
    end

    it "finds a lamp that a closed prop keeps to itself, unless it casts no shadows" do
      jar = add("prop", "jar", shape: "sphere", radius: 0.6, position: [0.0, 1.0, 0.0])
      expect(findings(jar, add("lamp", "glim", position: [0.1, 1.1, 0.0]))[0].text).to eq(
        "Glim stands inside Jar, which lets none of its light out."
      )
      expect(findings(jar, add("lamp", "glim", position: [0.1, 1.1, 0.0], shadows: false))).to eq([])
      expect(findings(jar, add("lamp", "glim", position: [0.1, 1.1, 0.0], radius: 0.9))).to eq([])
    end
  end
end
