# frozen_string_literal: true

module Vumbral
  RSpec.describe Shot::Arranging do
    def add(kind, id, **dials) =
      {"do" => "add", "kind" => kind, "id" => id, "name" => id.capitalize, "dials" => dials.transform_keys(&:to_s)}

    def key(node, dial, frame, value) =
      {"do" => "key", "node" => node, "dial" => dial, "frame" => frame, "value" => value, "ease" => "smooth"}

    def after(document, *edits) = Shot::Edits.apply(document, edits)[0]

    def place(document, id, frame = 1) = Geometry::Hanging.pose(document, document.node(id), frame).position

    def near(values) = values.map { |value| be_within(1e-5).of(value) }

    # A pot that is carried along, a jug beside it, and a lamp.
    let(:document) do
      small_shot(
        edits: [
          add("prop", "pot", position: [0.0, 1.0, 0.0]), add("prop", "jug", position: [2.0, 0.0, 0.0], shape: "box"),
          add("lamp", "bulb", position: [1.0, 3.0, 4.0]), key("pot", "position", 1, [0.0, 1.0, 0.0]),
          key("pot", "position", 8, [4.0, 1.0, 0.0])
        ]
      )
    end
    let(:grouped) { after(document, {"do" => "group", "nodes" => %w[pot jug bulb], "name" => "Table"}) }

    describe "a group" do
      it "is a mark in the middle of its things, which stay where they stand at every frame" do
        mark = grouped.node("group-1")
        expect([mark.name, mark[:shape], mark[:position]]).to eq(["Table", "mark", [1.0, 1.5, 2.0]])
        [1, 4, 8].each { |frame| expect(place(grouped, "pot", frame)).to match(near(place(document, "pot", frame))) }
        expect(place(grouped, "jug")).to match(near([2.0, 0.0, 0.0]))
        expect(Geometry::Hanging.point(grouped, grouped.node("bulb"), :position, 1)).to match(near([1.0, 3.0, 4.0]))
      end

      it "moves, is hidden, switched off and alone with all that goes with it" do
        moved = after(grouped, set("group-1", :position, [1.0, 2.5, 2.0]))
        expect(place(moved, "pot", 8)).to match(near([4.0, 2.0, 0.0]))
        hidden = after(grouped, key("group-1", "shown", 1, true), key("group-1", "shown", 5, false))
        expect([4, 5].map { |frame| hidden.shown?(hidden.node("jug"), frame) }).to eq([true, false])
        expect(hidden.comes_and_goes?(hidden.node("jug"))).to be(true)
        expect(Picture::PropScene.settings(hidden, 5).map { |row| row["prop"] }).not_to include("pot", "jug", "group-1")
        off = after(grouped, {"do" => "switch", "node" => "group-1", "off" => true})
        expect([off.of(:prop), off.of(:lamp)].map { |all| all.map(&:id) & %w[pot jug bulb group-1] }).to eq([[], []])
        alone = after(grouped, {"do" => "switch", "node" => "group-1", "only" => true})
        expect(alone.of(:prop).map(&:id)).to contain_exactly("pot", "jug", "group-1")
      end

      it "does not hide what shall be seen by itself" do
        hidden = after(grouped, set("group-1", :shown, false))
        alone = hidden.with_on("jug", :shown)
        expect(%w[jug pot].map { |id| alone.shown?(alone.node(id), 1) }).to eq([true, false])
      end

      it "leaves its things where they stand once it is taken away" do
        free = after(grouped, set("group-1", :position, [1.0, 2.5, 2.0]), {"do" => "remove", "node" => "group-1"})
        expect(%w[pot jug].map { |id| free.node(id)[:leader] }).to eq([nil, nil])
        expect([place(free, "pot", 8), place(free, "jug")]).to match([near([4.0, 2.0, 0.0]), near([2.0, 1.0, 0.0])])
      end

      it "goes with what all of its things went with" do
        carried =
          after(
            document, add("prop", "cart", position: [5.0, 0.0, 0.0]), set("pot", :leader, "cart"),
            set("jug", :leader, "cart"), {"do" => "group", "nodes" => %w[pot jug]}
          )
        expect(carried.node("group-1")[:leader]).to eq("cart")
        expect(place(carried, "pot", 8)).to match(near([4.0, 1.0, 0.0]))
      end
    end

    it "leads keys along through turns and sizes of what things go with" do
      turned =
        after(
          document, add("prop", "wheel", position: [1.0, 0.0, 0.0], turn: [0.0, 90.0, 0.0], scale: [2.0, 2.0, 2.0]),
          key("pot", "turn", 1, [0.0, 0.0, 0.0]), key("pot", "turn", 8, [0.0, 60.0, 0.0])
        )
      led = after(turned, set("pot", :leader, "wheel"))
      [1, 3, 6].each do |frame|
        was, now = [turned, led].map { |one| Geometry::Hanging.pose(one, one.node("pot"), frame) }
        expect([now.position, now.turn, now.scale]).to match([near(was.position), near(was.turn), near(was.scale)])
      end
    end

    it "moves several at once, those that go with another of them once" do
      moved, words =
        Shot::Edits.apply(grouped, [{"do" => "shift", "nodes" => %w[group-1 pot jug], "by" => [0.0, 0.0, 1.0]}])
      expect(words).to eq("Table moved")
      expect([place(moved, "jug"), place(moved, "pot", 8)]).to match([near([2.0, 0.0, 1.0]), near([4.0, 1.0, 1.0])])
      keyed, =
        Shot::Edits.apply(
          document, [{"do" => "shift", "nodes" => %w[pot jug], "by" => [0.0, 1.0, 0.0], "frame" => 8}]
        )
      expect([place(keyed, "pot", 8), place(keyed, "pot", 1), place(keyed, "jug")]).to match(
        [near([4.0, 2.0, 0.0]), near([0.0, 1.0, 0.0]), near([2.0, 1.0, 0.0])]
      )
    end

    describe "duplicates" do
      def copies(document, **more) =
        after(document, {"do" => "duplicate", "nodes" => %w[pot], "times" => 2}.merge(more.transform_keys(&:to_s)))

      it "stand off each other in place, turn, size and time, with what belongs to them and feeds from them" do
        source = document.of(:source)[0].id
        base = after(document, add("operation", "twist", prop: "pot", what: "twist"), set(source, :prop, "pot"))
        made =
          copies(
            base, by: [0.0, 0.0, 1.5], turn: [0.0, 30.0, 0.0], size: 0.5, frames: 3, feeds: true,
            dials: [{"node" => source, "dial" => "strength", "by" => 0.25}]
          )
        first, second = made.of(:prop).last(2)
        expect([first.name, second.name]).to eq(["Pot 2", "Pot 3"])
        expect([first, second].map { |node| [node[:turn], node[:scale]] }).to eq(
          [[[0.0, 30.0, 0.0], [0.5] * 3], [[0.0, 60.0, 0.0], [0.25] * 3]]
        )
        expect(second.curves[:position].keys.map { |one| [one.frame, one.value] }).to eq(
          [[7, [0.0, 1.0, 3.0]], [14, [4.0, 1.0, 3.0]]]
        )
        expect(made.all_of(:operation).map { |node| node[:prop] }).to eq(["pot", first.id, second.id])
        expect(made.of(:source).map { |node| node[:prop] }).to eq(["pot", first.id, second.id])
        strengths = made.of(:source).map { |node| node[:strength] }
        expect(strengths).to match(near([strengths[0], strengths[0] + 0.25, strengths[0] + 0.5]))
      end

      it "of a group hold all of it, each led by its own mark" do
        made = after(grouped, {"do" => "duplicate", "nodes" => ["group-1"], "by" => [10.0, 0.0, 0.0]})
        mark = made.of(:prop).find { |node| node.name == "Table copy" }
        expect(
          made.nodes.values.select { |node| node.kind.dials.key?(:leader) && node[:leader] == mark.id }.map(&:name)
        ).to contain_exactly("Pot copy", "Jug copy", "Bulb copy")
        expect(Geometry::Hanging.point(made, made.of(:lamp).last, :position, 1)).to match(near([11.0, 3.0, 4.0]))
      end

      it "refuse what cannot be, and change nothing" do
        expect(refusal { copies(document, times: 0) }).to eq(
          ["bad_value", "Of copies, times is a whole number from 1 to 500, not 0."]
        )
        expect(
          refusal do
            copies(document, times: 500, feeds: true).then do |made|
              copies(made, times: 500).then { |more| 3.times.reduce(more) { |at, _| copies(at, times: 500) } }
            end
          end[
            0
          ]
        ).to eq("too_many")
        expect(refusal { copies(document, size: 0) }[1]).to include("0.01 to 100 times as large")
        expect(refusal { copies(document, by: [1, 2]) }[1]).to include("three numbers")
        expect(refusal { copies(document, dials: [{"node" => "pot", "dial" => "shape", "by" => 1}]) }[1]).to include(
          "no number that could differ"
        )
        expect(refusal { copies(document, dials: [{"node" => "jug", "dial" => "radius", "by" => 1}]) }[1]).to include(
          "not among what is duplicated"
        )
        expect(refusal { copies(document, dials: [{"node" => "pot", "dial" => "radius", "by" => -1.0}]) }[0]).to eq(
          "out_of_range"
        )
      end
    end

    it "asks for things that are there and can be moved" do
      expect(refusal { after(document, {"do" => "shift", "nodes" => [], "by" => [0, 0, 0]}) }[1]).to include(
        "a list of 1 to 500 ids"
      )
      expect(refusal { after(document, {"do" => "shift", "nodes" => ["camera"], "by" => [0, 0, 0]}) }[1]).to include(
        "belongs to every shot"
      )
      expect(refusal { after(document, {"do" => "shift", "nodes" => ["pot"], "by" => [0, 1e9, 0]}) }[1]).to include(
        "three numbers up to 10000"
      )
      expect(
        refusal { after(document, add("look", "plain"), {"do" => "group", "nodes" => ["plain"]}) }[1]
      ).to include("None of these can go with a mark")
    end
  end
end
