# frozen_string_literal: true

module Vumbral
  RSpec.describe Geometry::Hanging do
    def add(kind, id, **dials) =
      {"do" => "add", "kind" => kind, "id" => id, "name" => id.capitalize, "dials" => dials.transform_keys(&:to_s)}

    def key(node, dial, frame, value) =
      {"do" => "key", "node" => node, "dial" => dial, "frame" => frame, "value" => value, "ease" => "linear"}

    # A cart that goes and turns, with a pot on it and a lamp, a force and an emitter at the pot.
    def shot(*edits)
      small_shot(
        edits:
          [
            add("prop", "cart", position: [1.0, 0.5, 0.0], scale: [2.0, 2.0, 2.0]),
            add("prop", "pot", position: [1.0, 1.5, 0.0], turn: [0.0, 20.0, 0.0]),
            add("lamp", "bulb", position: [1.0, 2.0, 0.0]),
            add("force", "draught", position: [1.0, 1.0, 1.0], direction: [1.0, 0.0, 0.0]),
            add("emitter", "sparks", position: [1.0, 1.0, 0.0]), set("pot", :leader, "cart"),
            set("bulb", :leader, "pot"), set("draught", :leader, "cart"), set("sparks", :leader, "pot")
          ] + edits
      )
    end

    def pose(document, node, frame = 1) = described_class.pose(document, document.node(node), frame)

    def near(values) = values.map { |value| be_within(1e-4).of(value) }

    it "leaves things where they stand when they begin to go with another" do
      document = shot
      expect(document.node("pot")[:position]).to match(near([0.0, 0.5, 0.0]))
      expect(pose(document, "pot").to_a.first(3)).to match(
        [near([1.0, 1.5, 0.0]), near([0.0, 20.0, 0.0]), near([1.0, 1.0, 1.0])]
      )
      expect(described_class.point(document, document.node("bulb"), :position, 1)).to match(near([1.0, 2.0, 0.0]))
      free, = Shot::Edits.apply(document, [set("cart", :position, [5.0, 0.5, 0.0]), set("pot", :leader, nil)])
      expect(free.node("pot")[:position]).to match(near([5.0, 1.5, 0.0]))
    end

    it "takes them along, and what goes with them, in place, turn and size" do
      document =
        shot(
          set("cart", :turn, [0.0, 90.0, 0.0]), set("cart", :scale, [4.0, 4.0, 4.0]),
          set("cart", :position, [0.0, 1.0, 0.0])
        )
      expect(pose(document, "pot").to_a.first(3)).to match(
        [near([0.0, 3.0, 0.0]), near([0.0, 110.0, 0.0]), near([2.0, 2.0, 2.0])]
      )
      # A metre aside of the cart at twice the size, and a quarter round.
      expect(described_class.point(document, document.node("draught"), :position, 1)).to match(near([2.0, 2.0, 0.0]))
      expect(described_class.way(document, document.node("draught"), :direction, 1)).to match(near([0.0, 0.0, -1.0]))
    end

    it "is what the run, the light and the view go by at each frame" do
      document =
        shot(
          key("cart", "position", 1, [1.0, 0.5, 0.0]), key("cart", "position", 8, [8.0, 0.5, 0.0]),
          set("pot", :collider, true)
        )
      plan = Gas::Plan.new(document, :full)
      solid = plan.at(4)["solids"][0]
      expect([solid["from"]["position"], solid["to"]["position"]]).to match(
        [near([3.0, 1.5, 0.0]), near([4.0, 1.5, 0.0])]
      )
      expect(plan.at(4)["forces"][0]["position"]).to match(near([4.0, 1.0, 1.0]))
      expect(Geometry::Throws.new(plan.document, "sparks").at(4)["position"]).to match(near([4.0, 1.0, 0.0]))
      expect(Light::Rig.settings(document, 4)["lamps"].last.first(4)).to match(near([1.0, 4.0, 2.0, 0.0]))
      with_workshop do |workshop|
        row = workshop.bodies.make(document).find { |body| body["prop"] == "pot" }
        expect(row["poses"].map { |pose| pose[0].round(3) }).to eq((1..8).map(&:to_f))
      end
    end

    it "turns the short way from frame to frame, wherever a full turn ends" do
      document =
        shot(
          key("cart", "turn", 1, [0.0, 0.0, 0.0]), key("cart", "turn", 8, [0.0, 350.0, 0.0]),
          set("pot", :collider, true)
        )
      plan = Gas::Plan.new(document, :full)
      steps =
        (2..8).map do |frame|
          plan.at(frame)["solids"][0].then do |body|
            Geometry::Pose.of(body["from"]).towards(Geometry::Pose.of(body["to"]), 0.5).rigid.apply([1.0, 0.0, 0.0])
          end
        end
      wanted =
        (2..8).map do |frame|
          Geometry::Hanging.pose(document, document.node("pot"), frame - 0.5).rigid.apply([1.0, 0.0, 0.0])
        end
      expect(largest_difference(steps.flatten, wanted.flatten)).to be < 0.05
    end

    it "gives angles that stand for the same turn, straight up too" do
      random = Random.new(3)
      (Array.new(60) { Array.new(3) { random.rand(-180.0..180.0) } } + [[30.0, 90.0, 10.0], [30.0, -90.0, 10.0]]).each do |turn|
        one = Geometry::Transform.place(turn: turn)
        expect(largest_difference(Geometry::Transform.place(turn: one.angles).rows.flatten, one.rows.flatten)).to be <
          1e-6
      end
    end

    it "sets places of the world, with keys where there are keys" do
      document, =
        Shot::Edits.apply(
          shot(set("cart", :turn, [0.0, 90.0, 0.0])),
          [
            {
              "do" => "place", "node" => "pot", "position" => [3.0, 1.0, 2.0], "turn" => [0.0, 45.0, 0.0],
              "scale" => [3.0, 3.0, 3.0]
            }
          ]
        )
      expect(pose(document, "pot").to_a.first(3)).to match(
        [near([3.0, 1.0, 2.0]), near([0.0, 45.0, 0.0]), near([3.0, 3.0, 3.0])]
      )
      keyed, =
        Shot::Edits.apply(
          document,
          [
            key("pot", "position", 1, [0.0, 0.0, 0.0]),
            {"do" => "place", "node" => "pot", "frame" => 5, "position" => [0.0, 4.0, 0.0]}
          ]
        )
      expect(keyed.node("pot").curves[:position].keys.map(&:frame)).to eq([1, 5])
      expect(pose(keyed, "pot", 5).position).to match(near([0.0, 4.0, 0.0]))
    end

    it "faces another prop, wherever that goes, with its own turn on top" do
      document =
        shot(
          set("pot", :leader, nil), set("pot", :turn, [0.0, 0.0, 0.0]), set("pot", :position, [0.0, 0.5, 0.0]),
          set("pot", :aim, "cart"), key("cart", "position", 1, [0.0, 0.5, 3.0]),
          key("cart", "position", 8, [3.0, 3.5, 0.0]), set("pot", :collider, true)
        )
      front = ->(frame) do
        pose(document, "pot", frame).rigid.then do |rigid|
          rigid.apply([0.0, 0.0, 1.0]).zip(rigid.apply([0.0, 0.0, 0.0])).map { |a, b| a - b }
        end
      end
      expect(front.call(1)).to match(near([0.0, 0.0, 1.0]))
      expect(front.call(8)).to match(near([1.0, 1.0, 0.0].map { |c| c / Math.sqrt(2.0) }))
      expect(Geometry::Bodies.goes?(document, document.node("pot"))).to be(true)
      turned, = Shot::Edits.apply(document, [set("pot", :turn, [0.0, 180.0, 0.0])])
      expect(
        pose(turned, "pot", 1).rigid.apply([0.0, 0.0, 1.0]).zip(pose(turned, "pot", 1).position).map { |a, b| a - b }
      ).to match(near([0.0, 0.0, -1.0]))
      # Two that face each other do not go round for ever.
      both, = Shot::Edits.apply(document, [set("cart", :aim, "pot")])
      expect(pose(both, "pot", 1).turn).to match(near([0.0, 0.0, 0.0]))
    end

    it "takes the camera along, or its eye alone" do
      document = shot(key("cart", "position", 1, [1.0, 0.5, 0.0]), key("cart", "position", 8, [8.0, 0.5, 0.0]))
      expect(Picture::Camera.path(document)).to eq([])
      before = Picture::Camera.place(document, 1)
      led, = Shot::Edits.apply(document, [set("camera", :leader, "cart")])
      expect(Picture::Camera.place(led, 1).values.flatten).to match(near(before.values.flatten))
      moved = Picture::Camera.path(led).last
      expect(moved["position"].zip(before["position"]).map { |a, b| a - b }).to match(near([7.0, 0.0, 0.0]))
      expect(moved["target"].zip(before["target"]).map { |a, b| a - b }).to match(near([7.0, 0.0, 0.0]))
      aimed, = Shot::Edits.apply(document, [set("camera", :aim, "cart")])
      expect(Picture::Camera.settings(aimed, 8)["target"]).to match(near([8.0, 0.5, 0.0]))
    end

    it "goes in no circle" do
      expect(refusal { Shot::Edits.apply(shot, [set("cart", :leader, "pot")]) }).to eq(
        ["circle", "Cart cannot go with Pot, for that goes with it already; choose another."]
      )
      expect(refusal { Shot::Edits.apply(shot, [set("cart", :leader, "cart")]) }).to eq(
        ["circle", "Cart cannot go with Cart, for that goes with it already; choose another."]
      )
      gone, = Shot::Edits.apply(shot, [{"do" => "remove", "node" => "cart"}])
      expect(gone.node("pot")[:leader]).to be_nil
    end

    it "takes chambers along, as they stand on the first frame" do
      document =
        shot(
          key("cart", "position", 1, [1.0, 0.5, 0.0]), key("cart", "position", 8, [8.0, 0.5, 0.0]),
          {"do" => "add", "kind" => "annex", "id" => "side", "dials" => {"position" => [3.0, 0.0, 0.0]}},
          set("chamber", :leader, "cart"), set("side", :leader, "cart")
        )
      expect(%w[chamber side].map { |id| described_class.stood(document, document.node(id)) }).to match(
        [near([0.0, 0.0, 0.0]), near([3.0, 0.0, 0.0])]
      )
      before = Gas::Plan.new(document, :draft)
      moved, = Shot::Edits.apply(document, [key("cart", "position", 1, [2.0, 1.0, -1.0])])
      after = Gas::Plan.new(moved, :draft)
      expect(after.corner.zip(before.corner).map { |a, b| a - b }).to match(near([1.0, 0.5, -1.0]))
      expect(described_class.stood(moved, moved.node("side"))).to match(near([4.0, 0.5, -1.0]))
      # Both went by whole as much, so the further one lies among the cells as it did.
      expect(after.rooms.map { |room| room.to_a[1..2] }).to eq(before.rooms.map { |room| room.to_a[1..2] })
      expect(after.keys.values & before.keys.values).to be_empty
      # Fitting it is told in the world.
      placed, = Shot::Edits.apply(moved, [{"do" => "place", "node" => "chamber", "position" => [0.0, 0.0, 5.0]}])
      expect(described_class.stood(placed, placed.node("chamber"))).to match(near([0.0, 0.0, 5.0]))
      expect(refusal { Shot::Edits.apply(moved, [set("chamber", :leader, "camera")]) }[0]).to eq("unknown_node")
    end
  end
end
