# frozen_string_literal: true

module Vumbral
  RSpec.describe Shot::Taking do
    def changed(document, *edits) = Shot::Edits.apply(document, edits)[0]

    def taken(*rows) = described_class.take(now, before, rows)

    let(:lamp) { {"do" => "add", "kind" => "lamp", "id" => "left", "name" => "Left", "dials" => {"strength" => 3.0}} }
    let(:before) do
      changed(
        small_shot, lamp, set("source-1", :smoke, 7.0), set("source-1", :temperature, 700.0),
        {"do" => "key", "node" => "source-1", "dial" => "strength", "frame" => 2, "value" => 0.5},
        {"do" => "switch", "node" => "sun-1", "off" => true}
      )
    end
    let(:now) do
      changed(
        small_shot, {"do" => "add", "kind" => "lamp", "id" => "new", "name" => "New"}, set("source-1", :smoke, 2.0)
      )
    end

    it "takes dials with their keys, and nothing else" do
      document = taken(%w[source-1 smoke])
      expect([document.node("source-1")[:smoke], document.node("source-1")[:temperature]]).to eq(
        [7.0, now.node("source-1")[:temperature]]
      )
      keyed = taken(%w[source-1 strength])
      expect([keyed.node("source-1")[:strength, 2], keyed.node("source-1")[:smoke]]).to eq([0.5, 2.0])
      # And back: what has no keys there has none then.
      plain = described_class.take(before, now, [%w[source-1 strength], %w[source-1 smoke]])
      expect([plain.node("source-1").curves, plain.node("source-1")[:smoke]]).to eq([{}, 2.0])
    end

    it "takes things that are there or not, and how they are switched" do
      document = taken(["left", nil], ["new", nil], ["sun-1", nil])
      expect([document.node("left")[:strength], document.nodes.key?("new"), document.node("sun-1").off?]).to eq(
        [3.0, false, true]
      )
      expect(document.node("source-1")[:smoke]).to eq(2.0)
      expect(Shot::Document.load(document.to_json)).to eq(document)
    end

    it "comes to the other state where all that differs is taken" do
      dials = %w[smoke temperature strength].map { |dial| ["source-1", dial] }
      expect(
        taken(*dials, ["left", nil], ["new", nil], ["sun-1", nil]).to_h[:nodes].sort_by { |node| node[:id] }
      ).to eq(before.to_h[:nodes].sort_by { |node| node[:id] })
    end

    it "says what would lead to nothing, and what is not there" do
      led =
        changed(
          before, {"do" => "add", "kind" => "prop", "id" => "box", "name" => "Box"}, set("left", :leader, "box")
        )
      expect(refusal { described_class.take(now, led, [["left", nil]]) }).to match(
        ["bad_edit", /Left goes by Box, which the shot does not have now; bring that back too/]
      )
      expect(described_class.take(now, led, [["left", nil], ["box", nil]]).node("left")[:leader]).to eq("box")
      expect(refusal { taken(%w[left strength]) }).to match(["unknown_node", /no "left"/])
      expect(refusal { taken(%w[source-1 fly]) }).to match(["unknown_dial", /fly/])
    end
  end
end
