# frozen_string_literal: true

module Vumbral
  RSpec.describe Geometry::Resting do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    def prop(id, **dials) =
      {"do" => "add", "kind" => "prop", "id" => id, "name" => id.capitalize, "dials" => dials.transform_keys(&:to_s)}

    def shot(*edits)
      base =
        small_shot(
          edits:
            [
              set("prop-1", :shown, false),
              prop("table", shape: "box", size: [2.0, 0.5, 2.0], position: [0.0, 0.25, 0.0]),
              prop("stool", shape: "box", size: [0.4, 0.4, 0.4], position: [0.0, 3.0, 0.0], rests: true)
            ] + edits
        )
      @workshop.shots.read(JSON.generate(base.to_h))
    end

    def height(document, id, frame = 1) = Geometry::Hanging.pose(document, document.node(id), frame).position[1]

    def findings(document) = Preflight::Survey.new(document, @workshop.assets).findings.map(&:code)

    it "lets a prop stand on what is under it, and stay there when that changes" do
      expect(height(shot, "stool")).to be_within(1e-5).of(0.7)
      expect(height(shot(set("table", :size, [2.0, 1.0, 2.0])), "stool")).to be_within(1e-5).of(0.95)
      expect(height(shot(set("stool", :position, [3.0, 3.0, 0.0])), "stool")).to be_within(1e-5).of(0.2)
    end

    it "goes up and down with what moves or is made anew under it, frame by frame, and with its own way over it" do
      lifted =
        [1, 8].map do |frame|
          {
            "do" => "key", "node" => "table", "dial" => "position", "frame" => frame,
            "value" => [0.0, 0.25 + 0.1 * (frame - 1), 0.0], "ease" => "linear"
          }
        end
      document = shot(*lifted)
      expect((1..8).map { |frame| height(document, "stool", frame) }).to match(
        (1..8).map { |frame| be_within(1e-4).of(0.7 + 0.1 * (frame - 1)) }
      )
      expect(Geometry::Bodies.goes?(document, document.node("stool"))).to be(true)
      body = Geometry::Bodies.of(document, document.node("stool"), 4)
      expect(body["to"]["position"][1] - body["from"]["position"][1]).to be_within(1e-4).of(0.1)
      twisted =
        shot(
          {
            "do" => "add",
            "kind" => "operation",
            "dials" => {
              "prop" => "table", "what" => "cage",
              **(0..7).to_h { |n| ["corner_#{n}", [0.0, (n & 2).zero? ? 0.0 : 0.3, 0.0]] }
            }
          }
        )
      expect(height(twisted, "stool")).to be_within(1e-4).of(1.0)
    end

    it "stacks those of its kind by their own heights, lets a mark stand, and what goes with it stand with it" do
      document =
        shot(
          prop("pot", shape: "box", size: [0.2, 0.2, 0.2], position: [0.0, 5.0, 0.0], rests: true),
          prop("flag", shape: "mark", position: [0.5, 1.0, 0.5], rests: true),
          prop("lid", shape: "box", size: [0.1, 0.1, 0.1], position: [0.0, 1.0, 0.0], leader: "pot")
        )
      expect(height(document, "pot")).to be_within(1e-5).of(1.0)
      expect(height(document, "flag")).to be_within(1e-5).of(0.5)
      expect(height(document, "lid")).to be_within(1e-5).of(2.0)
      lower = shot(prop("pot", shape: "box", size: [0.2, 0.2, 0.2], position: [0.0, 1.0, 0.0], rests: true))
      expect([height(lower, "pot"), height(lower, "stool")]).to match(
        [be_within(1e-5).of(0.6), be_within(1e-5).of(0.9)]
      )
    end

    it "finds what has risen above it as far as it shall, and stays where it is where nothing is under it" do
      near = ->(reach) do
        height(
          shot(
            set("stool", :position, [0.0, 0.1, 0.0]), set("stool", :rests_reach, reach),
            set("table", :position, [0.0, 1.0, 0.0])
          ),
          "stool"
        )
      end
      expect([near.call(2.0), near.call(0.1)]).to match([be_within(1e-5).of(1.45), be_within(1e-5).of(0.2)])
      alone = shot(set("ground", :shown, false), set("stool", :position, [9.0, 3.0, 0.0]))
      expect(height(alone, "stool")).to eq(3.0)
      expect(findings(alone)).to include("stands_on_nothing")
      expect(findings(shot)).not_to include("stands_on_nothing")
    end

    it "does not go round in circles where what carries it turns to it" do
      document = shot(set("table", :aim, "stool"))
      # Straight above it, by its own place: so the table stands on end, a metre higher than its middle.
      expect(height(document, "stool", 4)).to be_within(1e-3).of(0.25 + 1.0 + 0.2)
    end

    it "is where the view, the run and files have it" do
      id = @workshop.shots.import(JSON.generate(shot.to_h))[:id]
      row = @workshop.bodies.make(@workshop.shots.document(id)).find { |body| body["prop"] == "stool" }
      expect(row["poses"].first[1]).to be_within(1e-4).of(0.7)
      placed =
        @workshop.shots.edit(id, [{"do" => "place", "node" => "stool", "frame" => 1, "position" => [0.5, 0.7, 0.5]}])
      expect(placed).to be_truthy
      document = @workshop.shots.document(id)
      expect(Geometry::Hanging.pose(document, document.node("stool"), 1).position).to match(
        [0.5, be_within(1e-5).of(0.7), 0.5]
      )
      mesh = Geometry::Standing.new(document, @workshop.assets, only: ["stool"]).at(1)
      expect(mesh.bounds[0][1]).to be_within(1e-4).of(0.5)
    end
  end
end
