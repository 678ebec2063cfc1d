# frozen_string_literal: true

module Vumbral
  RSpec.describe Studio::Fitting do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:id) do
      shelve(@workshop, small_shot(edits: [set("prop-1", :radius, 0.1), set("prop-1", :position, [0.2, 0.4, 0.0])]))
    end

    def box
      chamber = @workshop.shots.document(id).the(:chamber)
      (x, y, z), (width, height, depth) = chamber[:position], chamber[:size]
      [[x - width / 2, y, z - depth / 2], [x + width / 2, y + height, z + depth / 2]]
    end

    it "fits the chamber around a prop, with a little room" do
      expect(@workshop.fitting.call(id, "prop", node: "prop-1")[:label]).to eq("Chamber fitted to Ember bowl")
      expect(box.flatten).to match([0.076, 0.276, -0.124, 0.324, 0.524, 0.124].map { |c| be_within(2e-3).of(c) })
    end

    it "fits it around a group, and where the chamber goes with a prop, in the world" do
      pot = {
        "do" => "add",
        "kind" => "prop",
        "id" => "pot",
        "dials" => {
          "shape" => "box", "size" => [0.2, 0.2, 0.2], "position" => [1.2, 0.4, 0.0]
        }
      }
      cart = {"do" => "add", "kind" => "prop", "id" => "cart", "dials" => {"position" => [5.0, 0.0, 0.0]}}
      @workshop.shots.edit(
        id,
        [pot, cart, set("chamber", :leader, "cart"), {"do" => "group", "nodes" => %w[prop-1 pot], "name" => "Table"}]
      )
      expect(@workshop.fitting.call(id, "prop", node: "group-1")[:label]).to eq("Chamber fitted to Table")
      document = @workshop.shots.document(id)
      middle = Geometry::Hanging.stood(document, document.the(:chamber))
      expect([middle[0], document.the(:chamber)[:size][0]]).to match(
        [be_within(5e-3).of(0.7), be_within(0.06).of(1.48)]
      )
      @workshop.shots.edit(
        id, [{"do" => "add", "kind" => "prop", "id" => "spot", "name" => "Spot", "dials" => {"shape" => "mark"}}]
      )
      expect(refusal { @workshop.fitting.call(id, "prop", node: "spot") }[1]).to include(
        "Nothing with a body goes with Spot"
      )
    end

    it "fits it around all sources over all their time, with room above" do
      [[1, 0.2], [8, 1.2]].each do |frame, x|
        @workshop.shots.edit(
          id, [{"do" => "key", "node" => "prop-1", "dial" => "position", "frame" => frame, "value" => [x, 0.4, 0.0]}]
        )
      end
      @workshop.fitting.call(id, "sources")
      low, high = box
      expect([low[0], high[0]]).to match([be < 0.1, be > 1.3])
      expect(high[1] - low[1]).to be > 1.5 * (high[0] - low[0])
    end

    it "fits it to what the last run filled" do
      expect(refusal { @workshop.fitting.call(id, "run") }).to match(["not_run", /run a draft first/])
      before = box
      run_now(@workshop, id)
      @workshop.fitting.call(id, "run")
      (low, high), (floor, ceiling) = box, before
      expect(3.times.all? { |axis| low[axis] >= floor[axis] - 0.08 && high[axis] <= ceiling[axis] + 0.08 }).to be(true)
      expect(high.zip(low).map { |a, b| a - b }.reduce(:*)).to be <
        0.8 * ceiling.zip(floor).map { |a, b| a - b }.reduce(:*)
    end

    it "says what it cannot be fitted to" do
      expect(refusal { @workshop.fitting.call(id, "moon") }).to eq(
        ["bad_value", "A chamber is fitted to prop, sources or run, not \"moon\"."]
      )
      expect(refusal { @workshop.fitting.call(id, "prop", node: "sun-1") }).to eq(
        ["bad_value", "Sun is no prop to fit the chamber to."]
      )
      @workshop.shots.edit(id, [{"do" => "remove", "node" => "source-1"}])
      expect(refusal { @workshop.fitting.call(id, "sources") }).to match(["no_source", /add one first/])
    end
  end
end
