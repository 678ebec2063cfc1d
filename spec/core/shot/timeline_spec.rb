# frozen_string_literal: true

module Vumbral
  RSpec.describe Shot::Timeline do
    def key(node, dial, frame, value, ease = "linear")
      {"do" => "key", "node" => node, "dial" => dial.to_s, "frame" => frame, "value" => value, "ease" => ease}
    end

    def row(node, dial, *edits)
      described_class.new(small_shot(edits: edits)).rows.find { |found| found[:node] == node && found[:dial] == dial }
    end

    def values(...) = row(...)[:values]

    it "has a row for each source and force, and for each dial that changes" do
      rows = described_class.new(small_shot(edits: [key("chamber", :lift, 3, 0.5),
        {"do" => "add", "kind" => "force", "id" => "wind", "name" => "Draught"}])).rows
      expect(rows.map { |found| [found[:node], found[:dial], found[:name], found[:tint]] }).to contain_exactly(
        ["source-1", :strength, "Plume",
          "smoke"], ["chamber", :lift, "Chamber: thermal lift", "speed"], ["wind", :strength, "Draught", "speed"]
      )
      expect(rows.map { |found| found[:values].size }.uniq).to eq([8])
    end

    it "goes straight, held and smooth between keys, and stands still outside" do
      straight = values("source-1", :strength, key("source-1", :strength, 2, 1.0),
        key("source-1", :strength, 6, 3.0))
      expect(straight).to eq([1.0, 1.0, 1.5, 2.0, 2.5, 3.0, 3.0, 3.0])
      held = values("source-1", :strength, key("source-1", :strength, 2, 1.0, "held"),
        key("source-1", :strength, 6, 3.0))
      expect(held).to eq([1.0, 1.0, 1.0, 1.0, 1.0, 3.0, 3.0, 3.0])
      smooth = values("source-1", :strength, key("source-1", :strength, 2, 1.0, "smooth"),
        key("source-1", :strength, 6, 3.0, "smooth"))
      expect(smooth).to eq([1.0, 1.0, 1.3125, 2.0, 2.6875, 3.0, 3.0, 3.0])
    end

    it "is nothing before, after and between what is on" do
      expect(values("source-1", :strength, set("source-1", :first, 3),
        set("source-1", :last, 5))).to eq([0, 0, 1, 1, 1, 0, 0, 0])
      force = {"do" => "add", "kind" => "force", "id" => "wind", "name" => "Draught",
               "dials" => {"strength" => 4.0, "first" => 7}}
      expect(values("wind", :strength, force)).to eq([0, 0, 0, 0, 0, 0, 4, 4])
    end

    it "shows of a row of charges the strongest at each frame, each later and stronger by its share" do
      edits = [set("source-1", :last, 1), set("source-1", :copies, 3), set("source-1", :step_frames, 2.0),
        set("source-1", :step_strength, 2.0)]
      expect(values("source-1", :strength, *edits)).to eq([1, 0, 2, 0, 4, 0, 0, 0])
      varied = values("source-1", :strength, *edits, set("source-1", :vary, 0.5))
      expect(varied.values_at(0, 2, 4).zip([1, 2, 4])).to all(
        satisfy { |is, plain| is != plain && is.between?(0.5 * plain, 1.5 * plain) }
      )
      expect(varied).to eq(values("source-1", :strength, *edits, set("source-1", :vary, 0.5)))
    end

    it "lets the keys of a charge go along with it" do
      edits = [key("source-1", :strength, 1, 0.0), key("source-1", :strength, 3, 2.0), set("source-1", :last, 3),
        set("source-1", :copies, 2), set("source-1", :step_frames, 4.0)]
      expect(values("source-1", :strength, *edits)).to eq([0.0, 1.0, 2.0, 0.0, 0.0, 1.0, 2.0, 0.0])
    end

    it "measures how far a place has gone from its first, and keeps the places" do
      found = row("prop-1", :position, key("prop-1", :position, 1, [0.0, 0.0, 0.0]),
        key("prop-1", :position, 5, [3.0, 4.0, 0.0]))
      expect(found[:values]).to eq([0.0, 1.25, 2.5, 3.75, 5.0, 5.0, 5.0, 5.0])
      expect([found[:raw][2], found[:peak], found[:tint]]).to eq([[1.5, 2.0, 0.0], 5.0, "fog"])
    end

    it "draws switches as on and off" do
      found = row("prop-1", :shown, key("prop-1", :shown, 1, true), key("prop-1", :shown, 4, false))
      expect([found[:values], found[:raw].first]).to eq([[1.0, 1.0, 1.0, 0.0, 0.0, 0.0, 0.0, 0.0], true])
    end

    it "never divides by a peak of nothing" do
      expect(row("source-1", :strength, set("source-1", :strength, 0.0))[:peak]).to be_positive
    end

    it "tells the keys with their ease" do
      found = row("chamber", :lift, key("chamber", :lift, 4, 0.5, "held"), key("chamber", :lift, 2, 1.5, "smooth"))
      expect(found[:keys]).to eq([{frame: 2, value: 1.5, ease: "smooth"}, {frame: 4, value: 0.5, ease: "held"}])
    end
  end

  RSpec.describe Shot::Timing do
    def node(**dials) = small_shot(edits: dials.map { |dial, value| set("source-1", dial, value) }).node("source-1")

    it "is on from the first frame to the last, and to the end where the last is 0" do
      expect((0..6).map { |frame| described_class.on?(node(first: 2, last: 4), frame) }).to eq(
        [false, false, true, true, true, false, false]
      )
      expect([1, 10_000].map { |frame| described_class.on?(node(first: 2), frame) }).to eq([false, true])
      expect(described_class.on?(node(first: 2, last: 4), 1.99)).to be(false)
    end

    it "scatters copies in time, the same each time" do
      loose = node(last: 1, copies: 8, step_frames: 10.0, scatter_frames: 4.0)
      begins = (0...8).map { |n| (-10..90).find { |frame| described_class.copy_strength(loose, n, frame).positive? } }
      off = begins.each_with_index.map { |frame, n| frame - 1 - 10 * n }
      expect(off).to all(be_between(-4, 4))
      expect(off.uniq.size).to be > 3
      expect(begins).to eq(
        (0...8).map { |n| (-10..90).find { |frame| described_class.copy_strength(loose, n, frame).positive? } }
      )
    end

    it "gives copies backwards in time too" do
      back = node(first: 5, last: 5, copies: 3, step_frames: -2.0)
      expect((1..6).map { |frame| described_class.strength(back, frame) }).to eq([1.0, 0.0, 1.0, 0.0, 1.0, 0.0])
    end

    it "makes the middle of a row strongest, and scatters its places the same way every time" do
      row = node(copies: 5, step_frames: 0.0, step_middle: 3.0)
      expect((0..4).map { |n| described_class.copy_strength(row, n, 1) }).to eq([1.0, 2.0, 3.0, 2.0, 1.0])
      expect((0..1).map { |n| described_class.place(node(copies: 2, step_place: [0.5, 0.0, 0.1]), n) }).to eq(
        [[0.0, 0.0, 0.0], [0.5, 0.0, 0.1]]
      )
      strewn = node(copies: 4, step_place: [1.0, 0.0, 0.0], scatter: 0.2)
      places = (0..3).map { |n| described_class.place(strewn, n) }
      expect(places).to eq((0..3).map { |n| described_class.place(strewn, n) })
      expect(places.each_with_index.map { |(x, y, z), n| [x - n, y, z] }.flatten).to all(be_between(-0.2, 0.2))
      expect(places.map { |place| place[1] }.uniq.size).to eq(4)
    end
  end

  RSpec.describe Shot::Edits do
    def refused(*edits) = refusal { described_class.apply(small_shot, edits) }

    it "refuses keys that are none, in a sentence" do
      base = {"do" => "key", "node" => "source-1", "dial" => "smoke", "frame" => 2, "value" => 1.0}
      ["x", 1.5, nil, [], 10**7].each do |frame|
        expect(refused(base.merge("frame" => frame))).to match(["bad_value", /needs a whole frame number/])
      end
      expect(refused(base.except("value").merge("frame" => "x"))).to match(["bad_value", /needs a whole frame number/])
      expect(refused(base.merge("ease" => "bouncy"))).to match(["bad_value", /goes on smooth, linear, held/])
      expect(refused(base.merge("value" => -1))).to match(["out_of_range", /Smoke of Plume cannot be -1/])
      expect(refused(base.merge("dial" => "prop"))).to match(["not_keyed", /cannot change over time/])
      expect(refused({"do" => "move_key", "node" => "source-1", "dial" => "smoke",
"frame" => 2})).to match(["unknown_key", /no key at frame 2/])
      expect(refused({"do" => "drop_key", "node" => "source-1", "dial" => "smoke",
"frame" => {}})).to match(["unknown_key", /no key/])
      stub_const("Vumbral::Shot::Curve::MOST_KEYS", 1)
      expect(refused(base, base.merge("frame" => 3))).to match(["too_many", /2 keys; 1 is the most/])
    end

    it "takes the value that stands there where a key names none" do
      document = described_class.apply(small_shot,
        [set("source-1", :smoke, 2.5), {"do" => "key", "node" => "source-1", "dial" => "smoke", "frame" => 4}])[0]
      expect(document.node("source-1").curves[:smoke].to_a).to eq([{frame: 4, value: 2.5, ease: "smooth"}])
    end

    it "refuses whatever is no list of edits" do
      [nil, [], {}, "x", [1], [[]]].each do |edits|
        expect(refusal { described_class.apply(small_shot, edits) }).to match(["bad_edit", /list of objects/])
      end
      expect(refused({"do" => "explode"})).to match(["bad_edit", /"explode" is no edit; there are: set, key/])
      expect(refused({"do" => "add", "kind" => "prop", "dials" => [1]})).to match(["bad_edit", /come as an object/])
      expect(refused({"do" => "add", "kind" => "prop",
"id" => "Prop 1"})).to match(["bad_id", /small letters, digits and hyphens/])
      expect(refused({"do" => "add", "kind" => "camera"})).to match(["only_one", /has it already/])
      expect(refused({"do" => "remove", "node" => "camera"})).to match(["needed", /belongs to every shot/])
      ["", "  ", "x" * 81, "a\nb"].each do |name|
        expect(refused({"do" => "rename", "name" => name})).to match(["bad_name", /1 to 80 characters/])
      end
    end

    it "names what it did, shortly where there was much" do
      edits = (1..5).map { |n| set("look", :thickness, n.to_f) }
      expect(described_class.apply(small_shot,
        edits)[1]).to eq("Thickness 60 per m → 1 per m; Thickness 1 per m → 2 per m and 3 more")
    end
  end
end
