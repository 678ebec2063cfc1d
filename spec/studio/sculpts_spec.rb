# frozen_string_literal: true

module Vumbral
  RSpec.describe Studio::Sculpts do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    def add(kind, id, **dials) =
      {"do" => "add", "kind" => kind, "id" => id, "name" => id.capitalize, "dials" => dials.transform_keys(&:to_s)}

    let(:id) do
      @workshop.shots.import(
        small_shot(
          edits: [
            {"do" => "remove", "node" => "source-1"}, set("picture", :width, 48), set("picture", :height, 27),
            add("sculpt", "cloud", prop: "prop-1", voxel: 0.05),
            add("step", "soft", sculpt: "cloud", what: "density", inside: 0.1)
          ]
        ).to_json
      )[
        :id
      ]
    end

    def rows = @workshop.runs.state(id, "draft")[:rows]

    def frames = @workshop.db[:frames].count

    it "makes frames when they are lit, once for all frames that are alike, and keeps them" do
      expect(rows.map { |row| [row[:state], row[:lit]] }.uniq).to eq([["still", false]])
      expect(rows.map { |row| row[:key] }.uniq.size).to eq(1)
      work(@workshop, @workshop.jobs.add("light", id, {quality: "draft", frame: 1}))
      expect(rows.map { |row| [row[:state], row[:lit]] }.uniq).to eq([["fresh", true]])
      expect(frames).to eq(1)
      expect(rows[0][:facts]).to include("voxel" => 0.1, "size" => [16, 16, 16])
      # In full, as prints have it, its voxels are as small as they are told.
      full = @workshop.runs.state(id, "full")[:rows][0]
      expect([full[:state], full[:key], @workshop.runs.best(id, 1)]).to match(
        ["still", satisfy { |key| key != rows[0][:key] }, ["still", full[:key]]]
      )
      bricks, head = @workshop.frames.read(full[:key])
      expect([bricks.field(:smoke).to_a.max, head["voxel"]]).to match([be_within(0.01).of(1.0), 0.05])
    end

    it "has a key of its own for whatever changes it, frame by frame, and the old one again after undo" do
      before = rows[0][:key]
      @workshop.shots.edit(id, [set("soft", :inside, 0.2)])
      expect(rows[0][:key]).not_to eq(before)
      @workshop.shots.undo(id)
      expect(rows[0][:key]).to eq(before)
      @workshop.shots.edit(id, [set("look", :thickness, 9.0)])
      expect(rows[0][:key]).to eq(before)
      @workshop.shots.edit(
        id,
        [1, 4].map do |frame|
          {
            "do" => "key", "node" => "soft", "dial" => "inside", "frame" => frame, "value" => 0.1 * frame,
            "ease" => "linear"
          }
        end
      )
      expect(rows.map { |row| row[:key] }.uniq.size).to eq(4)
    end

    it "prints and exports what was never made before, and makes one again that was lost" do
      work(@workshop, @workshop.prints.take(id, 1))
      print = Vips::Image.new_from_file(@workshop.prints.path(id, 1)).extract_band(0)
      @workshop.shots.edit(id, [{"do" => "switch", "node" => "cloud", "off" => true}])
      work(@workshop, @workshop.prints.take(id, 1))
      expect((print - Vips::Image.new_from_file(@workshop.prints.path(id, 2)).extract_band(0)).abs.max).to be > 10
      @workshop.shots.undo(id)
      Dir[@workshop.home.within("frames", "*", "*.frame")].each { |file| File.delete(file) }
      done = work(@workshop, @workshop.exports.start(id, "vdb", frames: 1..2))
      expect(JSON.parse(done[:result])).to include("files" => 2, "missing" => "")
      expect(@workshop.exports.list(id)[0][:bytes]).to be > 1000
    end

    it "lets frames go with their shot, and what nobody has wanted for long" do
      key = rows[0][:key]
      @workshop.frames.read(key)
      recipe = @workshop.sculpts.path(key)
      File.utime(Time.now, Time.now - described_class::UNWANTED - 60, recipe)
      described_class.new(@workshop).keys(@workshop.shots.document(id), "draft")
      @workshop.sculpts.tidy
      expect(@workshop.frames.frame?(key)).to be(true)
      File.utime(Time.now, Time.now - described_class::UNWANTED - 60, recipe)
      @workshop.sculpts.tidy
      expect([@workshop.frames.frame?(key), File.exist?(recipe)]).to eq([false, false])
      @workshop.sculpts.key(@workshop.shots.document(id), 1, "draft")
      @workshop.frames.read(key)
      @workshop.holdings.clear(id)
      expect([@workshop.frames.frame?(key), File.exist?(recipe)]).to eq([false, false])
    end

    it "shows several as one volume" do
      @workshop.shots.edit(
        id,
        [
          add("prop", "ball", shape: "sphere", radius: 0.2, position: [0.0, 2.0, 0.0]),
          add("sculpt", "moon", prop: "ball", voxel: 0.08)
        ]
      )
      bricks, head = @workshop.frames.read(rows[0][:key])
      smoke = bricks.field(:smoke)
      at = ->(x, y, z) do
        [z, y, x].zip(head["corner"].reverse)
          .map { |c, low| ((c - low) / head["voxel"]).floor }
          .then { |k, j, i| smoke[k, j, i] }
      end
      expect([at[0.0, 2.0, 0.0], at[0.0, 1.3, 0.0]]).to match([be > 0.9, be_within(0.01).of(0.0)])
    end

    it "shows them beside a run, in one volume with it, or as what the run became" do
      @workshop.shots.edit(
        id, [{"do" => "add", "kind" => "source", "id" => "feed", "name" => "Feed", "dials" => {"prop" => "prop-1"}}]
      )
      expect(rows.map { |row| row[:state] }.uniq).to eq(["none"])
      work(@workshop, @workshop.runs.start(id, "draft")[:job_id])
      row = rows[1]
      run = @workshop.runs.plan(id, "draft").keys[row[:frame]]
      expect([row[:state], row[:lit], row[:key] == run]).to eq(["fresh", true, false])
      alone, both = [run, row[:key]].map { |key| @workshop.frames.read(key) }
      smoke = [alone, both].map { |bricks, head| bricks.field(:smoke).to_a.sum * head["voxel"]**3 }
      expect(smoke[1]).to be > smoke[0] + 0.01
      expect(both[0].channels).to include(:heat)
      # What begins with the run takes its place.
      @workshop.shots.edit(
        id,
        [
          set("cloud", :from, "run"), add("step", "none", sculpt: "cloud", order: 9, what: "number", amount: 0.5),
          {"do" => "remove", "node" => "soft"}
        ]
      )
      shown = rows[1]
      bricks, head = @workshop.frames.read(shown[:key])
      expect(bricks.field(:smoke).to_a.sum * head["voxel"]**3).to be_within(0.06 * smoke[0]).of(0.5 * smoke[0])
      work(@workshop, @workshop.prints.take(id, shown[:frame]))
      expect(@workshop.runs.best(id, shown[:frame])[1]).to eq(
        @workshop.sculpts.beside(@workshop.shots.document(id), shown[:frame], "full", run, {})
      )
      # Once more beside it, a frame later, elsewhere, half as large.
      @workshop.shots.edit(
        id,
        [
          {"do" => "remove", "node" => "none"},
          *{instead: false, shift: 1, moved: [3.0, 0.0, 0.0], scaled: 0.5}.map do |dial, value|
            set("cloud", dial, value)
          end
        ]
      )
      twice = rows[2]
      bricks, head = @workshop.frames.read(twice[:key])
      one, own =
        [1, 2].map { |n| @workshop.frames.read(@workshop.runs.plan(id, "draft").keys[rows[n][:frame]]) }
          .map { |frame, where| frame.field(:smoke).to_a.sum * where["voxel"]**3 }
      expect(bricks.field(:smoke).to_a.sum * head["voxel"]**3).to be_within(0.05 * own).of(own + one / 8)
    end

    it "is carried along the gas of a run, as far as that flows" do
      @workshop.shots.edit(
        id,
        [
          {
            "do" => "add",
            "kind" => "source",
            "id" => "feed",
            "name" => "Feed",
            "dials" => {
              "prop" => "prop-1", "temperature" => 1200.0
            }
          },
          add("step", "gone", sculpt: "cloud", order: 5, what: "flow", along: "run", seconds: 0.5)
        ]
      )
      work(@workshop, @workshop.runs.start(id, "draft")[:job_id])
      frame = 6
      run, runs = @workshop.runs.own(id, frame)
      middle = lambda do |seconds|
        @workshop.shots.edit(id, [set("gone", :seconds, seconds)])
        recipes, = @workshop.sculpts.recipes(@workshop.shots.document(id), frame, "full", run: run, runs: runs)
        carved = @workshop.sculpts.carve(recipes, nil)
        smoke = carved.bricks.field(:smoke)
        cells = smoke.to_a.each_with_index.map { |value, n| [value, n / smoke.dim(2) % smoke.dim(1)] }
        cells.sum { |value, j| value * j } / cells.sum(&:first) * carved.lattice.voxel + carved.corner[1]
      end
      still, up, down = [0.0001, 0.3, -0.3].map(&middle)
      expect([up - still, still - down]).to all(be > 0.01)
      # Where the run has not come to there is nothing to go along.
      expect(
        @workshop.sculpts.recipes(@workshop.shots.document(id), 7, "full", runs: {})[0][0]["steps"].map do |step|
          step["what"]
        end
      ).to eq(%w[density])
    end

    it "tells where it lies as chambers do: corner, and voxels along each axis" do
      box =
        @workshop.runs.state(id, "full").values_at(:boxes, :voxel).then { |boxes, voxel| boxes[0].merge(voxel: voxel) }
      low, high = @workshop.sculpts.reach(@workshop.shots.document(id), @workshop.shots.document(id).node("cloud"))
      expect(box[:corner]).to eq(low)
      expect(
        box[:size].map { |n| n * box[:voxel] }.zip(low, high).map { |long, a, b| (long - (b - a)).abs }.max
      ).to be < box[:voxel] + 1e-6
    end

    it "finds sculpts of nothing, steps of nothing, and steps that lack what they need; what belongs to a sculpt " \
      "goes with it" do
      @workshop.shots.edit(
        id, [add("sculpt", "bare"), add("step", "lost"), add("step", "wants", sculpt: "cloud", what: "texture")]
      )
      survey = Preflight::Survey.new(@workshop.shots.document(id), @workshop.assets)
      texts = survey.findings.map(&:text)
      expect(texts).to include(
        "Bare begins with nothing; choose its prop.", "Lost belongs to no sculpt; choose one.",
        "Wants does nothing until you choose its texture."
      )
      expect(texts.grep(/feeds this shot/)).to eq([])
      @workshop.shots.edit(id, survey.findings.find { |finding| finding.code == "sculpt_of_nothing" }.remedy[:edits])
      expect(Preflight::Survey.new(@workshop.shots.document(id), @workshop.assets).findings.map(&:code)).not_to include(
        "sculpt_of_nothing"
      )
      @workshop.shots.edit(id, [{"do" => "remove", "node" => "cloud"}])
      expect(@workshop.shots.document(id).of(:step).map(&:id)).to eq(["lost"])
    end
  end
end
