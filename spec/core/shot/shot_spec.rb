# frozen_string_literal: true

module Vumbral
  RSpec.describe Shot::Kinds do
    it "declares every dial whole: label, help, a default within its own range" do
      described_class.all.each_value do |kind|
        expect(kind.help).not_to be_empty
        kind.dials.each_value do |dial|
          expect(dial.label).to match(/\S/)
          expect(dial.help).to match(/\A[A-Z0-9].*\.\z/), "#{kind.name}.#{dial.name}"
          expect(dial.check(dial.default, "it")).to eq(dial.default) unless dial.default.nil?
          expect(dial.range).not_to be_nil, "#{kind.name}.#{dial.name}" if %i[number whole vector].include?(dial.type)
          expect([dial.slider.begin, dial.slider.end]).to all(satisfy { |end_| dial.range.cover?(end_) }) if dial.slider
          expect(Shot::Dial::TOUCHES).to include(dial.touches)
          dial
            .only
            &.reject { |_, values| values == :set }
            &.each { |other, values| expect(values.map { |v| kind.dial(other).check(v, "it") }).to eq(values) }
        end
      end
    end

    it "says which kinds and dials there are when asked for another" do
      expect(refusal { described_class.fetch("wormhole") }).to match(
        [
          "unknown_kind",
          /no kind "wormhole"; there are: general, marker, prop, operation, front, source, inflow, emitter/
        ]
      )
      expect(refusal { described_class.fetch(:sun).dial("glitter", "Sun") }).to match(
        ["unknown_dial", /Sun has no dial "glitter"; it has: strength, colour/]
      )
    end
  end

  RSpec.describe Shot::Dial do
    def dial(type, **options)
      described_class.new(:amount, "Amount", type: type, default: nil, help: "Help.", **options)
    end

    it "takes numbers, also as text, within the range only" do
      number = dial(:number, range: 0.0..2.0, unit: "m")
      expect(number.check("1.5", "Pot")).to eq(1.5)
      expect(number.check(2, "Pot")).to eq(2.0)
      [3.0, -0.1, Float::NAN, Float::INFINITY, "much", nil, [], true].each do |value|
        expect(refusal { number.check(value, "Pot") }).to match(
          ["out_of_range", /\AAmount of Pot cannot be .+; it goes from 0 to 2 m\.\z/]
        )
      end
    end

    it "takes whole numbers, switches, choices, vectors, colours and names" do
      expect(dial(:whole, range: 1..9).check("7", "Pot")).to eq(7)
      expect(dial(:whole, range: 1..9).check(3.0, "Pot")).to eq(3)
      expect(refusal { dial(:whole, range: 1..9).check(2.5, "Pot") }).to match(["out_of_range", /cannot be 2.5/])
      expect([dial(:switch).check("on", "Pot"), dial(:switch).check(false, "Pot")]).to eq([true, false])
      expect(refusal { dial(:switch).check("maybe", "Pot") }).to match(["bad_value", /on or off/])
      expect(dial(:choice, choices: {a: "A", b: "B"}).check(:b, "Pot")).to eq("b")
      expect(refusal { dial(:choice, choices: {a: "A", b: "B"}).check("c", "Pot") }).to match(
        ["bad_value", /one of: a, b/]
      )
      expect(dial(:vector, range: -5.0..5.0).check("1, 2,-3", "Pot")).to eq([1.0, 2.0, -3.0])
      expect(refusal { dial(:vector, range: -5.0..5.0).check([1, 2], "Pot") }).to match(
        ["bad_value", /takes three numbers/]
      )
      expect(refusal { dial(:vector, range: -5.0..5.0).check([1, 2, 6], "Pot") }).to match(
        ["out_of_range", /cannot be 6/]
      )
      expect(refusal { dial(:colour, range: 0.0..1.0).check([0, 0, 1.5], "Pot") }).to match(["out_of_range", /1.5/])
      expect(refusal { dial(:node).check(7, "Pot") }).to match(["bad_value", /takes a name/])
    end

    it "shows values as people read them" do
      expect(dial(:number, unit: "m").show(0.125)).to eq("0.125 m")
      expect(dial(:switch).show(true)).to eq("on")
      expect(dial(:choice, choices: {a: "the first"}).show("a")).to eq("the first")
      expect(dial(:vector, unit: "m").show([1.0, 2.5, 0.0])).to eq("1, 2.5, 0 m")
      expect(dial(:colour).show([1.0, 0.5, 0.0])).to eq("#ff8000")
    end
  end

  RSpec.describe Shot::Curve do
    def curve(*rows)
      described_class.new(rows.map { |frame, value, ease| described_class::Key.new(frame, value, ease || "smooth") })
    end

    it "stands still before its first and after its last key, and meets each" do
      c = curve([10, 1.0], [20, 3.0], [25, 2.0])
      expect([-5, 10, 20, 25, 99].map { |f| c.at(f) }).to eq([1.0, 1.0, 3.0, 2.0, 2.0])
    end

    it "goes on smoothly without ever overshooting" do
      c = curve([0, 0.0], [10, 1.0], [11, 1.0], [30, 5.0], [40, 0.0])
      values = (0..400).map { |n| c.at(n / 10.0) }
      expect(values).to all(be_between(0.0, 5.0))
      expect(values[0..100].each_cons(2).all? { |a, b| b >= a }).to be(true)
      expect(values[100..110].uniq).to eq([1.0])
      expect(values.each_cons(2).map { |a, b| (b - a).abs }.max).to be < 0.1
    end

    it "can be linear or held from a key on" do
      expect(
        curve([0, 0.0, "linear"], [10, 5.0, "held"], [20, 1.0]).then { |c| [c.at(3), c.at(15), c.at(19.9), c.at(20)] }
      ).to eq([1.5, 5.0, 5.0, 1.0])
    end
  end

  RSpec.describe Shot::Edits do
    let(:document) { small_shot }

    def edited(*edits) = described_class.apply(document, edits)[0]

    it "sets a dial and says what changed" do
      changed, label = described_class.apply(document, [set("source-1", :smoke, 2.4)])
      expect(changed.node("source-1")[:smoke]).to eq(2.4)
      expect(label).to eq("Smoke 4 per s → 2.4 per s")
      expect(document.node("source-1")[:smoke]).to eq(4.0)
      expect(edited(set("source-1", :smoke, 4.0)).to_json).to eq(document.to_json)
    end

    it "adds, names and takes away things, and lets go of what fed from them" do
      changed =
        edited(
          {"do" => "add", "kind" => "prop", "name" => "Lid", "dials" => {"shape" => "torus"}},
          {"do" => "rename", "node" => "prop-1", "name" => "Bowl"}, {"do" => "remove", "node" => "prop-1"},
          {"do" => "rename", "name" => "Second try"}
        )
      expect(changed.name).to eq("Second try")
      expect(changed.node("prop-2")[:shape]).to eq("torus")
      expect(changed.node("source-1")[:prop]).to be_nil
      expect(changed.nodes.key?("prop-1")).to be(false)
    end

    it "sets, moves and drops keys; a plain value takes the place of a course" do
      key = ->(frame, value) do
        {"do" => "key", "node" => "source-1", "dial" => "strength", "frame" => frame, "value" => value}
      end
      changed =
        edited(
          key.call(1, 0.0), key.call(5, 2.0),
          {"do" => "move_key", "node" => "source-1", "dial" => "strength", "frame" => 5, "to" => 7, "value" => 1.5}
        )
      expect(changed.node("source-1").curves[:strength].to_a.map { |n| [n[:frame], n[:value]] }).to eq(
        [[1, 0.0], [7, 1.5]]
      )
      expect(changed.node("source-1")[:strength, 7]).to eq(1.5)
      expect(
        refusal do
          edited(
            key.call(1, 0.0), key.call(5, 2.0),
            {"do" => "move_key", "node" => "source-1", "dial" => "strength", "frame" => 5, "to" => 1}
          )
        end
      ).to match(["taken", /has a key at frame 1 already; take that one away first/])
      dropped =
        described_class.apply(
          changed,
          [
            {"do" => "drop_key", "node" => "source-1", "dial" => "strength", "frame" => 1},
            {"do" => "drop_key", "node" => "source-1", "dial" => "strength", "frame" => 7}
          ]
        )[
          0
        ]
      expect([dropped.node("source-1").curves, dropped.node("source-1")[:strength]]).to eq([{}, 1.5])
      expect(described_class.apply(changed, [set("source-1", :strength, 0.7)])[0].node("source-1").curves).to eq({})
    end

    it "does all or nothing" do
      expect(
        refusal { described_class.apply(document, [set("source-1", :smoke, 9.0), set("source-1", :smoke, -1.0)]) }
      ).to match(["out_of_range", /Smoke of Plume cannot be -1/])
      expect(document.node("source-1")[:smoke]).to eq(4.0)
    end

    {
      [{"do" => "explode"}] => ["bad_edit", /"explode" is no edit; there are: set, key/],
      [] => ["bad_edit", /list of objects/],
      "no list" => ["bad_edit", /list of objects/],
      [{"do" => "set", "node" => "prop-9", "dial" => "radius",
        "value" => 1}] => ["unknown_node", /no "prop-9" in the shot Little puff; there are: general/],
      [{"do" => "set", "node" => "prop-1", "dial" => "glitter",
        "value" => 1}] => ["unknown_dial", /has no dial "glitter"/],
      [{"do" => "set", "node" => "prop-1", "dial" => "radius",
        "value" => "NaN"}] => ["out_of_range", /Radius of Ember bowl cannot be NaN/],
      [{"do" => "set", "node" => "source-1", "dial" => "prop",
        "value" => "sun-1"}] => ["unknown_node", /which is no prop/],
      [{"do" => "add", "kind" => "chamber"}] => ["only_one", /one chamber/],
      [{"do" => "add", "kind" => "prop", "id" => "../x"}] => ["bad_id", /cannot be the id/],
      [{"do" => "add", "kind" => "prop", "dials" => []}] => ["bad_edit", /come as an object/],
      [{"do" => "remove", "node" => "chamber"}] => ["needed", /belongs to every shot/],
      [{"do" => "rename", "node" => "prop-1", "name" => "  "}] => ["bad_name", /1 to 80/],
      [{"do" => "key", "node" => "prop-1", "dial" => "radius", "frame" => 1,
        "value" => 1}] => ["not_keyed", /cannot change over time/],
      [{"do" => "key", "node" => "source-1", "dial" => "smoke", "frame" => 1.5,
        "value" => 1}] => ["bad_value", /whole frame number/],
      [{"do" => "key", "node" => "source-1", "dial" => "smoke", "frame" => 1, "value" => 1,
        "ease" => "bouncy"}] => ["bad_value", /smooth, linear, held/],
      [{"do" => "drop_key", "node" => "source-1", "dial" => "smoke",
        "frame" => 3}] => ["unknown_key", /no key at frame 3/],
      [{"do" => "set", "node" => "general", "dial" => "last",
        "value" => 0}] => ["out_of_range", /must come after the first/]
    }.each do |edits, (code, message)|
      it "refuses #{edits.inspect[0, 70]}" do
        expect(refusal { described_class.apply(document, edits) }).to match([code, message])
      end
    end
  end

  RSpec.describe Shot::Document do
    it "is the same after saving and loading" do
      document = small_shot(edits: [{"do" => "key", "node" => "source-1", "dial" => "smoke", "frame" => 3,
                                     "value" => 2.0, "ease" => "held"}])
      expect(described_class.load(document.to_json)).to eq(document)
      expect(JSON.parse(document.to_json)).to include("format" => "vumbral-shot", "version" => Shot::Document::VERSION)
    end

    {
      "{" => ["not_json", /\AThe shot file is not JSON: it cannot be read from line 1, column 2 on, where it ends\. Bring a file that Vumbral saved/],
      "[]" => ["not_a_shot", /is not a shot/],
      '{"format":"vumbral-shot","version":99,"name":"x","nodes":[]}' => ["newer_version",
        /saved by a newer Vumbral \(version 99 .*\); update Vumbral/],
      '{"format":"vumbral-shot","version":"a","name":"x","nodes":[]}' => ["bad_shot", /no version number/],
      '{"format":"vumbral-shot","version":1,"nodes":[]}' => ["bad_shot", /no name/],
      '{"format":"vumbral-shot","version":1,"name":"x","nodes":7}' => ["bad_shot", /no list of nodes/],
      '{"format":"vumbral-shot","version":1,"name":"x","nodes":[{"id":"../../etc","kind":"prop"}]}' => ["bad_shot",
        /proper id/],
      '{"format":"vumbral-shot","version":1,"name":"x","nodes":[{"id":"a","kind":"chamber"}]}' => ["bad_shot",
        /only one chamber/],
      '{"format":"vumbral-shot","version":1,"name":"x","nodes":[{"id":"a","kind":"prop","dials":{"radius":-1}}]}' => [
        "out_of_range", /Radius of Prop/
],
      '{"format":"vumbral-shot","version":1,"name":"x","nodes":[{"id":"a","kind":"source","dials":{"prop":"b"}}]}' => [
        "unknown_node", /no prop/
      ]
    }.each do |text, (code, message)|
      it "refuses #{text[0, 90]}" do
        expect(refusal { described_class.load(text) }).to match([code, message])
      end
    end
  end

  RSpec.describe Shot::Timeline do
    it "shows how strong a source is at each frame it is on" do
      document = small_shot(edits: [set("source-1", :first, 3), set("source-1", :last, 6),
        {"do" => "key", "node" => "source-1", "dial" => "strength", "frame" => 3, "value" => 2.0, "ease" => "linear"},
        {"do" => "key", "node" => "source-1", "dial" => "strength", "frame" => 7, "value" => 0.0}])
      row = described_class.new(document).rows.find { |r| r[:node] == "source-1" }
      expect(row[:values]).to eq([0.0, 0.0, 2.0, 1.5, 1.0, 0.5, 0.0, 0.0])
      expect(row[:keys].map { |n| n[:frame] }).to eq([3, 7])
      expect(row[:peak]).to eq(2.0)
    end
  end
end
