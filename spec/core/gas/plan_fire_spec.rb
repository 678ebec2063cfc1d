# frozen_string_literal: true

module Vumbral
  RSpec.describe Gas::Plan do
    def plan(*edits, quality: :full) = described_class.new(small_shot(edits: edits), quality)

    def add(kind, id, dials) = {"do" => "add", "kind" => kind, "id" => id, "name" => id.capitalize, "dials" => dials}

    def key(node, dial, frame, value)
      {"do" => "key", "node" => node, "dial" => dial.to_s, "frame" => frame, "value" => value}
    end

    def changed_from(a, b) = a.keys.values.zip(b.keys.values).index { |x, y| x != y }

    it "carries fuel and colour only where something gives them" do
      expect([plan.fuel?, plan.colour?]).to eq([false, false])
      expect(plan(set("source-1", :fuel, 1.0)).fuel?).to be(true)
      expect(plan(key("source-1", :fuel, 4, 2.0)).fuel?).to be(true)
      expect(plan(set("source-1", :coloured, true)).colour?).to be(true)
      expect(plan(set("source-1", :fuel, 1.0), set("chamber", :sooty, true)).colour?).to be(true)
      expect(plan(set("chamber", :sooty, true)).colour?).to be(false)
    end

    it "changes keys from the frame on which a force begins, a prop moves or an emitter throws" do
      expect(changed_from(plan, plan(add("force", "wind", {"first" => 4})))).to eq(3)
      expect(plan(add("force", "wind", {"first" => 40})).keys).to eq(plan.keys)
      moved = plan(key("prop-1", :position, 5, [0.0, 0.2, 0.0]), key("prop-1", :position, 8, [1.0, 0.2, 0.0]))
      still = plan(set("prop-1", :position, [0.0, 0.2, 0.0]))
      expect(changed_from(still, moved)).to eq(5)
      emitter = [add("emitter", "e", {"first" => 3}), add("source", "s", {"from" => "particles", "emitter" => "e"})]
      expect(changed_from(plan(*emitter), plan(*emitter, set("e", :speed, 9.0)))).to eq(2)
      # One that nothing feeds from changes nothing.
      expect(plan(emitter[0]).keys).to eq(plan.keys)
    end

    it "keeps its keys while only what is seen changes: looks, sparks' glow, unused props that break" do
      expect(plan(set("look", :fire, 9.0), set("look", :glow, 0.0)).keys).to eq(plan.keys)
      expect(plan(add("prop", "far", {"breaks" => true, "break_frame" => 2})).keys).to eq(plan.keys)
      blocking = plan(add("prop", "far", {"breaks" => true, "break_frame" => 6, "collider" => true}))
      whole = plan(add("prop", "far", {"collider" => true}))
      expect(changed_from(whole, blocking)).to eq(5)
    end

    it "evaluates keyed vectors, colours and switches part by part" do
      shot =
        small_shot(
          edits: [
            key("prop-1", :position, 1, [0.0, 0.0, 0.0]),
            key("prop-1", :position, 5, [1.0, 2.0, -4.0]).merge("ease" => "linear"),
            {"do" => "move_key", "node" => "prop-1", "dial" => "position", "frame" => 1, "ease" => "linear"},
            key(
              "pr" \
                "op-1",
              :shown,
              1,
              true
            ),
            key("prop-1", :shown, 4, false)
          ]
        )
      expect(shot.node("prop-1")[:position, 3]).to eq([0.5, 1.0, -2.0])
      expect([1, 3, 4, 9].map { |frame| shot.node("prop-1")[:shown, frame] }).to eq([true, true, false, false])
      expect(Shot::Document.load(shot.to_json)).to eq(shot)
      expect(refusal {
        Shot::Edits.apply(shot,
          [key("prop-1", :position, 2, [0.0, "up", 0.0])])
      }).to match(["out_of_range", /Position of Ember bowl cannot be up/])
    end

    it "takes several props for one source, and lets go of those that are taken away" do
      shot = small_shot(edits: [add("prop", "a", {}), add("prop", "b", {}), set("source-1", :also, %w[a b])])
      expect(described_class.new(shot, :full).at(1)["sources"][0]["bodies"].size).to eq(3)
      less = Shot::Edits.apply(shot, [{"do" => "remove", "node" => "a"}])[0]
      expect(less.node("source-1")[:also]).to eq(["b"])
      expect(refusal {
        Shot::Edits.apply(shot,
          [set("source-1", :also, %w[a sun-1])])
      }).to match(["unknown_node", /"sun-1", which is no prop/])
      expect(refusal {
        Shot::Edits.apply(shot, [set("source-1", :also, [1, 2])])
      }).to match(["bad_value", /takes a list of names/])
    end

    it "varies a row of sources the same way every time" do
      row = [set("source-1", :copies, 5), set("source-1", :step_frames, 0.0), set("source-1", :vary, 0.5)]
      strengths = ->(*more) { plan(*row, *more).at(2)["sources"].map { |source| source["strength"] } }
      expect(strengths.call).to eq(strengths.call)
      expect(strengths.call.uniq.size).to eq(5)
      expect(strengths.call).to all(be_between(0.5, 1.5))
      expect(strengths.call(set("source-1", :vary, 0.0))).to eq([1.0] * 5)
    end
  end
end
