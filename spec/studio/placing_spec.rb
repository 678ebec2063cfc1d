# frozen_string_literal: true

module Vumbral
  RSpec.describe Studio::Placing do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:id) do
      @workshop.shots.import(
        small_shot(
          edits: [
            set("ground", :shown, true), set("ground", :uneven, 0.0),
            add("table", shape: "box", size: [1.0, 0.8, 1.0], position: [2.0, 0.4, 0.0]),
            add("stool", shape: "box", size: [0.4, 0.5, 0.4], position: [2.1, 3.0, 0.1])
          ]
        ).to_json
      )[
        :id
      ]
    end

    def add(name, **dials) =
      {
        "do" => "add", "kind" => "prop", "id" => name, "name" => name.capitalize,
        "dials" => dials.transform_keys(&:to_s)
      }

    def place(name, frame = 1) = @workshop.shots.document(id).node(name)[:position, frame]

    def edit(*edits) = @workshop.shots.edit(id, edits)

    it "lets a prop down onto what is under it, which is a step that can be undone" do
      expect(@workshop.placing.put_down(id, "stool", 1)[:label]).to eq("Stool put down")
      expect(place("stool")).to match([2.1, be_within(1e-4).of(0.8 + 0.25), 0.1])
      @workshop.shots.undo(id)
      expect(place("stool")[1]).to eq(3.0)
    end

    it "lifts what is stuck in the ground, turned as it is" do
      edit(set("stool", :position, [-3.0, 0.1, 0.0]), set("stool", :turn, [0.0, 0.0, 45.0]))
      @workshop.placing.put_down(id, "stool", 1)
      expect(place("stool")[1]).to be_within(1e-3).of((0.2 + 0.25) * Math.sqrt(0.5))
    end

    it "puts a mark down too, which is a point" do
      edit(add("spot", shape: "mark", position: [2.0, 2.0, 0.0]))
      @workshop.placing.put_down(id, "spot", 1)
      expect(place("spot")[1]).to be_within(1e-4).of(0.8)
    end

    it "lets a plate down onto a block under its middle" do
      edit(
        add("block", shape: "box", size: [0.1, 0.4, 0.1], position: [-5.0, 0.2, 0.0]),
        add("plate", shape: "box", size: [1.0, 0.1, 1.0], position: [-5.0, 2.0, 0.0])
      )
      @workshop.placing.put_down(id, "plate", 1)
      expect(place("plate")[1]).to be_within(1e-3).of(0.45)
    end

    it "keys a place that has keys, and finds its own among what it goes with" do
      edit(
        {"do" => "key", "node" => "stool", "dial" => "position", "frame" => 1, "value" => [2.0, 3.0, 0.0]},
        {"do" => "key", "node" => "stool", "dial" => "position", "frame" => 5, "value" => [2.0, 4.0, 0.0]}
      )
      @workshop.placing.put_down(id, "stool", 3)
      expect([place("stool", 3)[1], place("stool", 5)[1]]).to match([be_within(1e-4).of(1.05), 4.0])
      edit(add("bowl", shape: "box", size: [0.2, 0.2, 0.2], position: [0.0, 0.9, 0.0], leader: "table"))
      @workshop.placing.put_down(id, "bowl", 6)
      expect(place("bowl")[1]).to be_within(1e-4).of(0.5)
    end

    it "brings things in line with the first by their ends, middles or origins, in one step" do
      low = ->(name) do
        Geometry::Standing.new(@workshop.shots.document(id), @workshop.assets, only: [name]).at(1).bounds
      end
      expect(@workshop.placing.align(id, %w[table stool], 1, "y", "high")[:label]).to eq("2 things aligned along y")
      expect(low.call("stool")[1][1]).to be_within(1e-4).of(0.8)
      @workshop.placing.align(id, %w[table stool], 1, "x", "low")
      expect(low.call("stool")[0][0]).to be_within(1e-4).of(1.5)
      @workshop.placing.align(id, %w[stool table], 1, "z", "place")
      expect([place("table")[2], place("stool")[2]]).to eq([0.1, 0.1])
      @workshop.shots.undo(id)
      expect(place("table")[2]).to eq(0.0)
    end

    it "spaces things evenly, lamps among them, and leaves what goes with another to that" do
      edit(
        add("cup", position: [4.0, 1.0, 0.0]), add("lid", position: [0.0, 1.0, 0.0], leader: "cup"),
        {"do" => "add", "kind" => "lamp", "id" => "bulb", "dials" => {"position" => [0.0, 2.0, 0.0]}}
      )
      edit(set("table", :position, [3.0, 0.4, 0.0]))
      lid = place("lid")
      @workshop.placing.align(id, %w[cup lid table bulb], 1, "x", "apart")
      expect([place("cup"), place("table"), place("bulb")].map(&:first)).to match(
        [be_within(1e-4).of(4.0), be_within(1e-4).of(2.0), 0.0]
      )
      expect(place("lid")).to eq(lid)
    end

    it "says why things cannot be brought in line" do
      align = ->(nodes, axis, way) { refusal { @workshop.placing.align(id, nodes, 1, axis, way) }[1] }
      expect(align.call(%w[table], "x", "low")).to eq("Choose two things that have a place, or more.")
      expect(align.call(%w[table stool], "w", "low")).to include("along x, y or z, not \"w\"")
      expect(align.call(%w[table stool], "x", "best")).to include("low, middle, high, place, apart, not \"best\"")
      expect(align.call(%w[table nowhere], "x", "low")).to include("There is no \"nowhere\"")
      edit(set("stool", :position, [2.0, 3.0, 0.0]))
      expect(align.call(%w[table stool], "x", "middle")).to eq("They are in line already.")
    end

    it "says why it cannot" do
      edit(set("ground", :shown, false), set("stool", :position, [30.0, 1.0, 0.0]))
      expect(refusal { @workshop.placing.put_down(id, "stool", 1) }).to eq(
        ["nothing_under", "Nothing is under Stool that it could stand on."]
      )
      expect(refusal { @workshop.placing.put_down(id, "sky", 1) }).to match(["bad_value", /is no prop to put down/])
    end
  end
end
