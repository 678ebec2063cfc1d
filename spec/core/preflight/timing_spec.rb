# frozen_string_literal: true

module Vumbral
  RSpec.describe Preflight::Timing do
    def found(*edits) =
      Preflight::Survey
        .new(small_shot(edits: edits), nil)
        .findings
        .select { |finding| %w[last_doubles_first keys_outside formula_beyond].include?(finding.code) }

    def key(frame, value, dial = "turn", node = "prop-1", ease = "linear") =
      {"do" => "key", "node" => node, "dial" => dial, "frame" => frame, "value" => value, "ease" => ease}

    it "finds a last frame that doubles the first, and ends the shot a frame earlier" do
      round = found(key(1, [0.0, 0.0, 0.0]), key(8, [0.0, 360.0, 0.0]))
      expect(round.map { |finding| [finding.code, finding.dial, finding.remedy[:edits][0]["value"]] }).to eq(
        [["last_doubles_first", :turn, 7]]
      )
      expect(found(key(1, [0.0, 0.0, 0.0]), key(8, [0.0, 350.0, 0.0]))).to eq([])
      again = {"do" => "beyond", "node" => "source-1", "dial" => "strength", "after" => "again"}
      loop = [
        key(1, 0.0, "strength", "source-1"), key(4, 1.0, "strength", "source-1"), key(8, 0.0, "strength", "source-1")
      ]
      expect(found(*loop, again).map(&:code)).to eq(["last_doubles_first"])
      # What only rises and falls once is no loop.
      expect(found(*loop)).to eq([])
    end

    it "finds keys that all lie outside the shot" do
      far =
        found(
          set("general", :last, 60), key(40, 0.0, "strength", "source-1"), key(50, 1.0, "strength", "source-1"),
          set("general", :last, 8)
        )
      expect(far.map(&:text)).to match([/All keys of Feeding of Plume lie outside the shot \(1 to 8\)/])
    end

    it "finds formulas that leave what their dial can be" do
      wild = found({"do" => "formula", "node" => "source-1", "dial" => "breakup", "text" => "frame - 3"})
      expect(wild.map { |finding| [finding.node, finding.dial] }).to eq([["source-1", :breakup]])
      expect(wild[0].text).to match(/leaves what it can be at frame 1 \(0 to 1\) and is held there/)
      expect(
        found({"do" => "formula", "node" => "source-1", "dial" => "breakup", "text" => "0.5 + 0.5 * sin(t)"})
      ).to eq([])
    end
  end

  RSpec.describe Preflight::Fronts do
    def found(front, *edits) =
      Preflight::Survey
        .new(
          small_shot(
            edits: [
              *edits,
              {
                "do" => "add", "kind" => "front", "id" => "front", "name" => "Char",
                "dials" => front.transform_keys(&:to_s)
              }
            ]
          ),
          nil
        )
        .findings
        .select { |finding| finding.node == "front" || finding.code == "no_front" }

    it "finds one that begins nowhere or gets nowhere" do
      expect(found({}).map(&:text)).to match([/Char has nothing to run over/])
      expect(found({prop: "prop-1", starts: "box", box_position: [9.0, 0.0, 0.0]}).map(&:text)).to match(
        [/starts nowhere/]
      )
      expect(found({prop: "prop-1", speed: 0.0}).map(&:text)).to match([/does not get anywhere by the last frame/])
    end

    it "finds one that takes everything at once, and slows it" do
      fast = found({prop: "prop-1", speed: 40.0})
      expect(fast.map(&:code)).to eq(["front_at_once"])
      expect(fast[0].remedy[:edits][0]["value"]).to be < 2.0
      expect(found({prop: "prop-1", speed: 1.0})).to eq([])
    end

    it "finds one that cannot reach all parts of its prop" do
      apart = {
        "do" => "add",
        "kind" => "operation",
        "id" => "copies",
        "dials" => {
          "prop" => "prop-1", "what" => "copies", "spread" => "grid", "counts" => [2.0, 1.0, 1.0],
          "step" => [2.0, 1.0, 1.0]
        }
      }
      expect(found({prop: "prop-1", speed: 1.0}, apart).map(&:text)).to match([/never reaches 50 % of its prop/])
    end

    it "finds a map without its front" do
      map = {"do" => "add", "kind" => "map", "id" => "map", "dials" => {"to" => "source-1", "what" => "front"}}
      expect(found({prop: "prop-1", speed: 1.0}, map).map(&:code)).to eq(["no_front"])
    end
  end
end
