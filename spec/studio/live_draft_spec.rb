# frozen_string_literal: true

module Vumbral
  RSpec.describe Studio::LiveDraft do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:id) { shelve(@workshop) }
    let(:live) { @workshop.live_draft }

    def told = @workshop.db[:events].where(kind: "live").select_map(:data).map { |text| JSON.parse(text) }

    def frames_kept = @workshop.db[:frames].count

    it "runs what a dial stands at while it is held, tells each frame, and leaves the shot as it is" do
      begun = live.start(id, [set("source-1", :smoke, 9.0)])
      expect(begun).to include(first: 1, voxel: 0.07)
      work(@workshop, begun[:job])
      expect(told.map { |row| row["frame"] }).to eq (1..8).to_a
      expect(told).to all(include("job" => begun[:job], "key" => /\h{32}/, "light" => /\h{16}/))
      expect(told.all? { |row| @workshop.views.made?(row["key"], row["light"]) }).to be true
      expect(@workshop.shots.document(id).node("source-1")[:smoke]).not_to eq 9.0
      expect(@workshop.past_runs.list(id)).to be_empty
    end

    it "goes on at the first frame that an edit touches, and tells those before at once" do
      work(@workshop, live.start(id, [set("source-1", :smoke, 9.0)])[:job])
      @workshop.db[:events].where(kind: "live").delete
      begun =
        live.start(
          id,
          [
            {"do" => "key", "node" => "source-1", "dial" => "push", "frame" => 5, "value" => 0.0},
            {"do" => "key", "node" => "source-1", "dial" => "push", "frame" => 8, "value" => 3.0}
          ]
        )
      expect(JSON.parse(work(@workshop, begun[:job])[:result])["computed"]).to be <= 8
      expect(begun[:first]).to be_between(5, 8)
    end

    it "takes voxels so large that it keeps up, but never finer than the draft" do
      @workshop.shots.edit(id, [set("chamber", :size, [4.0, 4.0, 4.0]), set("chamber", :voxel, 0.03)])
      begun = live.start(id, [set("source-1", :smoke, 9.0)])
      plan = live.plan(Shot::Document.load(JSON.parse(@workshop.jobs.fetch(begun[:job])[:payload])["document"]))
      expect(plan.cells).to be_between(0.8 * Studio::LiveDraft::CELLS, 1.2 * Studio::LiveDraft::CELLS)
    end

    it "is not begun for what needs no run, nor where nothing feeds" do
      expect(live.start(id, [set("look", :thickness, 4.0)])).to be_nil
      expect(live.start(id, [])).to be_nil
      @workshop.shots.edit(id, [{"do" => "remove", "node" => "source-1"}])
      expect(live.start(id, [set("chamber", :lift, 4.0)])).to be_nil
      expect(refusal { live.start(id, [set("chamber", :lift, "much")]) }[1]).to include "Thermal lift"
    end

    it "lets its frames go where the hand let go while one was being made, and there is nothing to run" do
      begun = live.start(id, [set("source-1", :smoke, 9.0)])
      # Let go of after two frames.
      allow_any_instance_of(Studio::Simulation).to receive(:keep).and_wrap_original do |keep, *given|
        keep.call(*given)
        live.finish(id) if given[1] == 2
      end
      Studio::Worker.new(@workshop).run_one(begun[:job])
      expect([@workshop.db[:jobs].where(kind: "live").count, frames_kept]).to eq([0, 0])
    end

    it "lets its frames go in the end, and the shot's own draft goes on where it was cut off" do
      run_now(@workshop, id)
      own = frames_kept
      @workshop.shots.edit(id, [set("source-1", :smoke, 7.0)])
      cut = @workshop.runs.start(id, "draft")
      begun = live.start(id, [set("source-1", :smoke, 9.0)])
      expect(@workshop.jobs.fetch(cut[:job_id])).to include(cancel: true).or include(state: "cancelled")
      work(@workshop, begun[:job])
      expect(frames_kept).to eq own + 8
      live.finish(id)
      expect(frames_kept).to eq own
      expect(@workshop.jobs.active(id).map { |job| job[:kind] }).to eq ["run"]
      # A second one takes the first one's place.
      jobs = 2.times.map { |n| live.start(id, [set("source-1", :smoke, 2.0 + n)])[:job] }
      expect(@workshop.jobs.fetch(jobs[0])[:state]).to eq "cancelled"
      live.finish(id)
    end
  end
end
