# frozen_string_literal: true

module Vumbral
  RSpec.describe "Nothing lost" do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:id) { shelve(@workshop) }

    def shots = @workshop.shots

    def edit(dial, value, **options) = shots.edit(id, [set("look", dial, value)], **options)

    def frame_path(key) = Dir[File.join(@workshop.home.path, "frames", "*", "#{key}.frame")].first

    describe "names and numbers" do
      it "are not given out twice, and no shot shows what another of its name held" do
        other = Studio::Workshop.new(@workshop.home.path)
        first = shots.create("Jug")[:id]
        shots.edit(first, [set("look", :thickness, 3.0)])
        expect(other.shots.document(first).the(:look)[:thickness]).to eq(3.0)
        shots.take_away(first)
        shots.let_go(first)
        second = shots.create("Jug")[:id]
        expect(second).to eq("jug-2")
        expect(other.shots.document(second).the(:look)[:thickness]).not_to eq(3.0)
        expect(refusal { other.shots.document(first) }).to match(["unknown_shot", /there are: jug-2/])
      end

      it "of prints go on after the newest was taken away, and they can be put back" do
        run_now(@workshop, id)
        2.times { work(@workshop, @workshop.prints.take(id, 3)) }
        @workshop.prints.take_away(id, 2)
        work(@workshop, @workshop.prints.take(id, 3))
        expect(@workshop.prints.list(id).map { |print| print[:number] }).to eq([3, 1])
        @workshop.prints.put_back(id, 2)
        expect(@workshop.prints.list(id).map { |print| print[:number] }).to eq([3, 2, 1])
        shots.take_away(id)
        shots.let_go(id)
        expect(Dir[File.join(@workshop.home.path, "prints", "*")]).to eq([])
      end
    end

    describe "a frame" do
      before { run_now(@workshop, id) }

      let(:key) { @workshop.runs.plan(id, "draft").keys[5] }

      def states = @workshop.runs.state(id, "draft")[:rows].map { |row| row[:state] }

      it "whose row was never written is found at the next start, with its facts" do
        facts = @workshop.frames.facts([key])[key]
        @workshop.db[:frames].where(key: key).delete
        expect(states.count("fresh")).to eq(7)
        expect(Studio::Upkeep.new(@workshop).call).to eq(found: 1, gone: 0)
        expect(states.uniq).to eq(["fresh"])
        expect(@workshop.frames.facts([key])[key].except("seconds", "paced")).to eq(facts.except("seconds", "paced"))
      end

      it "whose row was never written is found by running again" do
        @workshop.db[:frames].where(key: key).delete
        expect(run_now(@workshop, id)).to eq(computed: 0, kept: 8)
      end

      it "that was cut short is not said to be there, and is made again the same" do
        whole = File.binread(frame_path(key))
        [0, 3, 7, 11, 40, whole.bytesize - 1].each do |length|
          File.binwrite(frame_path(key), whole.byteslice(0, length))
          expect(states[4]).to eq("none").or eq("stale")
          expect(run_now(@workshop, id)).to include(computed: 1, kept: 7)
          expect(File.binread(frame_path(key)) == whole).to be(true)
        end
      end

      it "whose bytes are wrong is taken away with its row when it is read, and made again" do
        bytes = File.binread(frame_path(key))
        File.binwrite(frame_path(key), bytes[0...-1] + (bytes[-1].ord ^ 1).chr)
        expect(refusal { @workshop.frames.read(key) }).to match(["damaged", /run the shot again/])
        expect(states.count("fresh")).to eq(7)
        expect(run_now(@workshop, id)).to include(computed: 1)
      end

      it "is still shown as stale after a thousand more edits, for its run's settings are kept" do
        stub_const("Vumbral::Studio::Shots::KEPT_REVISIONS", 20)
        130.times { |n| edit(:thickness, 1.0 + n) }
        shots.edit(id, [set("source-1", :smoke, 1.0)])
        expect(@workshop.db[:revisions].where(shot_id: id).count).to be < 100
        expect(shots.revision(id, 1)).not_to be_nil
        expect(states.uniq).to eq(["stale"])
      end

      it "of a run whose settings are gone all the same is shown too" do
        @workshop.db[:runs].update(first_frame: nil, revision: 99)
        expect(states.uniq).to eq(["fresh"])
        expect(work(@workshop,
          @workshop.jobs.add("run", id, {run: 1, last: 8}))).to include(state: "failed", code: "unknown_run")
      end
    end

    describe "two who edit" do
      it "are told of a clash with both values, and nothing is changed" do
        edit(:thickness, 5.0, head: 1, by: "a")
        clash = begin
          edit(:thickness, 7.0, head: 1, by: "b")
        rescue Refused => error
          error
        end
        expect([clash.code,
          clash.message]).to match(["conflict",
            /Thickness of Look is now 5 per m \(yours: 7 per m\).*Nothing was changed/])
        expect(clash.details[:conflicts]).to match([include(node: "look", dial: :thickness, theirs: "5 per m",
          yours: "7 per m")])
        expect(shots.document(id).the(:look)[:thickness]).to eq(5.0)
      end

      it "do not clash over other dials, over the same value, or with themselves" do
        edit(:thickness, 5.0, head: 1, by: "a")
        expect(edit(:shadow, 0.3, head: 1, by: "b")[:head]).to eq(3)
        expect(edit(:thickness, 5.0, head: 1, by: "b")[:head]).to eq(4)
        4.times { |n| edit(:fire, n + 1.0, head: 4, by: "b") }
        expect(shots.document(id).the(:look)[:fire]).to eq(4.0)
      end

      it "clash over a course in time, and over what somebody took back" do
        key = {"do" => "key", "node" => "source-1", "dial" => "smoke", "frame" => 3, "value" => 2.0}
        shots.edit(id, [key], head: 1, by: "a")
        expect(refusal { shots.edit(id, [key.merge("frame" => 5)], head: 1, by: "b") }).to match(["conflict",
          /Smoke of Plume is now 1 keys/])
        shots.undo(id, by: "c")
        expect(refusal { shots.edit(id, [set("source-1", :smoke, 1.0)], head: 2, by: "a") }[0]).to eq("conflict")
      end

      it "are told whose step they would take back" do
        edit(:thickness, 5.0, by: "a")
        expect(refusal { shots.undo(id, by: "b", others: false) }).to match(["others_step",
          /Thickness 60 per m → 5 per m\) was made in another window \d seconds ago/])
        expect(shots.undo(id, by: "b")[:label]).to end_with("(made elsewhere)")
        edit(:thickness, 6.0, by: "a")
        expect(shots.undo(id, by: "a", others: false)[:label]).to eq("Undone: Thickness 60 per m → 6 per m")
      end
    end

    it "writes an edit and its event together or not at all" do
      id
      before = [@workshop.events.last, shots.fetch(id)[:head]]
      allow(@workshop.events).to receive(:tell).and_raise(Sequel::DatabaseError, "database or disk is full")
      expect { edit(:thickness, 5.0) }.to raise_error(Sequel::DatabaseError)
      expect { @workshop.runs.start(id, "draft") }.to raise_error(Sequel::DatabaseError)
      expect { @workshop.jobs.add("run", id, {}) }.to raise_error(Sequel::DatabaseError)
      expect([@workshop.events.last, shots.fetch(id)[:head], @workshop.db[:runs].count,
        @workshop.db[:jobs].count]).to eq(before + [0, 0])
      expect(shots.document(id).the(:look)[:thickness]).to eq(60.0)
    end

    describe "saved shots" do
      def broken
        data = JSON.parse(small_shot.to_json)
        yield data, data["nodes"].to_h { |node| [node["id"], node] }
        refusal { Shot::Document.load(JSON.generate(data)) }
      end

      it "are refused where a thing of the shot goes by another kind's name" do
        expect(broken { |_, nodes| nodes["prop-1"]["id"] = "camera" }).to match(["bad_shot", /camera/])
        expect(broken { |data, nodes|
          data["nodes"].delete(nodes["camera"]) &&
                  nodes["prop-1"]["id"] = "camera"
        }).to match(["bad_shot", /the name of the shot's camera/i])
        expect(broken { |_, nodes| nodes["ground"]["id"] = "prop-1" }).to match(["bad_shot", /two nodes called prop-1/])
      end

      it "are refused in a sentence whatever shape their parts have" do
        [1, "x", [1], true].each do |shape|
          expect(broken { |_, nodes| nodes["look"]["dials"] = shape }).to match(["bad_shot",
            /dials of .* not an object/])
          expect(broken { |_, nodes| nodes["look"]["keys"] = shape }).to match(["bad_shot",
            /keys of .* not an object/])
          expect(broken { |_, nodes| nodes["look"]["keys"] = {"fire" => shape} }[0]).to match(
            /bad_shot|bad_value|bad_edit/
          )
          expect(broken { |data, _| data["nodes"] = {"a" => shape} }).to match(["bad_shot", /no list of nodes/])
        end
        ["", " ", "x" * 81, "a\u0000b", 7, nil].each { |name|
          expect(broken { |data, _|
            data["name"] = name
          }).to match(["bad_shot", /no name of 1 to 80/])
        }
        expect(broken { |_, nodes|
          nodes["general"]["dials"].merge!("first" => 50,
            "last" => 3)
        }).to match(["out_of_range", /must come after/])
        expect(broken { |_, nodes| nodes["general"]["dials"]["last"] = 90_000 }).to match(["out_of_range",
          /at most 20000/])
        expect(refusal { Shot::Document.load("\xFF{}") }).to match(["not_json", /not UTF-8/])
      end

      it "hold thousands of keys, and no more than can be worked with" do
        rows = (1..4000).map { |frame| {"frame" => frame, "value" => frame % 7.0} }
        data = JSON.parse(small_shot.to_json)
        data["nodes"].find { |node| node["id"] == "source-1" }["keys"] = {"smoke" => rows}
        node = Shot::Document.load(JSON.generate(data)).node("source-1")
        expect([1, 2500, 4000].map { |frame| node[:smoke, frame] }).to eq([1.0, 1.0, 3.0])
        stub_const("Vumbral::Shot::Curve::MOST_KEYS", 3999)
        expect(refusal { Shot::Document.load(JSON.generate(data)) }).to match(["too_many",
          /4000 keys; 3999 is the most/])
      end
    end

    describe "an export of what was run in part" do
      before { run_now(@workshop, id, frames: 1..5) }

      it "says which frames there are, and hands them on when told" do
        expect(refusal { @workshop.exports.start(id, "vdb") }).to match(
          ["not_run", /there are frames 1-5, but not 6-8/]
        )
        result = JSON.parse(work(@workshop, @workshop.exports.start(id, "vdb", frames: 4..8))[:result])
        expect(result).to include("files" => 2, "frames" => "4-5", "missing" => "6-8")
        expect(refusal { @workshop.exports.start(id, "vdb", frames: 7..8) }).to match(["not_run", /run the rest first/])
      end

      it "goes on where it was cut off" do
        job = @workshop.exports.start(id, "vdb", frames: 1..5)
        @workshop.db[:jobs].where(id: job).update(resumed: true, done: 3)
        row = work(@workshop, job)
        expect(Dir.glob("*", base: JSON.parse(row[:result])["folder"]).sort).to eq(
          %w[little-puff.0004.vdb little-puff.0005.vdb]
        )
      end
    end

    it "says frames as people do" do
      words = ->(*frames) { Studio::FrameList.words(frames) }
      expect([words.call, words.call(4), words.call(1, 2, 3), words.call(1, 3, 4),
        words.call(1, 2, 4, 6, 7)]).to eq(["", "4", "1-3", "1 and 3-4", "1-2, 4 and 6-7"])
      expect(words.call(*(1..40).step(2))).to match(/\A1, 3, 5, 7, 9 and 15 more runs of frames\z/)
    end
  end
end
