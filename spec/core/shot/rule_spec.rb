# frozen_string_literal: true

module Vumbral
  RSpec.describe Shot::Rule do
    def formula(node, dial, text, part = nil) =
      {"do" => "formula", "node" => node, "dial" => dial.to_s, "text" => text, "part" => part}.compact

    def shot(*edits) = small_shot(edits: edits)

    def value(document, node, dial, *frames) = frames.map { |frame| document.node(node)[dial, frame] }

    it "goes by the frame, by seconds since the first and by what was there before" do
      document =
        shot(
          set("source-1", :smoke, 3.0), formula("source-1", :smoke, "value + frame / 2"),
          formula("chamber", :lift, "10 * t")
        )
      expect(value(document, "source-1", :smoke, 1, 4)).to eq([3.5, 5.0])
      expect(value(document, "chamber", :lift, 1, 13)).to match([0.0, be_within(1e-5).of(5.0)])
      # What is asked without a frame is as on the first.
      expect(document.node("source-1")[:smoke]).to eq(3.5)
    end

    it "goes on where its keys lead" do
      keys =
        [[1, 1.0], [5, 3.0]].map do |frame, value|
          {
            "do" => "key", "node" => "source-1", "dial" => "strength", "frame" => frame, "value" => value,
            "ease" => "linear"
          }
        end
      document = shot(*keys, formula("source-1", :strength, "2 * value"))
      expect(value(document, "source-1", :strength, 1, 3, 5)).to eq([2.0, 4.0, 6.0])
      off = Shot::Edits.apply(document, [formula("source-1", :strength, nil)])[0]
      expect(value(off, "source-1", :strength, 1, 3, 5)).to eq([1.0, 2.0, 3.0])
    end

    it "asks for other dials by id or name, by dial or label, and keeps them by id" do
      document =
        shot(
          set("source-1", :smoke, 6.0), set("prop-1", :position, [1.0, 2.0, 3.0]),
          formula("chamber", :lift, "[plume.smoke] / 2 + [prop-1.Position.y]"),
          formula("source-1", :fuel, "[Chamber.Thermal lift]")
        )
      expect(value(document, "chamber", :lift, 1)).to eq([5.0])
      expect(value(document, "source-1", :fuel, 1)).to eq([5.0])
      expect(document.node("chamber").to_h[:formulas]).to eq(lift: "[source-1.smoke] / 2 + [prop-1.position.y]")
    end

    it "takes one part of a vector and leaves the others as they go" do
      document = shot(set("prop-1", :position, [1.0, 2.0, 3.0]), formula("prop-1", :position, "frame", "y"))
      expect(value(document, "prop-1", :position, 1, 6)).to eq([[1.0, 1.0, 3.0], [1.0, 6.0, 3.0]])
      moved = Shot::Edits.apply(document, [set("prop-1", :position, [5.0, 9.0, 3.0])])[0]
      expect(value(moved, "prop-1", :position, 6)).to eq([[5.0, 6.0, 3.0]])
      expect(Geometry::Bodies.of(moved, moved.node("prop-1"), 6)["from"]["position"]).to eq([5.0, 5.0, 3.0])
      back = Shot::Edits.apply(document, [set("prop-1", :position, [0.0, 0.0, 0.0])])[0]
      expect(back.node("prop-1").curves).to eq({})
    end

    it "switches by what is not nothing, and counts in whole numbers where there are no others" do
      document = shot(formula("prop-1", :shown, "frame > 3"), formula("prop-1", :divisions, "2.6"))
      expect(value(document, "prop-1", :shown, 3, 4)).to eq([false, true])
      expect(document.node("prop-1")[:divisions]).to eq(3)
    end

    it "never leaves what its dial can be, and says where it would" do
      document = shot(formula("source-1", :breakup, "frame - 3"))
      expect(value(document, "source-1", :breakup, 1, 3, 8)).to eq([0.0, 0.0, 1.0])
      expect([1, 3, 8].map { |frame| document.node("source-1").rule(:breakup).beyond?(frame) }).to eq(
        [true, false, true]
      )
    end

    it "is saved and read with the shot, and removed with what it asks for" do
      document = shot(formula("chamber", :lift, "[source-1.smoke] / 4"), formula("prop-1", :turn, "frame", "z"))
      again = Shot::Document.load(document.to_json)
      expect(again).to eq(document)
      expect(value(again, "chamber", :lift, 3)).to eq([1.0])
      gone = Shot::Edits.apply(document, [{"do" => "remove", "node" => "source-1"}])[0]
      expect([gone.node("chamber").curves, gone.node("chamber")[:lift]]).to eq([{}, 1.0])
    end

    it "goes along when its thing is copied" do
      document = shot(formula("source-1", :smoke, "frame"))
      twin = {
        "do" => "add",
        "kind" => "source",
        "id" => "twin",
        "formulas" => document.node("source-1").to_h[:formulas].transform_keys(&:to_s),
        "beyond" => {},
        "keys" => {
          "fuel" => [{"frame" => 1, "value" => 1.0}, {"frame" => 4, "value" => 2.0}]
        }
      }
      expect(value(Shot::Edits.apply(document, [twin])[0], "twin", :smoke, 7)).to eq([7.0])
    end

    it "refuses with one sentence what cannot be, and changes nothing" do
      document = shot(formula("source-1", :smoke, "[source-1.fuel] + 1"))
      {
        formula("source-1", :fuel, "2 * [source-1.smoke]") =>
          /asks for itself \(source-1.smoke → source-1.fuel → source-1.smoke\)/,
        formula("source-1", :smoke, "[source-1.smoke]") => /asks for itself/,
        formula("source-1", :smoke, "[nobody.smoke]") => /names nothing in this shot/,
        formula("source-1", :smoke, "[source-1.nothing]") => /names no number of Plume; it has: /,
        formula("source-1", :smoke, "[prop-1.position]") => /say which part: \[prop-1.position.x\]/,
        formula("source-1", :smoke, "x + 1") => /asks for a place, but this has none/,
        formula("source-1", :smoke, "1 +") => /does not read as a formula at character/,
        formula("source-1", :smoke, 7) => /a line of text/,
        formula("prop-1", :position, "1") => /needs a part \(x, y, z\)/,
        formula("prop-1", :shape, "1") => /cannot go by a formula/,
        formula("general", :rate, "24") => /cannot go by a formula/,
        formula("prop-1", :radius, "t") => /cannot change over time/
      }.each { |edit, words| expect(refusal { Shot::Edits.apply(document, [edit]) }&.last).to match(words) }
    end

    it "is told among what differs, as it is written" do
      before = shot
      line = Studio::Differences.line(before, Shot::Edits.apply(before, [formula("source-1", :smoke, "frame / 2")])[0])
      expect(line).to eq("Smoke 4 per s → = frame / 2")
    end

    it "leaves formulas over fields without other dials" do
      expect(refusal { Shot::Formula.new("[source-1.smoke]") }&.last).to match(/only a formula of a dial/)
    end
  end
end
