# frozen_string_literal: true

module Vumbral
  RSpec.describe Shot::Varied do
    def row(**dials) =
      small_shot(
        edits: [
          set("source-1", :copies, 5), set("source-1", :step_frames, 2.0),
          *dials.map { |dial, value| set("source-1", dial, value) }
        ]
      )

    def sources(document, frame) = Flow::Sources.new(Gas::Plan.new(document, :full), frame, Gas::Plan::FEED).to_a

    def smoke(document, frame = 20) = sources(document, frame).map { |source| source["smoke"] }

    it "lets any dial of the copies vary, each its own way and always the same" do
      even, varied =
        row,
        row(
          varied: [{"dial" => "smoke", "by" => 0.3}, {"dial" => "velocity", "by" => 0.5}], velocity: [0.0, 2.0, 0.0]
        )
      expect(smoke(even).uniq.size).to eq(1)
      expect(smoke(varied).uniq.size).to eq(5)
      expect(smoke(varied)).to all(be_between(0.7 * smoke(even)[0], 1.3 * smoke(even)[0]))
      expect(smoke(varied)).to eq(smoke(row(varied: [{"dial" => "smoke", "by" => 0.3}])))
      speeds = sources(varied, 20).map { |source| source["velocity"] }
      expect(speeds.map { |speed| speed[1] }).to all(be_between(1.0, 3.0))
      expect(speeds.map { |speed| speed.values_at(0, 2) }.uniq).to eq([[0.0, 0.0]])
    end

    it "stays within what a dial allows" do
      expect(
        sources(row(breakup: 1.0, varied: [{"dial" => "breakup", "by" => 1.0}]), 20).map do |source|
          source["breakup"]
        end
      ).to all(be_between(0.0, 1.0))
    end

    it "lets a hand set one copy: what it feeds, how strongly, where and when" do
      by_hand =
        [["smoke", 9.0], ["strength", 3.0], ["step_place", [0.0, 2.0, 0.0]], ["step_frames", 15.0]].map do |dial, value|
          {"copy" => 3, "dial" => dial, "value" => value}
        end
      document = row(overrides: by_hand)
      expect(sources(document, 12).map { |source| source["copy"] }).to eq([0, 1, 3, 4])
      late = sources(document, 16)
      expect(late.map { |source| source["smoke"] }.tally).to eq({4.0 => 4, 9.0 => 1})
      third = late.find { |source| source["copy"] == 2 }
      expect(third["strength"]).to eq(3.0)
      expect(third["bodies"][0]["to"]["position"][1]).to be_within(1e-9).of(
        late[0]["bodies"][0]["to"]["position"][1] + 2.0
      )
    end

    it "keeps one value for each dial of a copy, the newest" do
      document =
        row(
          overrides: [
            {"copy" => 2, "dial" => "smoke", "value" => 1.0}, {"copy" => 2, "dial" => "smoke", "value" => 2.0}
          ]
        )
      expect(document.node("source-1")[:overrides]).to eq([{"copy" => 2, "dial" => "smoke", "value" => 2.0}])
    end

    it "refuses what is no dial, no copy or out of range in one sentence" do
      expect { row(varied: [{"dial" => "colours", "by" => 0.3}]) }.to raise_error(
        Refused, /has no dial "colours" to change; there are: skin/
      )
      expect { row(varied: [{"dial" => "smoke", "by" => 4}]) }.to raise_error(
        Refused, /cannot vary by 4; it goes from 0 to 1/
      )
      expect { row(overrides: [{"copy" => 0, "dial" => "smoke", "value" => 1.0}]) }.to raise_error(
        Refused, /counts copies from 1/
      )
      expect { row(overrides: [{"copy" => 2, "dial" => "smoke", "value" => -1.0}]) }.to raise_error(
        Refused, /Smoke of copy 2 of .* cannot be -1/
      )
      expect { row(overrides: "all") }.to raise_error(Refused, /takes a list/)
    end
  end
end
