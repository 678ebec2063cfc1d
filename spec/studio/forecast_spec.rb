# frozen_string_literal: true

module Vumbral
  RSpec.describe Studio::Forecast do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    def forecast(id, quality = "full") = @workshop.runs.state(id, quality)[:forecast][quality]

    it "guesses at first, then goes by what frames have cost here" do
      id = shelve(@workshop)
      first = forecast(id)
      expect(first).to include(measured: false, cells: 14 * 20 * 14, memory: 14 * 20 * 14 * Gas::Plan::BYTES_PER_CELL)
      spent = run_now(@workshop, id)[:seconds]
      after = forecast(id)
      expect(after[:measured]).to be(true)
      # It forecasts the run that was, to a factor of two.
      expect(after[:seconds]).to be_between(0.3 * spent - 0.1, 3 * spent + 0.1)
      expect(after[:disk]).to be > 1000
    end

    it "tells how right the last one was, and counts what goes into lighting and writing frames as well" do
      id = shelve(@workshop)
      expect(@workshop.forecast.last(id)).to be_nil
      first = forecast(id, "draft")
      result = run_now(@workshop, id)
      expect(@workshop.forecast.last(id)).to match(
        frames: 8, seconds: result[:seconds], forecast: be_within(0.002).of(first[:seconds])
      )
      expect(result[:solved]).to be_between(0.0001, result[:seconds])
      told = forecast(id)[:seconds]
      # As if lighting had taken four times as long as all the rest.
      @workshop.db[:frames].each do |row|
        @workshop.db[:frames].where(key: row[:key]).update(
          facts: JSON.generate(JSON.parse(row[:facts]).then { |facts| facts.merge("paced" => 5.0 * facts["paced"]) })
        )
      end
      # What was found counts for a while.
      expect(forecast(id)[:seconds]).to eq(told)
      again = Studio::Workshop.new(@workshop.home.path).runs.state(id, "full")[:forecast]["full"]
      expect(again[:seconds]).to be_within(0.01).of(5.0 * told)
      # A run of two frames says nothing of it.
      @workshop.shots.edit(id, [set("general", :last, 10)])
      expect(run_now(@workshop, id)[:computed]).to eq(2)
      expect(@workshop.forecast.last(id)[:frames]).to eq(8)
    end

    it "counts a liquid's particles as well as its cells, those of a band alone where there is one" do
      id = shelve(@workshop, small_water)
      run_now(@workshop, id)
      # So many frames that the rounding of seconds does not count.
      @workshop.shots.edit(id, [set("general", :last, 400)])
      seconds = ->(**dials) do
        @workshop.shots.edit(id, dials.map { |dial, value| set("liquid", dial, value) }) &&
          forecast(id, "draft")[:seconds]
      end
      cells = 8 * 8 * 8
      shallow, deep, banded = seconds[line: 0.1], seconds[line: 0.35], seconds[line: 0.35, band: 4]
      # Of eight layers of cells two, seven, and five have particles.
      expect(deep / shallow).to be_within(0.01).of((0.5 * cells + 7 * 512) / (0.5 * cells + 2 * 512))
      expect(banded / shallow).to be_within(0.01).of((0.5 * cells + 5 * 512) / (0.5 * cells + 2 * 512))
      # What is only poured fills as much of its cells as liquids did before.
      expect(seconds[pool: false, band: 0]).to be_positive
    end

    it "foresees the room of finer detail by what it took" do
      id = shelve(@workshop, small_shot(edits: [set("detail", :on, true)]))
      run_now(@workshop, id)
      taken = @workshop.db[:frames].sum(:bytes)
      expect(forecast(id)[:disk]).to be_within(0.3 * taken).of(taken)
    end

    it "foresees the time of finer detail by what it took" do
      id = shelve(@workshop, small_shot(edits: [set("detail", :on, true)]))
      run_now(@workshop, id)
      rows = @workshop.db[:frames].select_map(%i[key facts]).map { |key, text| [key, JSON.parse(text)] }
      fine, coarse = rows.partition { |_, facts| facts["finer"] }
      expect(fine.map { |_, facts| facts["refining"] }).to all(be_positive)
      each = coarse.sum { |_, facts| facts["paced"] } / coarse.size
      once, thrice = [each, 3 * each].map do |seconds|
        fine.each do |key, facts|
          @workshop.db[:frames].where(key: key).update(facts: JSON.generate(facts.merge("refining" => seconds)))
        end
        Studio::Forecast.new(@workshop).of(Gas::Plan.new(@workshop.shots.document(id), :draft), id)[:seconds]
      end
      expect(thrice / once).to be_within(0.3).of(2.0)
    end

    it "grows with voxels, frames, substeps and finer detail" do
      id = shelve(@workshop)
      before = forecast(id)
      [set("chamber", :voxel, 0.035), set("general", :last, 80), set("chamber", :substeps_least, 4),
        set("detail", :on, true)].each do |edit|
        @workshop.shots.edit(id, [edit])
        after = forecast(id)
        expect(after[:seconds]).to be > 1.5 * before[:seconds]
        before = after
      end
    end
  end

  RSpec.describe Studio::FrameCost do
    def frame(work, substeps, paced) = {"used" => work, "substeps" => substeps, "paced" => paced}

    it "finds how the cost of a frame grows with what is computed" do
      rows =
        [10_000, 40_000, 90_000, 200_000].flat_map do |cells|
          [1, 2].map { |substeps| frame(cells, substeps, 1e-4 * (cells * substeps)**0.6) }
        end
      expect(described_class.of(rows * 10, 1.0).seconds([1e6, 1e4]).sum).to be_within(5).percent_of(
        1e-4 * (1e6**0.6 + 1e4**0.6)
      )
    end

    it "takes frames that are alike as they are, and those that tell the solver's time alone with the pace of runs" do
      expect(described_class.of([frame(10_000, 1, 0.1)] * 5, 1.0).seconds([10_000, 10_000]).sum).to be_within(1e-6).of(
        0.2
      )
      expect(
        described_class.of([{"size" => [10, 10, 10], "substeps" => 1, "seconds" => 0.01}] * 4, 3.0).seconds([1000])[0]
      ).to be_within(1e-6).of(0.03)
      expect(described_class.of([], 1.0).seconds([1e6])[0]).to be_within(1e-6).of(1.0)
    end

    it "never says that more work takes less" do
      rows = [[10_000, 0.2], [20_000, 0.1], [30_000, 0.05]].map { |cells, seconds| frame(cells, 1, seconds) }
      cost = described_class.of(rows, 1.0)
      expect(cost.seconds([60_000])[0]).to be >= cost.seconds([10_000])[0]
    end
  end

  RSpec.describe Studio::Expected do
    it "counts the substeps that finer voxels ask for, and lets later frames be like the last" do
      document = small_shot(edits: [set("general", :last, 4), set("chamber", :substeps_most, 8)])
      plan = Gas::Plan.new(document, :full)
      # At twice the voxel size the gas crossed so many cells a frame, and half of a small chamber was in use.
      crossed = 6.0 * document.the(:chamber)[:cells] / 4.0 * plan.voxel * document.rate
      rows =
        Array.new(2) { {"used" => plan.cells / 16, "whole" => plan.cells / 8.0, "substeps" => 1, "speed" => crossed} }
      expected = described_class.new(plan, rows, 0.1, 1.0)
      # As much of what is in use lies around the gas, so that it comes to less than half now.
      expect(expected.used).to be_between(0.2 * plan.cells * 4, 0.45 * plan.cells * 4)
      expect(expected.works.sum / expected.used).to be_within(0.01).of(2.0)
      expect(described_class.new(plan, [], 0.25, 1.5).works).to all(be_within(1).percent_of(0.25 * plan.cells * 1.5))
    end
  end

  RSpec.describe Studio::Refining do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    it "is switched and changed without running the simulation again" do
      id = shelve(@workshop)
      run_now(@workshop, id)
      coarse = @workshop.runs.best(id, 5)[1]
      @workshop.shots.edit(id, [set("detail", :on, true)])
      expect(@workshop.runs.state(id, "draft")[:rows].map { |row| row[:state] }.uniq).to eq(["stale"])
      expect(run_now(@workshop, id)).to include(computed: 0, kept: 8, refined: 8)
      fine = @workshop.runs.best(id, 5)[1]
      expect(fine).not_to eq(coarse)
      expect(@workshop.frames.read(fine)[1]["voxel"]).to be_within(1e-9).of(0.035)
      @workshop.shots.edit(id, [set("detail", :strength, 2.0)])
      expect(run_now(@workshop, id)).to include(computed: 0, refined: 8)
      @workshop.shots.edit(id, [set("detail", :on, false)])
      expect(@workshop.runs.best(id, 5)[1]).to eq(coarse)
      # Exports and prints take the finer frames where they are on.
      @workshop.shots.undo(id)
      expect(work(@workshop, @workshop.prints.take(id, 6))[:state]).to eq("done")
    end
  end

  RSpec.describe Studio::Bodies do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    it "tells where still, moving, hidden and broken props stand" do
      document =
        small_shot(
          edits: [
            {"do" => "key", "node" => "prop-1", "dial" => "position", "frame" => 1, "value" => [0.0, 0.0, 0.0]},
            {
              "do" => "key", "node" => "prop-1", "dial" => "position", "frame" => 8, "value" => [0.7, 0.0, 0.0],
              "ease" => "linear"
            },
            {"do" => "key", "node" => "prop-1", "dial" => "shown", "frame" => 1, "value" => true},
            {"do" => "key", "node" => "prop-1", "dial" => "shown", "frame" => 6, "value" => false},
            {
              "do" => "add",
              "kind" => "prop",
              "id" => "lid",
              "name" => "Lid",
              "dials" => {
                "shape" => "box", "breaks" => true, "break_frame" => 4, "pieces" => 5
              }
            }
          ]
        )
      expect(@workshop.bodies.known(document)).to be_nil
      id = shelve(@workshop, document)
      work(@workshop, @workshop.jobs.add("bodies", nil, {document: document.to_json}))
      rows = @workshop.bodies.known(document)
      moving = rows.find { |row| row["prop"] == "prop-1" }
      expect([moving["poses"][0][0], moving["poses"][7]]).to eq([0.0, nil])
      expect(moving["poses"][4][0]).to be_between(0.3, 0.5)
      lid = rows.select { |row| row["prop"] == "lid" }
      expect(lid.size).to eq(6)
      expect(lid[0]["poses"].map(&:nil?)).to eq([false] * 3 + [true] * 5)
      expect(lid[1]["poses"].map(&:nil?)).to eq([true] * 3 + [false] * 5)
      expect(@workshop.assets.mesh(lid[1]["outline"]["mesh"])).to be_closed
      expect(@workshop.assets.list).to eq([])
      expect(@workshop.shots.document(id).of(:prop).size).to eq(3)
    end
  end

  RSpec.describe Studio::Assets do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    def picture = Vips::Image.black(4, 2).cast(:uchar).draw_rect(255, 2, 0, 2, 2, fill: true).write_to_buffer(".png")

    it "brings pictures, which thin a source where they are dark" do
      row = @workshop.assets.bring_picture(picture, "mask.png")
      expect(row).to include(name: "mask.png", facts: {"width" => 4, "height" => 2})
      expect(@workshop.assets.picture(row[:digest]).to_a.first(4)).to eq([0.0, 0.0, 1.0, 1.0])
      tile = "v -0.3 0.3 -0.3\nv 0.3 0.3 -0.3\nv 0.3 0.3 0.3\nv -0.3 0.3 0.3\nvt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\nf 1/1 " \
