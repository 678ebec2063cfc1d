# frozen_string_literal: true

module Vumbral
  RSpec.describe Studio::Shots do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:shots) { @workshop.shots }

    it "keeps shots under readable ids, newest change first" do
      a, b = shots.create("Kiln draw"), shots.create("Kiln draw!")
      c = shots.create("Über")
      expect([a, b, c].map { |row| row[:id] }).to eq(%w[kiln-draw kiln-draw-2 ber])
      shots.edit("kiln-draw", [set("look", :thickness, 3.0)])
      expect(shots.list.first[:id]).to eq("kiln-draw")
    end

    it "walks back and forth through what was done" do
      id = shelve(@workshop)
      shots.edit(id, [set("source-1", :smoke, 2.0)])
      shots.edit(id, [set("source-1", :smoke, 3.0)])
      expect(shots.steps(id)).to eq(undo: "Smoke 2 per s → 3 per s", redo: nil)
      expect(shots.undo(id)[:label]).to eq("Undone: Smoke 2 per s → 3 per s")
      expect(shots.document(id).node("source-1")[:smoke]).to eq(2.0)
      shots.undo(id)
      expect(refusal { shots.undo(id) }).to eq(["nothing_to_do", "There is nothing to undo."])
      2.times { shots.redo(id) }
      expect(shots.document(id).node("source-1")[:smoke]).to eq(3.0)
      expect(refusal { shots.redo(id) }).to match(["nothing_to_do", /redo/])
      # A new change after going back begins a branch; redo leads along it.
      shots.undo(id)
      shots.edit(id, [set("source-1", :smoke, 9.0)])
      shots.undo(id)
      shots.redo(id)
      expect(shots.document(id).node("source-1")[:smoke]).to eq(9.0)
    end

    it "refuses an edit whole, and the shot stays as it was" do
      id = shelve(@workshop)
      before = shots.document(id).to_json
      expect(refusal { shots.edit(id, [set("source-1", :smoke, 2.0), set("chamber", :size, [500, 500, 500])]) })
        .to match(["too_large", /The chamber would have .* voxels and need .*GB, but there are .*; make it smaller, or the voxel size at least .* m/])
      expect(refusal { shots.edit(id, [set("source-1", :glitter, 2.0)]) }).to match(["unknown_dial", /glitter/])
      expect(shots.document(id).to_json).to eq(before)
      expect(shots.steps(id)[:undo]).to be_nil
    end

    it "duplicates, renames, takes away and puts back" do
      id = shelve(@workshop)
      run_now(@workshop, id)
      twin = shots.duplicate(id)
      expect(twin[:name]).to eq("Little puff copy")
      shots.rename(id, "Big puff")
      expect(shots.fetch(id)[:name]).to eq("Big puff")
      shots.take_away(id)
      expect(shots.list.map { |row| row[:id] }).to eq(["little-puff-copy"])
      expect(shots.away.map { |row| row[:id] }).to eq([id])
      expect(@workshop.runs.there(shots.put_back(id)[:id]).size).to eq(8)
      expect(refusal { shots.put_back(id) }).to eq(["nothing_to_do", "Big puff stands on the shelf already."])
    end

    it "lets go of what was taken away, with what no other shot has use for" do
      id = shelve(@workshop)
      run_now(@workshop, id)
      twin = shots.duplicate(id)
      shots.edit(id, [set("source-1", :smoke, 2.0)])
      run_now(@workshop, id)
      expect(refusal { shots.let_go(id) }).to eq(
        ["on_the_shelf", "Little puff stands on the shelf; take it away first."]
      )
      shots.take_away(id)
      held = @workshop.holdings.of(id)
      expect(held).to include(frames: 8, of: 8, quality: "full")
      expect { shots.let_go(id) }.to change { Dir[File.join(@workshop.home.path, "frames", "*", "*.frame")].size }.from(
        16
      ).to(8)
      expect(refusal { shots.fetch(id) }).to match(
        ["unknown_shot", /There is no shot "little-puff"; there are: little-puff-copy/]
      )
      expect(@workshop.db[:runs].count).to eq(0)
      expect(@workshop.holdings.of(twin[:id])[:bytes]).to be_between(1, held[:bytes] - 1)
      # What the twin shares is still there.
      expect(run_now(@workshop, twin[:id])).to include(computed: 0, kept: 8)
    end

    it "lets two write at once without losing either" do
      id = shelve(@workshop)
      other = Studio::Workshop.new(@workshop.home.path)
      [@workshop, other].each_with_index.map do |workshop, n|
        Thread.new do
          10.times { |i| workshop.shots.edit(id, [{"do" => "add", "kind" => "lamp", "name" => "Lamp #{n}.#{i}"}]) }
        end
      end.each(&:join)
      expect(Studio::Workshop.new(@workshop.home.path).shots.document(id).of(:lamp).map(&:name)).to include(
        *[0, 1].flat_map { |n| (0...10).map { |i| "Lamp #{n}.#{i}" } }
      )
    end

    it "needs a proper name and a starter that there is" do
      expect(refusal { shots.create(" ") }).to match(["bad_name", /1 to 80/])
      expect(refusal { shots.create("x", starter: "volcano") }).to match(
        ["unknown_starter", /"volcano"; there are: plume/]
      )
      expect(
        refusal do
          shots.import("{\"format\":\"vumbral-shot\",\"version\":#{Shot::Document::VERSION + 1},\"name\":\"x\"}")
        end
      ).to match(["newer_version", /newer/])
      expect(shots.list).to eq([])
    end
  end

  RSpec.describe Studio::Starters do
    it "fits a mesh onto the ground, whatever its size and place" do
      mesh = Demo::Models.vase.transformed(Geometry::Transform.place(position: [500.0, -70.0, 3.0], scale: [120.0] * 3))
      with_workshop do |workshop|
        digest = workshop.assets.bring(Formats::OBJ.write(mesh), "tall_vase.obj")[:digest]
        row = workshop.shots.create("From a vase", starter: "plume", prop: digest)
        document = workshop.shots.document(row[:id])
        prop = document.node(document.node("source-1")[:prop])
        low, high =
          Geometry::Shapes.world(
            Geometry::Shapes.outline(prop).merge(Geometry::Bodies.pose(prop, nil, Shot::Document.blank("None"))),
            workshop.assets
          ).bounds
        expect(prop.name).to eq("Tall vase")
        expect([low[1], high[1]]).to match([be_within(1e-3).of(0.0), be_within(1e-3).of(0.9)])
        expect([low[0] + high[0], low[2] + high[2]]).to all(be_within(1e-2).of(0.0))
      end
    end

    it "runs and shows liquid at once, each that has one, whatever is brought along" do
      Studio::Waters::ALL.each do |starter|
        with_workshop do |workshop|
          vase = workshop.assets.bring(Formats::OBJ.write(Demo::Models.vase_inside), "vase.obj")[:digest]
          [nil, vase].each do |mesh|
            row = workshop.shots.create("Try", starter: starter, prop: mesh)
            workshop.shots.edit(row[:id], [set("liquid", :draft, 3.0), set("general", :last, 8)])
            expect(
              workshop.preflights.of(row[:id]).map { |found| found[:code] } - %w[wall_thin tank_outside inflow_never]
            ).to eq([])
            run_now(workshop, row[:id])
            facts = workshop.runs.state(row[:id], "draft")[:rows].last[:facts]
            expect([starter, facts["drops"]]).to match([starter, be > 20])
          end
        end
      end
    end

    it "gives what burns and what rises finer detail, in drafts at least" do
      detailed =
        Studio::Starters::ALL.keys.to_h do |starter|
          document = Studio::Starters.build(starter, "Try")
          [starter, %i[draft full].select { |quality| Gas::Detail.on?(Gas::Plan.new(document, quality)) }]
        end
      expect(detailed.reject { |_, qualities| qualities.empty? }).to eq(
        "plume" => %i[draft full], "fire" => %i[draft], "burst" => %i[draft full], "jet" => %i[draft]
      )
    end

    it "runs and shows smoke at once, each of them" do
      (Studio::Starters::ALL.keys - Studio::Starters::STILL - Studio::Waters::ALL).each do |starter|
        document = Shot::Edits.apply(Studio::Starters.build(starter, "Try"),
          [set("chamber", :draft, 3.0), set("general", :last, 12)])[0]
        with_workshop do |workshop|
          id = shelve(workshop, document)
          run_now(workshop, id)
          facts = workshop.runs.state(id, "draft")[:rows].last[:facts]
          # Over the picture of its chamber, optical depths, for small chambers hold little.
          width, tall, = document.the(:chamber)[:size]
          expect(facts["smoke"] * document.the(:look)[:thickness] / (width * tall)).to be > 0.005, starter
        end
      end
    end
  end
end
