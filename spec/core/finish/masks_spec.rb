# frozen_string_literal: true

module Vumbral
  # Where in the frame a layer counts.
  RSpec.describe Finish::Masks do
    include FinishHelp

    def field(
      *masks, width: 200, height: 100, image: plain(1.0, 1.0, 1.0, 1.0, width: width, height: height), frame: 1,
      more: []
    )
      layer =
        stack(
          [
            *more, layer("one"),
            *masks.map { |row| mask("one", row[:what], row[:order] || 0, **row.except(:what, :order)) }
          ],
          frame
        )[
          0
        ]
      Finish::Masks.new(layer["masks"], image).field
    end

    def area(field) = field.to_a.sum

    it "covers as much as an oval, a box and an outline are large, however they are turned" do
      expect(area(field({what: "oval", width: 60.0, height: 40.0, soft: 1.0}))).to be_within(20).of(Math::PI * 30 * 20)
      expect(area(field({what: "box", width: 60.0, height: 40.0, soft: 1.0, turn: 30.0}))).to be_within(20).of(60 * 40)
      ring =
        Array.new(12) { |n| [50.0 + 15.0 * Math.cos(Math::PI * n / 6), 50.0 + 30.0 * Math.sin(Math::PI * n / 6), 0.0] }
      expect(area(field({what: "outline", points: ring, soft: 1.0}))).to be_within(40).of(Math::PI * 30 * 30)
    end

    it "goes softly over its edge, half way at it, as wide as asked, and grows by as much as asked" do
      soft = field({what: "oval", width: 60.0, height: 60.0, soft: 20.0})
      expect(soft[50, 130]).to be_within(0.04).of(0.5)
      expect([soft[50, 115] > 0.97, soft[50, 142] < 0.03]).to eq([true, true])
      expect(area(field({what: "oval", width: 40.0, height: 40.0, grown: 10.0, soft: 1.0}))).to be_within(20).of(
        Math::PI * 30 * 30
      )
    end

    it "has an edge that is softer at a point that says so" do
      square = [[25.0, 20.0], [75.0, 20.0], [75.0, 80.0], [25.0, 80.0]]
      soft =
        field(
          {
            what: "outline", soft: 1.0,
            points: square.each_with_index.map { |(x, y), n| [x, y, n.between?(1, 2) ? 30.0 : 0.0] }
          }
        )
      middle = ->(xs) { xs.count { |x| soft[50, x].between?(0.05, 0.95) } }
      expect(middle[100...200]).to be > 3 * middle[0...100]
    end

    it "joins masks, takes away, wants both, and turns round" do
      left, right =
        {what: "box", x: 25.0, width: 100.0, height: 100.0, soft: 0.0},
        {what: "box", x: 50.0, width: 100.0, height: 100.0, soft: 0.0, order: 1}
      at = ->(field) { [25, 75, 125, 175].map { |x| field[50, x].round(2) } }
      expect(at[field(left, right)]).to eq([1.0, 1.0, 1.0, 0.0])
      expect(at[field(left, right.merge(joined: "without"))]).to eq([1.0, 0.0, 0.0, 0.0])
      expect(at[field(left, right.merge(joined: "within"))]).to eq([0.0, 1.0, 0.0, 0.0])
      expect(at[field(left.merge(inverted: true, opacity: 40.0))]).to eq([0.0, 0.0, 0.4, 0.4])
      expect(at[field(left.merge(joined: "without"))]).to eq([0.0, 0.0, 1.0, 1.0])
    end

    it "goes by brightness, by a colour and by what the layer covers" do
      image =
        painted(200, 100) do |x, _|
          [[0.05, 0.05, 0.05, 1.0], [0.9, 0.9, 0.9, 1.0], [0.1, 0.4, 0.1, 1.0], [0.0, 0.0, 0.0, 0.0]][x / 50]
        end
      at = ->(field) { [25, 75, 125, 175].map { |x| field[50, x].round(2) } }
      expect(at[field({what: "bright", soft: 0.0}, image: image)][0, 2]).to eq([0.0, 1.0])
      expect(at[field({what: "coloured", colour: [0.2, 0.8, 0.2], soft: 0.0}, image: image)]).to eq(
        [0.0, 0.0, 1.0, 0.0]
      )
      expect(at[field({what: "covered", soft: 0.0}, image: image)]).to eq([1.0, 1.0, 1.0, 0.0])
    end

    it "goes with a tracked spot and with a prop as the camera sees it" do
      spot = {
        "do" => "add",
        "kind" => "track",
        "id" => "spot",
        "name" => "Spot",
        "keys" => {
          "x" => [{"frame" => 1, "value" => 20.0}, {"frame" => 5, "value" => 40.0, "ease" => "linear"}]
        }
      }
      moved =
        field({what: "box", x: 25.0, width: 20.0, height: 20.0, soft: 0.0, follows: "spot"}, frame: 5, more: [spot])
      expect([moved[50, 50], moved[50, 90]]).to eq([0.0, 1.0])
      pot = {
        "do" => "add",
        "kind" => "prop",
        "id" => "pot",
        "name" => "Pot",
        "dials" => {
          "position" => [0.0, 1.3, 0.0]
        },
        "keys" => {
          "position" => [
            {"frame" => 1, "value" => [0.0, 1.3, 0.0]},
            {"frame" => 3, "value" => [1.0, 1.3, 0.0], "ease" => "linear"}
          ]
        }
      }
      document = finished([pot])
      seen = [1, 3].map { |frame| Finish::Spots.of(document, document.node("pot"), frame, 16 / 9.0) }
      expect(seen[0].first(2)).to all_be_near([0.5, 0.5], 1e-4)
      # A metre aside, as far as the lens shows it there.
      expect(seen[1][0] - 0.5).to be_within(0.01).of(40.0 / 36.0 / Math.hypot(6.0, 0.3))
      expect(seen[1][2]).to be_within(1e-3).of(Math.sqrt(6.0**2 + 0.3**2 + 1.0))
    end

    it "goes from one shape to another by keys, place by place, and keeps as many places" do
      square = ->(left) { [[left, 20.0, 0.0], [left + 30.0, 20.0, 0.0], [left + 30.0, 80.0, 0.0], [left, 80.0, 0.0]] }
      edits = [
        layer("one"),
        mask("one", "outline", soft: 1.0).merge("id" => "shape"),
        *{1 => 10.0, 5 => 60.0}.map do |frame, left|
          {
            "do" => "key", "node" => "shape", "dial" => "points", "frame" => frame, "value" => square[left],
            "ease" => "linear"
          }
        end
      ]
      middle = ->(frame) {
        found =
          Finish::Masks.new(stack(edits, frame)[0]["masks"], plain(1.0, 1.0, 1.0, 1.0, width: 200, height: 100)).field
        rows = (0...100).flat_map { |y| (0...200).map { |x| [x, found[y, x]] } }
        rows.sum { |x, v| x * v } / rows.sum(&:last)
      }
      expect([1, 3, 5].map { |frame| middle[frame] }).to all_be_near([49.5, 99.5, 149.5], 1.0)
      expect(
        Shot::Timeline.new(finished(edits)).rows.find { |row| row[:dial] == :points }.slice(:slopes, :keys)[:keys].size
      ).to eq(2)
      more =
        edits +
        [{"do" => "key", "node" => "shape", "dial" => "points", "frame" => 8, "value" => square[0.0].first(3)}]
      expect(refusal { finished(more) }[1]).to match(/has 4 places at frame 1, and 3 are given for frame 8/)
    end

    it "goes by what differs from an empty plate, as that lies in the frame, and by a texture" do
      wall = painted(16, 12) { |x, y| [0.02 * x, 0.03 * y, 0.1, 1.0] }
      with =
        painted(16, 12) do |x, y|
          (x.between?(4, 7) && y.between?(3, 8)) ? [0.8, 0.1, 0.1, 1.0] : [0.02 * x, 0.03 * y, 0.1, 1.0]
        end
      stand = FinishHelp::Stand.new(plate: ->(frame) { (frame < 5) ? with : wall })
      allow(stand).to receive(:plate).and_wrap_original { |_, digest, *| (digest == "empty") ? wall : with }
      edits = [
        layer("shot", what: "plate", plate: "full", fit: "stretch"),
        mask("shot", "differs", clean: "empty", soft: 0.0, near: 0.1, fall: 0.05)
      ]
      found = composite(edits, stand, plates: FinishHelp::Facts.new(3, nil))
      expect([found[5, 5, 3], found[1, 12, 3], found[10, 6, 3]]).to all_be_near([1.0, 0.0, 0.0], 1e-4)

      textured = [
        {
          "do" => "add",
          "kind" => "texture",
          "id" => "wave",
          "name" => "Wave",
          "dials" => {
            "what" => "formula", "formula" => "0.5 + 2 * x", "size" => 2.0
          }
        },
        layer("all", what: "colour", colour: [1.0] * 3),
        mask("all", "texture", texture: "wave", low: 0.0, high: 1.0, soft: 0.0, high_as: 1.5)
      ]
      found = composite(textured, FinishHelp::Stand.new)
      expect(found[6, 2, 3]).to be < 0.2
      expect(found[6, 13, 3]).to be > 0.8
    end
  end
end