"4/4 " \
"3/3 2/2\n"
      mesh = @workshop.assets.bring(tile, "tile.obj")[:digest]
      id =
        shelve(
          @workshop,
          small_shot(
            edits: [
              set("prop-1", :mesh, mesh), set("prop-1", :shape, "mesh"), set("prop-1", :position, [0, 0, 0]),
              set("source-1", :from, "surface"), set("source-1", :map, "picture"),
              set("source-1", :picture, row[:digest]), set("source-1", :breakup, 0.0), set("source-1", :heats, false),
              set("general", :last, 2)
            ]
          )
        )
      run_now(@workshop, id)
      bricks, head = @workshop.frames.read(@workshop.runs.best(id, 2)[1])
      smoke = bricks.field(:smoke)
      at = ->(x) do
        smoke[
          *[0.0, 0.3, x].each_with_index.map do |c, n|
            ((c - head["corner"][2 - n]) / head["voxel"]).floor.clamp(0, smoke.shape[n] - 1)
          end
        ]
      end
      expect([at.call(-0.2), at.call(0.2)]).to match([be < 0.02, be > 0.1])
    end

    it "says what a map lacks" do
      mesh = @workshop.assets.bring(Formats::OBJ.write(Demo::Models.bowl), "bowl.obj")[:digest]
      id = shelve(@workshop, small_shot(edits: [set("prop-1", :mesh, mesh), set("prop-1", :shape, "mesh")]))
      {"picture" => ["no_picture", /none was brought/],
       "paint" => ["no_paint", /its mesh has none; export it with colours/]}.each do |map, (code, message)|
        @workshop.shots.edit(id, [set("source-1", :map, map)])
        expect(work(@workshop,
          @workshop.runs.start(id, "draft")[:job_id])).to include(state: "failed", code: code, error: message)
      end
      @workshop.shots.edit(
        id,
        [
          set("source-1", :map, "picture"),
          set("source-1", :picture, @workshop.assets.bring_picture(picture, "m.png")[:digest])
        ]
      )
      expect(work(@workshop, @workshop.runs.start(id, "draft")[:job_id])).to include(
        code: "no_texture_places", error: /no texture places; export it with them/
      )
      expect(refusal { @workshop.assets.bring_picture("not a picture", "x.png") }).to match(
        ["bad_picture", /PNG, JPEG, TIFF, OpenEXR or Radiance/]
      )
    end
  end
end
