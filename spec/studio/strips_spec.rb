# frozen_string_literal: true

module Vumbral
  RSpec.describe Studio::Strips do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:id) { @workshop.shots.import(small_shot(edits: [set("general", :last, 4)]).to_json)[:id] }
    let(:curl) { {"node" => "chamber", "dial" => "curl_boost", "values" => [0.0, 2.0]} }
    let(:smoke) { {"node" => "source-1", "dial" => "smoke", "values" => [2.0, 4.0, 8.0]} }

    def run(*dials) = @workshop.strips.start(id, dials).tap { |row| @done = work(@workshop, row[:job_id]) }

    def result = JSON.parse(@done[:result])

    def shown = @workshop.strips.show(id, 1)

    it "runs every variation, once each, and shares what the shot itself has run, both ways" do
      work(@workshop, @workshop.runs.start(id, "draft")[:job_id])
      expect(@workshop.strips.forecast(id, [curl, smoke])).to include(runs: 6, frames: 4, new: 24)
      run(curl, smoke)
      expect(result).to include("runs" => 6, "failed" => [])
      expect(shown[:cells].map { |cell| cell[:done] }).to eq([4] * 6)
      expect(shown[:cells].flat_map { |cell| cell[:rows].map { |row| row[:lit] } }.uniq).to eq([true])
      # More smoke is more smoke, and each has its figures.
      expect(shown[:cells].values_at(0, 2, 4).map { |cell| cell[:figures][:smoke] }).to satisfy { |all|
        all == all.sort && all.uniq.size == 3
      }
      expect(shown[:cells][0][:figures]).to include(:peak, :top, :spread, :seconds)
      # Kept into the shot it is there at once.
      @workshop.shots.edit(id, shown[:cells][5][:edits])
      expect(JSON.parse(work(@workshop, @workshop.runs.start(id, "draft")[:job_id])[:result])).to include(
        "computed" => 0
      )
      # The same once more computes nothing.
      run(curl, smoke)
      expect(result["computed"]).to eq(0)
    end

    it "runs looks and lamps without running again" do
      work(@workshop, @workshop.runs.start(id, "draft")[:job_id])
      run({"node" => "look", "dial" => "thickness", "values" => [5.0, 50.0]})
      expect(result["computed"]).to eq(0)
      expect(shown[:cells].map { |cell| cell[:rows][3].values_at(:key, :lit) }.transpose.map(&:uniq).map(&:size)).to eq(
        [1, 1]
      )
      expect(shown[:cells].map { |cell| cell[:rows][3][:light] }.uniq.size).to eq(2)
    end

    it "varies sculpts where nothing is run" do
      add = ->(kind, name, **dials) do
        {"do" => "add", "kind" => kind, "id" => name, "name" => name, "dials" => dials.transform_keys(&:to_s)}
      end
      @workshop.shots.edit(
        id,
        [
          {"do" => "remove", "node" => "source-1"}, add["sculpt", "cloud", prop: "prop-1", voxel: 0.08],
          add["step", "soft", sculpt: "cloud"]
        ]
      )
      run({"node" => "soft", "dial" => "inside", "values" => [0.05, 0.3]})
      expect(shown[:cells].map { |cell| cell[:rows][0][:lit] }).to eq([true, true])
      expect(shown[:cells].map { |cell| cell[:rows][0][:key] }.uniq.size).to eq(2)
    end

    it "goes on where it was cut off, leaves the others alone when one breaks, and is marked, dropped and taken away" do
      row = @workshop.strips.start(id, [curl, smoke])
      @workshop.strips.note(id, 1, 3, :dropped, true)
      work(@workshop, row[:job_id])
      expect(shown[:cells].map { |cell| cell[:done] }).to eq([4, 4, 4, 0, 4, 4])
      expect(@workshop.strips.note(id, 1, 2, :marked, true)[:marked]).to eq([2])
      expect(@workshop.strips.list(id)[0]).to include(number: 1, runs: 6, marked: 1, there: 20, of: 24)
      keys = shown[:cells].flat_map { |cell| cell[:rows].filter_map { |one| one[:key] } }
      @workshop.shots.edit(id, shown[:cells][0][:edits])
      @workshop.strips.take_away(id, 1)
      kept = keys.select { |key| @workshop.frames.frame?(key) }
      # What the shot as it stands needs stays.
      expect(kept.uniq.size).to eq(4)
      expect(refusal { @workshop.strips.show(id, 1) }).to match(["unknown_strip", /no test strip 1/])
      expect(refusal { @workshop.strips.start(id, [smoke.merge("values" => [-1])]) }[1]).to match(/Smoke/)
    end

    it "is handed on as a sheet of pictures" do
      run(curl, smoke.merge("values" => [2.0, 6.0]))
      done = work(@workshop, @workshop.strips.sheet(id, 1, 4))
      sheet = Vips::Image.new_from_file(@workshop.sheets.path(id, JSON.parse(done[:result])["sheet"]))
      expect([sheet.width, sheet.height]).to match([be_within(20).of(2 * 320), be_within(80).of(2 * 200)])
      expect(refusal { @workshop.strips.sheet(id, 1, 99) }[0]).to eq("no_frame")
    end

    describe "of very many variations" do
      let(:many) { {"node" => "look", "dial" => "thickness", "from" => 1.0, "to" => 70.0, "count" => 70} }

      it "is begun only by who is sure, and says before what it takes" do
        expect(@workshop.strips.forecast(id, [many])).to include(runs: 70, frames: 4, many: true)
        expect(@workshop.strips.forecast(id, [curl])).to include(many: false)
        expect(refusal { @workshop.strips.start(id, [many]) }).to match(
          ["many_variations", /70 variations of 4 frames: \d+ (s|min) and \d\.\d GB/]
        )
        expect(@workshop.strips.list(id)).to eq([])
        expect(@workshop.jobs.active).to eq([])
        expect(@workshop.strips.start(id, [many], sure: true)[:number]).to eq(1)
        # Few need no such word.
        expect(@workshop.strips.start(id, [curl])[:number]).to eq(2)
      end

      it "foresees as many frames by some of them as by all" do
        smokes = {"node" => "source-1", "dial" => "smoke", "from" => 1.0, "to" => 80.0, "count" => 80}
        expect(@workshop.strips.forecast(id, [smokes])[:new]).to be_within(8).of(320)
        # Looks share all frames that there are.
        work(@workshop, @workshop.runs.start(id, "draft")[:job_id])
        expect(@workshop.strips.forecast(id, [many])).to include(new: 0, disk: 0)
      end

      it "is told of by as many as are looked at together" do
        work(@workshop, @workshop.runs.start(id, "draft")[:job_id])
        @workshop.strips.start(id, [many], sure: true)
        first = @workshop.strips.show(id, 1)
        expect(first).to include(size: 70, frames: 4, from: 0, together: 64, there: 4, of: 4)
        expect(first[:cells].map { |cell| !cell.nil? }.tally).to eq(true => 64, false => 6)
        rest = @workshop.strips.show(id, 1, from: 64)[:cells]
        expect(rest.each_index.reject { |n| rest[n].nil? }).to eq((64..69).to_a)
        expect(rest[69][:values]).to eq([70.0])
        expect(rest[64][:rows].map { |row| row[:frame] }).to eq([1, 2, 3, 4])
        # Beyond the last there is the last.
        expect(@workshop.strips.show(id, 1, from: 500)[:cells].compact.size).to eq(1)
        expect(@workshop.strips.show(id, 1, from: -5)[:cells].compact.size).to eq(64)
        # What is marked is told with those around it.
        noted = @workshop.strips.note(id, 1, 66, :marked, true)
        expect(noted.values_at(:from, :marked)).to eq([64, [66]])
        expect(noted[:cells][66][:shown]).to eq(["67 per m"])
      end
    end
  end
end
