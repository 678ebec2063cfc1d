# frozen_string_literal: true

module Vumbral
  # What large work comes to in parts; where the other machine does nothing, this one does them all.
  RSpec.describe Studio::Farm::Division do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:id) { shelve(@workshop).tap { |shot| run_now(@workshop, shot) } }

    def export(as, **how) = JSON.parse(work(@workshop, @workshop.exports.start(id, as, **how))[:result])["folder"]

    def pictures(folder) = Dir[File.join(folder, "*.png")].sort.map { |file| File.binread(file) }

    def parts = @workshop.db[:jobs].exclude(parent_id: nil)

    it "exports frames in parts as they are exported whole, with what lies beside them" do
      whole = export("png", beside: true)
      helped(@workshop)
      divided = export("png", beside: true)
      expect(divided).not_to eq(whole)
      expect(pictures(divided)).to eq(pictures(whole))
      expect(Dir.children(divided).sort).to eq(Dir.children(whole).sort)
      expect(parts.count).to eq(0)
      expect(contents(@workshop, "cuts")).to be_empty
    end

    it "makes a movie of parts" do
      skip "ffmpeg is not here" unless Studio::Movie.there?
      helped(@workshop)
      expect(Dir[File.join(export("mp4"), "*.mp4")].map { |file| File.size(file) }).to match([be > 1000])
    end

    it "makes a large picture in strips that lie together without a seam" do
      stub_const("Vumbral::Studio::PrintWork::LARGE", 1000)
      work(@workshop, @workshop.prints.take(id, 6, size: [384, 216]))
      helped(@workshop)
      expect(work(@workshop, @workshop.prints.take(id, 6, size: [384, 216]))[:state]).to eq("done")
      whole, divided = [1, 2].map { |number| Vips::Image.new_from_file(@workshop.prints.path(id, number)) }
      difference = (whole - divided).abs
      expect([difference.avg, (difference > 3).avg / 255]).to all(be < 0.001)
    end

    it "runs the variations of a test strip as one machine does" do
      axes = [{"node" => "chamber", "dial" => "curl_boost", "values" => [0.0, 2.0, 4.0]}]
      helped(@workshop)
      row = @workshop.strips.start(id, axes)
      expect(JSON.parse(work(@workshop, row[:job_id])[:result])).to include("runs" => 3, "failed" => [])
      with_workshop do |other|
        shot = shelve(other)
        run_now(other, shot)
        work(other, other.strips.start(shot, axes)[:job_id])
        %w[frames views].each { |folder| expect(contents(@workshop, folder)).to eq(contents(other, folder)) }
      end
    end

    it "lights frames in parts" do
      id
      FileUtils.rm_rf(@workshop.home.within("views"))
      helped(@workshop)
      expect(
        JSON.parse(work(@workshop, @workshop.jobs.add("light", id, {quality: "draft", frame: 3}))[:result])
      ).to eq("lit" => 8)
      expect(@workshop.runs.state(id, "draft")[:rows].map { |row| row[:lit] }.uniq).to eq([true])
    end

    it "makes surfaces of a liquid itself that nobody else has begun, and leaves none half made where it is stopped" do
      helped(@workshop)
      shot = shelve(@workshop, small_water(grain: 4.0))
      expect(run_now(@workshop, shot)).to include(computed: 6)
      expect(contents(@workshop, "frames").keys.grep(/whole/)).to eq([])
      job =
        @workshop.runs.start(shot.tap { @workshop.shots.edit(shot, [set("liquid", :viscosity, 0.01)]) }, "draft")[
          :job_id
        ]
      allow_any_instance_of(Studio::Farm::Skins).to receive(:finish).and_raise(Studio::Worker::Task::GivenBack)
      Studio::Worker.new(@workshop).run_one(job)
      expect([@workshop.jobs.fetch(job)[:state], contents(@workshop, "frames").keys.grep(/whole/)]).to eq(
        ["queued", []]
      )
    end

    it "keeps coarse surfaces of a liquid to the run" do
      helped(@workshop)
      allow(@workshop.jobs).to receive(:add).and_call_original
      run_now(@workshop, shelve(@workshop, small_water))
      expect(@workshop.jobs).not_to have_received(:add).with("skin", any_args)
    end

    it "is gone on with where it was cut off, and stopped with all its parts" do
      helped(@workshop)
      job = @workshop.exports.start(id, "png")
      @workshop.jobs.claim(nil, only: job)
      task = Studio::Worker::Task.new(@workshop, @workshop.jobs.fetch(job))
      division = described_class.new(task)
      payloads = Array.new(3) { |n| {whole: job, n: n} }
      @workshop.queue.hold(job)
      expect { division.call("cut", payloads) }.to raise_error(Studio::Worker::Task::GivenBack)
      expect(parts.select_map(%i[state held])).to eq([["queued", true]] * 3)
      @workshop.jobs.release(job)
      @workshop.queue.go_on(job)
      @workshop.jobs.claim(nil, only: job)
      @workshop.jobs.cancel(job)
      expect { division.call("cut", payloads) }.to raise_error(Studio::Worker::Task::Stopped)
      expect(parts.select_map(:state)).to eq(%w[cancelled] * 3)
    end

    it "says why a part could not be made" do
      helped(@workshop)
      key = @workshop.runs.best(id, 5)[1]
      job = @workshop.exports.start(id, "png")
      FileUtils.rm_f(@workshop.home.within("frames", key[0, 2], "#{key}.frame"))
      expect(work(@workshop, job)).to include(state: "failed", code: "no_frame", error: /gone; run the shot again/)
      expect(parts.where(state: %w[queued running]).count).to eq(0)
    end

    it "is told of as one piece of work" do
      whole = @workshop.jobs.add("export", id, {})
      @workshop.jobs.add("cut", id, {}, of: [whole, 0])
      expect(
        [@workshop.queue.list, @workshop.jobs.recent, @workshop.jobs.active].map do |rows|
          rows.map { |row| row[:kind] }.include?("cut")
        end
      ).to eq([false] * 3)
      expect(@workshop.events.since(0).map { |event| event[:data]["kind"] }).not_to include("cut")
    end
  end
end
