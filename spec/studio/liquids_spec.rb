# frozen_string_literal: true

module Vumbral
  RSpec.describe Studio::Liquids do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:id) { shelve(@workshop, small_water) }

    def rows(quality = "draft") = @workshop.runs.state(id, quality)[:rows]

    def states = rows.map { |row| row[:state] }

    def set(node, dial, value) = {"do" => "set", "node" => node, "dial" => dial, "value" => value}

    def kick =
      {
        "do" => "add",
        "kind" => "kick",
        "name" => "Kick",
        "id" => "kick",
        "dials" => {
          "position" => [0.0, 0.1, 0.0], "extent" => [0.2, 0.2, 0.2], "first" => 4, "last" => 4
        }
      }

    def files(key) =
      Dir[File.join(@workshop.home.path, "frames", "*", "#{key}.*")].to_h do |path|
        [File.extname(path), File.binread(path)]
      end

    it "runs a shot that has a liquid alone, and uses its frames again" do
      expect(states).to eq(["none"] * 6)
      expect(run_now(@workshop, id)).to include(computed: 6, kept: 0)
      expect(states).to eq(["fresh"] * 6)
      expect(run_now(@workshop, id)).to eq(computed: 0, kept: 6)
      expect(rows[5][:facts]).to include("drops" => 1536, "substeps" => 1)
    end

    it "goes on from the first frame that a kick touches" do
      run_now(@workshop, id)
      @workshop.shots.edit(id, [kick])
      expect(states).to eq(["fresh"] * 3 + ["stale"] * 3)
      expect(run_now(@workshop, id)).to include(computed: 3, kept: 3)
      expect(states).to eq(["fresh"] * 6)
    end

    it "gives the same bytes resumed as uninterrupted" do
      @workshop.shots.edit(id, [kick, set("liquid", "spray", true), set("liquid", "crest", 900.0)])
      stub_const("Vumbral::Studio::LiquidSimulation::CHECKPOINT", 2)
      run_now(@workshop, id, frames: 1..4)
      run_now(@workshop, id)
      keys = @workshop.liquids.keys(@workshop.shots.document(id), "draft").values
      resumed = keys.map { |key| files(key).except(".state") }
      @workshop.holdings.let_go(keys)
      run_now(@workshop, id)
      expect(keys.map { |key| files(key).except(".state") } == resumed).to be(true)
      expect(resumed[-1].keys.sort).to eq(%w[.drops .frame .skin .spray .surface])
    end

    it "keeps the colours of what was poured together, on its surface and in what is handed on" do
      spout = {
        "do" => "add",
        "kind" => "prop",
        "name" => "Spout",
        "id" => "spout",
        "dials" => {
          "shape" => "sphere", "radius" => 0.08, "position" => [0.0, 0.3, 0.0]
        }
      }
      jet = {
        "do" => "add",
        "kind" => "inflow",
        "name" => "Jet",
        "id" => "jet",
        "dials" => {
          "prop" => "spout", "velocity" => [0.0, -1.0, 0.0], "dye" => [1.0, 0.0, 0.0], "breakup" => 0.0
        }
      }
      @workshop.shots.edit(id, [spout, jet])
      run_now(@workshop, id)
      plain = rows[5][:liquid]
      expect(@workshop.liquids.surface(plain).colours).to be_nil
      @workshop.shots.edit(id, [set("liquid", "dyed", true), set("liquid", "dye", [0.0, 0.0, 1.0])])
      stub_const("Vumbral::Studio::LiquidSimulation::CHECKPOINT", 2)
      run_now(@workshop, id, frames: 1..4)
      expect(run_now(@workshop, id)).to include(computed: 2)
      mesh = @workshop.liquids.surface(rows[5][:liquid])
      tints = Geometry::Colours.points(mesh).to_a.each_slice(3).to_a
      ys = mesh.points.to_a.each_slice(3).map { |place| place[1] }
      top, bottom = [tints[ys.index(ys.max)], tints[ys.index(ys.min)]]
      expect([top, bottom].flatten.zip([1.0, 0.0, 0.0, 0.0, 0.0, 1.0]).map { |a, b| (a - b).abs }.max).to be < 0.02
      expect(@workshop.liquids.shape(rows[5][:liquid]).bytesize).to eq(8 + 24 * mesh.points.dim(0) + 12 * mesh.count)
      Dir.mktmpdir do |out|
        work(@workshop, @workshop.exports.start(id, "ply", out: out, frames: 6..6))
        read = Formats::PLY.read(File.binread(Dir[File.join(out, "*.ply")][0]))
        expect(Geometry::Colours.points(read).to_a.max).to be_within(0.02).of(1.0)
      end
    end

    it "keeps spray of the kinds that are wanted" do
      wild = [
        kick, set("kick", "first", 2), set("kick", "last", 2), set("liquid", "spray", true),
        set("liquid", "trapped", 2000.0), set("liquid", "crest", 2000.0), set("general", "last", 12)
      ]
      @workshop.shots.edit(id, wild)
      kinds = -> do
        run_now(@workshop, id) && rows.flat_map { |row| @workshop.liquids.sprayed(row[:liquid])&.kinds.to_a }.tally
      end
      all = kinds[]
      expect(all.keys.sort).to include(1, 2)
      @workshop.shots.edit(id, [set("liquid", "flies", false)])
      expect(kinds[]).to eq(all.except(1))
      expect(rows.map { |row| row[:facts]["sprayed"] }.max).to be_positive
    end

    it "shows spray in pictures as the frame has it, cell by cell" do
      wild = [
        kick, set("kick", "first", 2), set("kick", "last", 2), set("liquid", "spray", true),
        set("liquid", "trapped", 2000.0), set("liquid", "crest", 2000.0)
      ]
      @workshop.shots.edit(id, wild)
      run_now(@workshop, id)
      document = @workshop.shots.document(id)
      key = rows[5][:liquid]
      own, head = @workshop.frames.read(key)
      expect([own.channels, head["voxel"] * 8]).to match(
        [[:smoke], be_within(1e-6).of(@workshop.liquids.lattice(key)[2])]
      )
      seen = @workshop.sculpts.carve(*@workshop.sculpts.recipes(document, 6, "draft"))
      expect([seen.lattice.voxel, seen.corner].flatten).to all_be_near([head["voxel"], *head["corner"]], 1e-6)
      filled = ->(bricks) do
        bricks
          .places
          .to_a
          .each_slice(3)
          .zip(bricks.values.to_a.each_slice(4096))
          .reject { |_, values| values.all?(&:zero?) }
          .to_h
      end
      expect(filled[seen.bricks]).to eq(filled[own])
      # Since a change it is not known, and nothing is asked for that is not there.
      @workshop.shots.edit(id, [set("liquid", "trapped", 1500.0)])
      expect(rows[5]).to include(state: "stale", key: nil, liquid: be_a(String))
      plan = -> { Liquid::Plan.new(document, :draft).surface["spray_fine"] }
      expect(plan[]).to eq(8)
      stub_const("Vumbral::Liquid::Plan::MOST_FINE", 30 * Liquid::Plan.new(document, :draft).cells)
      expect(plan[]).to eq(3)
      stub_const("Vumbral::Liquid::Plan::MOST_FINE", 1)
      expect(plan[]).to eq(2)
    end

    describe "with another surface" do
      def seen(name) = @workshop.liquids.shape(name)

      it "makes it of what was run, to the byte as a run from the beginning would" do
        @workshop.shots.edit(id, [kick, set("liquid", "spray", true), set("liquid", "crest", 900.0)])
        stub_const("Vumbral::Studio::LiquidSimulation::CHECKPOINT", 2)
        run_now(@workshop, id)
        before = rows.map { |row| seen(row[:liquid]) }
        @workshop.shots.edit(id, [set("liquid", "round", 0.9), set("liquid", "sheets", 1.0)])
        expect(states).to eq(["stale"] * 6)
        expect(run_now(@workshop, id)).to eq(computed: 0, kept: 6, surfaces: 6)
        expect(rows.map { |row| seen(row[:liquid]) }.zip(before).count { |now, old| now == old }).to eq(0)
        expect(rows[5][:facts]).to include("seconds", "drops", "triangles")
        # And goes on from there.
        @workshop.shots.edit(id, [set("general", "last", 7)])
        expect(run_now(@workshop, id)).to include(computed: 1, kept: 6)
        keys = @workshop.liquids.keys(@workshop.shots.document(id), "draft").values
        again = keys.map { |key| files(key) }
        @workshop.holdings.let_go(@workshop.db[:frames].select_map(:key))
        expect(run_now(@workshop, id)).to include(computed: 7)
        expect(keys.map { |key| files(key).except(".state") } == again.map { |all| all.except(".state") }).to be(true)
      end

      it "runs what was let go, and what flows otherwise" do
        run_now(@workshop, id)
        @workshop.frames.send(:path, rows[2][:liquid], "skin").then { |path| File.delete(path) }
        @workshop.shots.edit(id, [set("liquid", "round", 0.9)])
        expect(run_now(@workshop, id)).to include(computed: 1, kept: 5, surfaces: 5)
        @workshop.shots.edit(id, [set("liquid", "kept", 0.5)])
        expect(run_now(@workshop, id)).to include(computed: 6)
      end

      it "is varied by a test strip without a run" do
        run_now(@workshop, id)
        done =
          work(
            @workshop,
            @workshop.strips.start(id, [{"node" => "liquid", "dial" => "round", "values" => [0.5, 0.7, 0.9]}])[
              :job_id
            ]
          )
        expect(JSON.parse(done[:result])).to include("computed" => 0, "failed" => [])
        expect(@workshop.strips.show(id, 1)[:cells].map { |cell| cell[:done] }).to eq([6, 6, 6])
      end

      it "shows it while a dial is under the hand, and leaves the shot as it was" do
        run_now(@workshop, id)
        head, name = @workshop.shots.fetch(id)[:head], rows[5][:liquid]
        follow = ->(*edits) do
          @workshop.following.surface(id, 6, "draft", name, edits)&.then { |mesh| @workshop.liquids.encoded(mesh) }
        end
        expect(follow[set("liquid", "round", 0.5)]).to eq(seen(name))
        expect(follow[set("liquid", "round", 1.0)]).not_to eq(seen(name))
        expect([follow[set("liquid", "own", 0.5)], follow[set("sun-1", "strength", 0.5)], follow[]]).to eq([nil] * 3)
        expect(@workshop.following.surface(id, 6, "draft", name, "nonsense")).to be_nil
        expect(@workshop.shots.fetch(id)[:head]).to eq(head)
        @workshop.holdings.let_go([name])
        expect(refusal { follow[set("liquid", "round", 1.0)] }).to include("no_frame")
      end
    end

    describe "at another pace" do
      # How high the surface's points stand on average, and the highest.
      def heights(name)
        counts = @workshop.liquids.shape(name)
        rows = counts.byteslice(8, 12 * counts.unpack1("L<")).unpack("e*").each_slice(3).map { |place| place[1] }
        [rows.sum / rows.size, rows.max]
      end

      before do
        @workshop.shots.edit(id, [kick, set("kick", "first", 2), set("kick", "last", 2)])
        run_now(@workshop, id)
        @own = rows.map { |row| row[:liquid] }
      end

      it "is led between its frames, backwards and held, and nothing is run again" do
        @workshop.shots.edit(
          id, [set("liquid", "plays", "speed"), set("liquid", "speed", 0.5), set("liquid", "begins", 3.0)]
        )
        expect(states).to eq(["fresh"] * 6)
        expect(run_now(@workshop, id)).to include(computed: 0)
        slow = rows.map { |row| row[:liquid] }
        expect(slow.values_at(0, 2, 4)).to eq(@own.values_at(2, 3, 4))
        expect(slow[1]).to match(/\A#{@own[3]}\+-0\.02/)
        low, between, high = [@own[2], slow[1], @own[3]].map { |name| heights(name)[1] }
        expect(between).to be_between(*[low, high].sort)
        @workshop.shots.edit(id, [set("liquid", "speed", -1.0), set("liquid", "begins", 6.0)])
        expect(rows.map { |row| row[:liquid] }).to eq(@own.reverse)
        @workshop.shots.edit(id, [set("liquid", "speed", 0.0)])
        expect(rows.map { |row| row[:liquid] }.uniq).to eq([@own[5]])
      end

      it "goes into pictures and what is handed on" do
        @workshop.shots.edit(id, [set("liquid", "plays", "place"), set("liquid", "place", 4.0)])
        document = @workshop.shots.document(id)
        expect((1..6).map { |frame| document.made(frame) }.uniq).to eq([@own[3]])
        @workshop.shots.edit(id, [set("liquid", "place", 4.25)])
        water = document.of(:prop).find { |prop| prop[:shape] == "liquid" }
        outline = Geometry::Shapes.outline(water, document: @workshop.shots.document(id), frame: 1)
        expect(outline).to include("frame" => @own[3], "led" => be_within(1e-5).of(0.25 / 24))
        expect(Geometry::Shapes.build(outline, @workshop.assets).bounds[1][1]).not_to eq(
          @workshop.liquids.surface(@own[3]).bounds[1][1]
        )
      end
    end

    it "keeps each frame's surface and particles, and gives their space back" do
      run_now(@workshop, id)
      key = rows[2][:liquid]
      mesh = @workshop.liquids.surface(key)
      expect(mesh).to be_closed
      points, triangles = @workshop.liquids.shape(key).unpack("L<2")
      expect([points, triangles]).to eq([mesh.points.dim(0), mesh.count])
      expect(@workshop.liquids.points(key).dim(0)).to be_between(200, 600)
      expect(@workshop.holdings.of(id)[:frames]).to eq(6)
      @workshop.holdings.clear(id)
      expect(files(key)).to eq({})
    end

    it "makes a frame anew of which a part was damaged or is gone" do
      run_now(@workshop, id)
      key = rows[3][:liquid]
      path = Dir[File.join(@workshop.home.path, "frames", "*", "#{key}.surface")][0]
      File.binwrite(path, File.binread(path)[0, 200])
      other = described_class.new(@workshop)
      expect(refusal { other.surface(key) }[0]).to eq("no_frame")
      expect(states[3]).to eq("none")
      expect(run_now(@workshop, id)).to include(computed: 1, kept: 5)
      expect(other.surface(key)).to be_closed
    end

    it "is seen in pictures, and says where it was not run" do
      expect(refusal { @workshop.prints.take(id, 3) }[1]).to include("The liquid of frame 3 has not been run")
      run_now(@workshop, id)
      before = work(@workshop, @workshop.prints.take(id, 3))
      expect(before[:state]).to eq("done")
      document = @workshop.shots.document(id)
      body = Geometry::Bodies.of(document, document.node("water"), 3)
      expect(Geometry::Shapes.build(body["outline"], @workshop.assets).count).to be > 100
      # A shot that nobody has run has nothing of it.
      expect(
        Geometry::Shapes.build(
          Geometry::Bodies.of(small_water, small_water.node("water"), 3)["outline"], @workshop.assets
        ).count
      ).to eq(0)
    end

    it "drifts within a frame, so that what is fast is blurred" do
      @workshop.shots.edit(
        id,
        [
          kick.merge("dials" => kick["dials"].merge("velocity" => [0.0, 3.0, 0.0])), set("camera", "shutter", 360.0),
          set("camera", "samples", 4)
        ]
      )
      run_now(@workshop, id)
      document = @workshop.shots.document(id)
      body = Picture::PropScene.settings(document, 4).find { |prop| prop["prop"] == "water" }["body"]
      tops = [0.0, 1.0].map { |at| Geometry::Shapes.build(body["outline"], @workshop.assets, at).bounds[1][1] }
      expect(tops[1] - tops[0]).to be_between(0.01, 0.15)
      expect(work(@workshop, @workshop.prints.take(id, 4))[:state]).to eq("done")
    end

    it "tells how much a kick would catch, before a run and after it" do
      @workshop.shots.edit(id, [kick])
      pool = @workshop.liquids.caught(@workshop.shots.document(id), "kick")
      expect(pool[:of]).to eq(1536)
      # A fifth of the floor, a quarter of its area.
      expect(pool[:caught]).to be_within(60).of(384)
      run_now(@workshop, id)
      after = @workshop.liquids.caught(@workshop.shots.document(id), "kick")
      expect(after[:caught].fdiv(after[:of])).to be_within(0.08).of(0.25)
      expect(refusal { @workshop.liquids.caught(@workshop.shots.document(id), "liquid") }[1]).to include("no kick")
    end

    it "shows its spray as copies of a prop, by its age" do
      bead = {
        "do" => "add",
        "kind" => "prop",
        "name" => "Bead",
        "id" => "bead",
        "dials" => {
          "shape" => "sphere", "radius" => 0.01, "shown" => false
        }
      }
      @workshop.shots.edit(
        id,
        [
          kick, bead, set("liquid", "spray", true), set("liquid", "crest", 900.0), set("liquid", "trapped", 900.0),
          set("liquid", "beads", "bead"), set("liquid", "bead_vary", 0.0)
        ]
      )
      run_now(@workshop, id)
      frame = (4..6).find { |one| @workshop.liquids.sprayed(rows[one - 1][:liquid]) }
      document = @workshop.shots.document(id)
      copies = Picture::ParticleCopies.new(document, @workshop.assets).at(frame)
      expect(copies.size).to eq(@workshop.liquids.sprayed(document.made(frame)).count)
      expect(copies.map { |copy| copy["body"]["to"]["scale"][0] }.max).to be <= 1.0
      @workshop.shots.edit(
        id, [set("liquid", "bead_life", [{"at" => 0.0, "value" => 3.0}, {"at" => 1.0, "value" => 2.0}])]
      )
      larger = Picture::ParticleCopies.new(@workshop.shots.document(id), @workshop.assets).at(frame)
      expect(larger.map { |copy| copy["body"]["to"]["scale"][0] }.min).to be >= 1.0
    end

    it "hands its surface on with speeds, and its particles" do
      @workshop.shots.edit(id, [kick])
      run_now(@workshop, id)
      Dir.mktmpdir do |out|
        work(@workshop, @workshop.exports.start(id, "ply", out: out, frames: 4..4))
        head = File.binread(Dir[File.join(out, "*.ply")][0])[0, 400]
        expect(head).to include("property float vx")
      end
      Dir.mktmpdir do |out|
        row = work(@workshop, @workshop.exports.start(id, "drops", out: out, frames: 4..5))
        expect(JSON.parse(row[:result])).to include("files" => 2, "frames" => "4-5")
        head, = File.binread(Dir[File.join(out, "*0004.ply")][0]).split("end_header\n")
        expect(head.scan(/property float (\w+)/).flatten).to eq(%w[x y z vx vy vz age id kind pressure])
      end
      # Frames of before told no pressure.
      key = rows[4][:liquid]
      head, parts = @workshop.frames.part(key, "drops")
      told = @workshop.liquids.points(key).to_a
      @workshop.frames.write_part(key, "drops", head, parts.except(:pressures))
      expect(@workshop.liquids.points(key).to_a.each_slice(10).map { |row| row.first(9) }).to eq(
        told.each_slice(10).map { |row| row.first(9) }
      )
      Dir.mktmpdir do |out|
        work(@workshop, @workshop.exports.start(id, "vdb-surface", out: out, frames: 1..1))
        volume = Formats::VDBReader.new(File.binread(Dir[File.join(out, "*.vdb")][0]), "surface").call.volumes[0]
        expect([volume.name, volume.level_set]).to eq(["surface", true])
        # The water line stands at 0.15 m, and the floor at nothing.
        at = ->(y) do
          3
            .times
            .map { |a| (([0.0, y, 0.0][a] - volume.place[a]) / volume.voxel).round }
            .then { |i, j, k| volume.values[k, j, i] }
        end
        expect([at[0.15 - 0.05], at[0.15 + 0.05]]).to match([be_within(0.027).of(-0.05), be_within(0.027).of(0.05)])
        expect(at[0.07]).to be < 0
      end
      expect(refusal { @workshop.exports.start(id, "vdb") }[1]).to include("as a mesh")
      expect(refusal { @workshop.exports.start(shelve(@workshop), "drops") }[1]).to include("no liquid")
    end

    it "lets gas come from its surface, in the same run" do
      gas = [
        {
          "do" => "add",
          "kind" => "source",
          "name" => "Steam",
          "dials" => {
            "prop" => "water", "from" => "surface", "breakup" => 0.0
          }
        },
        set("chamber", "voxel", 0.06),
        set("chamber", "size", [0.5, 0.6, 0.5])
      ]
      @workshop.shots.edit(id, gas)
      result = run_now(@workshop, id)
      expect(result).to include(computed: 6)
      expect(result[:liquid]).to include(computed: 6)
      row = rows[5]
      expect(row).to include(state: "fresh")
      expect(row[:facts]["smoke"]).to be_positive
      bricks, head = @workshop.frames.read(row[:key])
      filled = bricks.places.to_a.size
      expect([filled.positive?, head["voxel"]]).to eq([true, 0.09])
      # Another water line is another gas.
      @workshop.shots.edit(id, [set("liquid", "line", 0.2)])
      expect(states).to eq(["stale"] * 6)
    end

    it "takes gas along with what it throws, in the same run" do
      mist = {
        "do" => "add",
        "kind" => "source",
        "name" => "Mist",
        "id" => "mist",
        "dials" => {
          "prop" => "water", "from" => "surface", "breakup" => 0.0
        }
      }
      along = {
        "do" => "add",
        "kind" => "force",
        "name" => "Along",
        "id" => "along",
        "dials" => {
          "what" => "spray", "strength" => 20.0
        }
      }
      @workshop.shots.edit(
        id,
        [
          mist, kick, along, set("kick", "first", 2), set("kick", "last", 2), set("liquid", "spray", true),
          set("liquid", "trapped", 2000.0), set("liquid", "crest", 2000.0), set("chamber", "voxel", 0.06),
          set("chamber", "size", [0.5, 0.6, 0.5])
        ]
      )
      run_now(@workshop, id)
      with = rows.map { |row| row[:facts]["speed"] }
      @workshop.shots.edit(id, [set("along", "strength", 0.0)])
      expect(run_now(@workshop, id)[:liquid]).to include(computed: 0)
      without = rows.map { |row| row[:facts]["speed"] }
      expect(with[5]).to be > without[5] + 0.05
      # The gas of a liquid that throws otherwise is another one.
      @workshop.shots.edit(id, [set("liquid", "trapped", 1000.0)])
      expect(states.last).to eq("stale")
    end

    it "is varied by a test strip, whose frames are shared and let go" do
      @workshop.shots.edit(id, [kick])
      run_now(@workshop, id)
      axes = [{"node" => "kick", "dial" => "strength", "values" => [1.0, 1.5]}]
      guess = @workshop.strips.forecast(id, axes)
      # Three frames behind the kick of one variation; the other is the shot as it stands.
      expect(guess).to include(runs: 2, frames: 6, new: 3)
      done = work(@workshop, @workshop.strips.start(id, axes)[:job_id])
      expect(JSON.parse(done[:result])).to include("computed" => 3, "failed" => [])
      shown = @workshop.strips.show(id, 1)
      expect(shown[:cells].map { |cell| cell[:done] }).to eq([6, 6])
      expect(shown[:cells].map { |cell| cell[:figures][:fastest] }.then { |slow, fast| fast - slow }).to be > 0.5
      own = shown[:cells][1][:rows][5][:liquid]
      expect(files(own)).not_to eq({})
      @workshop.strips.take_away(id, 1)
      expect(files(own)).to eq({})
      expect(states).to eq(["fresh"] * 6)
    end

    it "foretells what it costs, and refuses what does not fit" do
      guess = @workshop.runs.state(id, "draft")[:forecast]["draft"]
      expect(guess).to include(cells: 512)
      expect(guess[:seconds]).to be_positive
      expect(refusal { @workshop.shots.edit(id, [set("liquid", "voxel", 0.0004)]) }[1]).to match(
        /million particles, and need/
      )
      expect(
        refusal { @workshop.shots.edit(id, [{"do" => "add", "kind" => "liquid", "name" => "Another"}]) }[1]
      ).to include("at most")
    end

    it "says that nothing fills it" do
      @workshop.shots.edit(id, [set("liquid", "pool", false)])
      expect(refusal { @workshop.runs.start(id, "draft") }[1]).to include("Nothing feeds this shot")
    end
  end
end
