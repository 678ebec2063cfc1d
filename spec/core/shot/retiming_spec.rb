# frozen_string_literal: true

module Vumbral
  RSpec.describe Shot::Retiming do
    def key(frame, value, dial = "strength", node = "source-1", **more)
      {"do" => "key", "node" => node, "dial" => dial, "frame" => frame, "value" => value, **more.transform_keys(&:to_s)}
    end

    def retime(document, **edit) = Shot::Edits.apply(document, [{"do" => "retime", **edit.transform_keys(&:to_s)}])[0]

    def frames(document, node = "source-1", dial = :strength) = document.node(node).keyed(dial).keys.map(&:frame)

    let(:shot) do
      small_shot(
        edits: [
          set("general", :last, 60), set("source-1", :first, 10), set("source-1", :last, 20), key(10, 0.0),
          key(14, 2.0), key(20, 0.0)
        ]
      )
    end
    let(:source) { {"node" => "source-1"} }

    it "moves a thing's keys with its first and last frame" do
      later = retime(shot, rows: [source], by: 5)
      expect([frames(later), later.node("source-1")[:first], later.node("source-1")[:last]]).to eq(
        [[15, 19, 25], 15, 25]
      )
    end

    it "stretches about a frame, and makes what it stretches less steep" do
      steep = Shot::Edits.apply(shot, [key(14, 2.0, leave: 1.0)])[0]
      wide = retime(steep, rows: [source], stretch: 2.0, about: 10)
      expect(frames(wide)).to eq([10, 18, 30])
      expect(wide.node("source-1").keyed(:strength).keys[1].leave).to eq(0.5)
      expect(wide.node("source-1")[:last]).to eq(30)
    end

    it "moves only what comes after a frame" do
      expect(frames(retime(shot, rows: [source], from: 12, by: 7))).to eq([10, 21, 27])
    end

    it "moves single keys, and a row alone where its dial is named" do
      expect(frames(retime(shot, keys: [{"node" => "source-1", "dial" => "strength", "frame" => 14}], by: 3))).to eq(
        [10, 17, 20]
      )
      alone = retime(shot, rows: [source.merge("dial" => "strength")], by: 1)
      expect([frames(alone), alone.node("source-1")[:first]]).to eq([[11, 15, 21], 10])
    end

    it "staggers rows evenly, or at random after a seed" do
      five = (2..5).reduce(shot) do |at, n|
        Shot::Edits.apply(
          at, [{"do" => "add", "kind" => "source", "id" => "source-#{n}", "dials" => {"first" => 10, "last" => 12}}]
        )[
          0
        ]
      end
      rows = (1..5).map { |n| {"node" => "source-#{n}"} }
      firsts = ->(document) { (1..5).map { |n| document.node("source-#{n}")[:first] } }
      expect(firsts.call(retime(five, rows: rows, step: 4))).to eq([10, 14, 18, 22, 26])
      loose = retime(five, rows: rows, loose: 6, seed: 3)
      expect(firsts.call(loose).uniq.size).to be > 2
      expect(firsts.call(loose)).to all(be_between(4, 16))
      expect(firsts.call(retime(five, rows: rows, loose: 6, seed: 3))).to eq(firsts.call(loose))
      expect(firsts.call(retime(five, rows: rows, loose: 6, seed: 4))).not_to eq(firsts.call(loose))
    end

    it "leaves what lasts to the end lasting to the end" do
      open = Shot::Edits.apply(shot, [set("source-1", :last, 0)])[0]
      expect(retime(open, rows: [source], by: 5).node("source-1")[:last]).to eq(0)
    end

    it "lets a row of charges keep its pace" do
      row = Shot::Edits.apply(shot, [set("source-1", :copies, 3), set("source-1", :step_frames, 4.0)])[0]
      expect(retime(row, rows: [source], by: 5).node("source-1")[:step_frames]).to eq(4.0)
      expect(retime(row, rows: [source], stretch: 1.5, about: 10).node("source-1")[:step_frames]).to eq(6.0)
    end

    it "refuses what would lay keys on each other or take them out of the shot" do
      {
        {rows: [source], stretch: 0.05} => /would both come to frame/,
        {rows: [source], by: 100} => /outside the shot \(1 to 60\)/,
        {rows: []} => /list of rows or of keys/,
        {rows: [source], by: "much"} => /by is a number/,
        {
          keys: [{"node" => "source-1", "dial" => "strength", "frame" => 14}], by: 6
        } =>
          /would both come to frame 20/
      }.each { |edit, words| expect(refusal { retime(shot, **edit) }&.last).to match(words) }
    end

    it "changes the shot's rate and length, with all that is timed or without" do
      pace = ->(**edit) { Shot::Edits.apply(shot, [{"do" => "pace", **edit.transform_keys(&:to_s)}])[0] }
      plain = pace.call(rate: 48.0)
      expect([plain.rate, plain.last_frame, frames(plain)]).to eq([48.0, 60, [10, 14, 20]])
      both = pace.call(rate: 48.0, stretch: true)
      expect([both.rate, both.last_frame, frames(both), both.node("source-1")[:last]]).to eq(
        [48.0, 119, [19, 27, 39], 39]
      )
      longer = pace.call(last: 119, stretch: true)
      expect([longer.rate, longer.last_frame, frames(longer)]).to eq([24.0, 119, [19, 27, 39]])
      expect(
        refusal { Shot::Edits.apply(small_shot, [{"do" => "pace", "rate" => 1.0, "stretch" => true}]) }&.last
      ).to match(/no second frame/)
      expect(refusal { pace.call(rate: 0) }&.last).to match(/from 1 to 240/)
    end
  end
end
