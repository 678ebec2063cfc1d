# frozen_string_literal: true

module Vumbral
  RSpec.describe Studio::PastRuns do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:id) { shelve(@workshop) }
    let(:past) { @workshop.past_runs }

    def fuel(value) = @workshop.shots.edit(id, [set("source-1", :smoke, value)])

    before do
      run_now(@workshop, id)
      fuel(9.0)
      run_now(@workshop, id)
    end

    it "tells each run with what changed since the one before, its frames and a picture" do
      expect(past.list(id).map { |run| run.slice(:number, :quality, :there, :of, :picture) }).to eq(
        [2, 1].map { |number| {number: number, quality: "draft", there: 8, of: 8, picture: true} }
      )
      expect(past.list(id).map { |run| run[:changed] }).to match [/\ASmoke .* → 9/, "First run"]
      expect(Vips::Image.new_from_file(past.picture(past.fetch(id, 2))).size).to eq Studio::PastRuns::PICTURE
    end

    it "tells what differs from the shot, and from another run, in words and numbers" do
      expect(past.differences(id, 2)).to be_empty
      expect(past.differences(id, 1).map { |row| row.slice(:node, :dial, :before) }).to eq [
        {
          node: "source-1", dial: :smoke,
          before: @workshop.shots.document(id).node("source-1").then { |node| node.kind.dials[:smoke].show(9.0) }
        }
      ]
      expect(past.differences(id, 2, 1).size).to eq 1
    end

    it "brings the settings back as a step that is undone, and nothing is computed for it" do
      @workshop.shots.edit(id, [set("look", :thickness, 3.0)])
      past.bring_back(id, 1, rows: [{"node" => "source-1", "dial" => "smoke"}])
      expect(@workshop.shots.document(id).node("look")[:thickness]).to eq 3.0
      expect(run_now(@workshop, id)).to include(computed: 0)
      expect(@workshop.shots.steps(id)[:undo]).to eq "1 setting of run 1 brought back"
      expect(refusal { past.bring_back(id, 1, rows: []) }[1]).to include "Choose what of run 1"
    end

    it "shows the frames of both in the light of the shot as it stands" do
      rows = [1, 2].map { |number| past.rows(id, number) }
      expect(rows.map { |all| all.map { |row| row[:frame] } }.uniq).to eq [(1..8).to_a]
      expect(rows.map { |all| all[4][:key] }.uniq.size).to eq 2
      expect(rows.map { |all| all[4][:light] }.uniq.size).to eq 1
      @workshop.shots.edit(id, [set("look", :thickness, 3.0)])
      expect(past.rows(id, 1).map { |row| row[:lit] }.uniq).to eq [false]
      job = @workshop.jobs.add("light", id, {run: 1, quality: "draft", frame: 1}, background: true)
      expect(JSON.parse(work(@workshop, job)[:result])).to eq("lit" => 8)
      expect(past.rows(id, 1).map { |row| row[:lit] }.uniq).to eq [true]
    end

    it "gives the room of a run back, but never that of frames which others need" do
      @workshop.shots.edit(id, [set("source-1", :first, 5)])
      run_now(@workshop, id)
      fuel(4.0)
      keys = JSON.parse(past.fetch(id, 3)[:keys])
      expect(past.take_away(id, 3)).to be_positive
      there = keys.select { |key| @workshop.frames.frame?(key) }
      expect(there).to eq(keys & @workshop.holdings.used)
      expect(refusal { past.fetch(id, 3) }[0]).to eq "unknown_run"
      expect(past.rows(id, 1)).to all(include(state: "fresh"))
    end

    it "tells what made an export, and brings it back" do
      result = JSON.parse(work(@workshop, @workshop.exports.start(id, "vdb", frames: 8..8))[:result])
      name = File.basename(result["folder"])
      expect(@workshop.exports.list(id)[0]).to include(name: name, files: [a_string_ending_with(".vdb")])
      fuel(2.0)
      expect(
        Studio::Differences
          .between(@workshop.shots.document(id), @workshop.exports.document(id, name))
          .map { |row| row[:after] }
      ).to match [/9/]
      @workshop.exports.bring_back(id, name)
      expect(@workshop.shots.document(id).node("source-1")[:smoke]).to eq 9.0
      expect(refusal { @workshop.exports.document(id, "none") }[1]).to include "not known"
    end

    it "tells all that is set, and nothing that is as it comes" do
      rows = Studio::Differences.set(@workshop.shots.document(id))
      expect(rows.select { |row| row[:node] == "source-1" }.map { |row| row[:dial] }).to satisfy { |dials|
        dials.include?(:smoke) && (dials & %i[fuel prop]).empty?
      }
    end

    it "refuses what is not there" do
      expect(refusal { past.differences(id, 7) }).to eq ["unknown_run", "There is no run 7 of this shot."]
    end

    describe Studio::Caches do
      let(:caches) { @workshop.caches }

      it "keeps a run under a name, whatever becomes of the shot and of the room" do
        kept = caches.keep_run(id, 1, "The thin one")
        expect(kept).to include(name: "The thin one", first: 1, last: 8, there: 8, run: 1)
        expect(refusal { past.take_away(id, 1) }[0]).to eq "kept"
        @workshop.room.clear("stale")
        expect(caches.list[0][:there]).to eq 8
        @workshop.shots.take_away(id)
        @workshop.shots.let_go(id)
        expect(caches.list[0][:there]).to eq 8
        expect(caches.let_go(kept[:digest])).to be_positive
        expect(@workshop.frames.known(JSON.parse(@workshop.db[:runs].select_map(:keys)[0] || "[]"))).to be_empty
      end

      it "is named, noted and refused in words" do
        digest = caches.keep_run(id, 1)[:digest]
        expect(caches.tell(digest, name: "Second", note: "Good roll")).to include(name: "Second", note: "Good roll")
        expect(refusal { caches.tell(digest, name: " ") }[1]).to include "needs a name"
        expect(refusal { caches.fetch("nothing") }[1]).to include "not here"
        expect(refusal { caches.keep_run(id, 9) }[0]).to eq "unknown_run"
      end

      it "keeps marked variations of a strip, and hands several on in one go" do
        strip = @workshop.strips.start(id, [{"node" => "source-1", "dial" => "smoke", "values" => [2.0, 4.0, 9.0]}])
        work(@workshop, strip[:job_id])
        kept = caches.keep_cells(id, 1, [0, 1])
        expect(kept.map { |one| one[:name] }).to match [/\ASmoke 2/, /\ASmoke 4/]
        expect(kept.map { |one| one.slice(:strip, :cell) }).to eq [{strip: 1, cell: 0}, {strip: 1, cell: 1}]
        @workshop.strips.take_away(id, 1)
        results =
          caches.export(kept.map { |one| one[:digest] }, "vdb").map { |job| JSON.parse(work(@workshop, job)[:result]) }
        expect(results.map { |result| result["files"] }).to eq [8, 8]
        expect(results.map { |result| result["folder"] }.uniq.size).to eq 2
        expect(refusal { caches.export(kept.map { |one| one[:digest] }, "glb") }[1]).to include "handed on as vdb"
        expect(
          refusal { caches.export(kept.map { |one| one[:digest] }, "obj") }[1]
        ).to include "holds nothing that could be handed on as obj"
        expect(refusal { caches.keep_cells(id, 1, []) }[0]).to eq "unknown_strip"
      end

      it "is placed again in another shot, which needs no run for it" do
        kept = caches.keep_run(id, 2)
        other = shelve(@workshop, small_shot("Elsewhere"))
        place = {
          "do" => "add",
          "kind" => "sculpt",
          "id" => "again",
          "name" => "Again",
          "dials" => {
            "from" => "cache", "cache" => kept[:digest], "voxel" => 0.07, "draft" => 1.0, "moved" => [2.0, 0.0, 0.0]
          }
        }
        @workshop.shots.edit(other, [{"do" => "remove", "node" => "source-1"}, place])
        _, key = @workshop.runs.best(other, 8)
        bricks, head = @workshop.frames.read(key)
        was, before = @workshop.frames.read(JSON.parse(past.fetch(id, 2)[:keys])[7])
        sums = [bricks, was].map { |one| one.field(:smoke).to_a.sum }
        expect(sums[0]).to be_within(3).percent_of(sums[1])
        # It stands where it was moved to, in a box of its own.
        expect(head["corner"][0]).to be > before["corner"][0] + 1.5
        expect(@workshop.runs.state(other, "full")[:boxes].size).to eq 1
        expect(@workshop.preflights.of(other).map { |finding| finding[:code] }).not_to include("sculpt_of_nothing")
      end
    end

    describe Shot::Playing do
      def again(**dials) =
        {
          "do" => "add", "kind" => "sculpt", "id" => "again", "name" => "Again",
          "dials" => {"from" => "run", "voxel" => 0.07, "draft" => 1.0}.merge(dials.transform_keys(&:to_s))
        }

      # How much smoke there is, and how high its middle stands, metres.
      def seen(frame)
        bricks, head = @workshop.frames.read(@workshop.runs.best(id, frame)[1])
        smoke = bricks.field(:smoke)
        per = smoke.dim(1) * smoke.dim(2)
        sums = smoke.to_a.each_slice(per).map { |plane| plane.each_slice(smoke.dim(2)).map(&:sum) }.transpose.map(&:sum)
        [sums.sum, head["corner"][1] + head["voxel"] * sums.each_with_index.sum { |sum, j| sum * (j + 0.5) } / sums.sum]
      end

      it "plays a run slower in between its frames, and what is there is not run again" do
        own = (1..8).map { |frame| seen(frame) }
        @workshop.shots.edit(id, [again(plays: "speed", speed: 0.5)])
        expect(run_now(@workshop, id)).to include(computed: 0)
        slow = (1..8).map { |frame| seen(frame) }
        expect(slow[4][0]).to be_within(5).percent_of(own[2][0])
        expect(slow[4][1]).to be_within(0.01).of(own[2][1])
        # Between two frames it stands between them.
        2.times { |n| expect(slow[5][n]).to be_between(*[slow[4][n], slow[6][n]].sort) }
      end

      it "plays it backwards, and holds its ends" do
        own = [8, 3].map { |frame| seen(frame) }
        @workshop.shots.edit(id, [again(plays: "speed", speed: -1.0, begins: 8.0)])
        expect(seen(1)[0]).to be_within(3).percent_of(own[0][0])
        expect(seen(6)[0]).to be_within(5).percent_of(own[1][0])
        @workshop.shots.edit(id, [set("again", :speed, 10.0)])
        expect(seen(4)[0]).to be_within(3).percent_of(own[0][0])
      end

      it "flows at the pace at which it is played, so that pictures of it are blurred" do
        fastest = ->(frame) do
          @workshop.frames.read(@workshop.runs.best(id, frame)[1])[0]
            .velocity
            .to_a
            .map { |part| Flow::FlowKernels.peak(part) }
            .max
        end
        own = fastest[4]
        @workshop.shots.edit(id, [again(plays: "speed", speed: 0.5)])
        expect(fastest[7]).to be_within(15).percent_of(0.5 * own)
        @workshop.shots.edit(id, [set("again", :speed, 0.0), set("again", :begins, 4.0)])
        expect(
          @workshop.frames.read(@workshop.runs.best(id, 7)[1])[0]
            .velocity
            .to_a
            .map { |part| Flow::FlowKernels.peak(part) }
            .max
        ).to eq 0.0
      end

      it "goes into pictures and volumes that are handed on" do
        @workshop.shots.edit(id, [again(plays: "place", place: 5.5)])
        job = @workshop.exports.start(id, "vdb", frames: 1..2)
        result = JSON.parse(work(@workshop, job)[:result])
        expect(result).to include("files" => 2)
        # Held throughout, both are alike.
        expect(
          Dir[File.join(result["folder"], "*.vdb")]
            .map do |file|
              Formats::VDBReader
                .new(File.binread(file), "a.vdb")
                .call
                .volumes
                .find { |one| one.name == "density" }
                .values
                .to_a
                .sum
            end
            .uniq
            .size
        ).to eq 1
      end
    end
  end
end
