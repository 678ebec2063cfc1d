# frozen_string_literal: true

module Vumbral
  RSpec.describe Studio::Worker do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:jobs) { @workshop.jobs }
    let(:id) { shelve(@workshop) }

    def start(**options) = @workshop.runs.start(id, "draft", views: false, **options)[:job_id]

    it "hands a job back when it is told to stop, and the next one goes on from the frames that are there" do
      job = start
      worker = described_class.new(@workshop)
      allow(@workshop.frames).to receive(:write).and_wrap_original do |write, *given, **options|
        write.call(*given, **options).tap { worker.stop if given[1] == 3 }
      end
      worker.run_one(job)
      expect(jobs.fetch(job)).to include(state: "queued", attempts: 0, resumed: true, worker: nil)
      expect(jobs.show(jobs.fetch(job))).to include(resumed: true, done: 3)
      allow(@workshop.frames).to receive(:write).and_call_original
      expect(JSON.parse(work(@workshop, job)[:result])).to include("computed" => 5, "kept" => 3)
    end

    it "leaves what does not come to its end in time, and the job waits again" do
      stub_const("Vumbral::Studio::Worker::GRACE", 0.1)
      job = start
      left = Queue.new
      hang = Queue.new
      allow_any_instance_of(Gas::Stage).to receive(:advance) { hang.pop }
      worker = described_class.new(@workshop)
      thread = Thread.new { worker.run(leave: -> { left << :gone }) }
      Timeout.timeout(5) { sleep 0.01 until jobs.fetch(job)[:done] == 0 && jobs.fetch(job)[:note] == "making ready" }
      worker.stop
      expect(Timeout.timeout(5) { left.pop }).to eq(:gone)
      expect(jobs.fetch(job)).to include(state: "queued", resumed: true)
      thread.kill
    end

    it "lights the shot that one looks at between the frames of one that was left" do
      seen = shelve(@workshop)
      [id, seen].each { |shot| work(@workshop, @workshop.runs.start(shot, "draft", views: false)[:job_id]) }
      left = jobs.add("light", id, {quality: "draft", frame: 1}, background: true)
      asked = nil
      lit = []
      allow(@workshop.views).to receive(:light).and_wrap_original do |light, document, frame, *names|
        asked ||= jobs.add("light", seen, {quality: "draft", frame: 5}, background: true)
        light.call(document, frame, *names)
        lit << frame
      end
      described_class.new(@workshop).run_one(left)
      expect(lit).to eq([1])
      expect(jobs.fetch(left)).to include(state: "queued", resumed: true, attempts: 0)
      expect(jobs.claim(%w[short])).to include(id: asked)
      jobs.finish(asked, {})
      expect(JSON.parse(work(@workshop, left)[:result])).to eq("lit" => 7)
    end

    it "makes way in the background for what somebody asked for, and takes it up afterwards" do
      other = shelve(@workshop, small_shot("Other"))
      quiet = start(background: true)
      asked = nil
      allow(@workshop.frames).to receive(:write).and_wrap_original do |write, *given, **options|
        asked ||= @workshop.runs.start(other, "draft", views: false)[:job_id] if given[1] == 2
        write.call(*given, **options)
      end
      described_class.new(@workshop).run_one(quiet)
      expect(jobs.fetch(quiet)[:state]).to eq("queued")
      expect(jobs.claim(%w[long])[:id]).to eq(asked)
      jobs.finish(asked)
      expect(jobs.claim(%w[long])[:id]).to eq(quiet)
    end

    it "writes down on a full disk what happened, and says why nothing goes on" do
      expect(@workshop.home.reserve).to be(true)
      job = start
      full = true
      allow(File).to receive(:binwrite).and_wrap_original { |write, *given|
        full ? raise(Errno::ENOSPC) : write.call(*given)
      }
      row = work(@workshop, job)
      expect(row).to include(state: "failed", code: "disk_full", error: /The disk is full.*free some space/)
      expect(File.exist?(File.join(@workshop.home.path, "reserve"))).to be(false)
      expect(refusal { start }).to match(["disk_full", /nothing can be run; free some space/])
      waiting = jobs.add("run", id, {})
      expect(jobs.show(jobs.fetch(waiting))[:note]).to match(/disk .* is full; free some space/)
      full = false
      expect(@workshop.home.reserve).to be(true)
      jobs.cancel(waiting)
      expect(run_now(@workshop, id)).to include(computed: 8)
    end

    it "ends a job whose words cannot be stored as they are" do
      job = jobs.add("mesh", nil, {file: "x", name: "Töpf.obj", as: "mesh"})
      @workshop.home.write(@workshop.home.within("incoming", "x"), "v \xFF\xFE\x00 0\n")
      expect(work(@workshop,
        job)).to include(state: "failed", code: "bad_mesh", error: /Line 1 of Töpf.obj is not a point/)
      expect(Dir[File.join(@workshop.home.path, "incoming", "*")]).to eq([])
      expect(work(@workshop,
        jobs.add("mesh", nil, {file: "x", name: "a.obj", as: "mesh"}))).to include(state: "failed", code: "no_file")
    end

    it "keeps the file of a job that was cut off" do
      @workshop.home.write(@workshop.home.within("incoming", "y"), Formats::OBJ.write(Demo::Models.bowl))
      job = jobs.add("mesh", nil, {file: "y", name: "bowl.obj", as: "mesh"})
      allow(@workshop.assets).to receive(:bring).and_raise(described_class::Task::GivenBack)
      work(@workshop, job)
      expect(jobs.fetch(job)[:state]).to eq("queued")
      allow(@workshop.assets).to receive(:bring).and_call_original
      expect(work(@workshop, job)[:state]).to eq("done")
    end

    it "does not take up what was cancelled while its worker died" do
      job = start
      jobs.claim(%w[long], worker: Process.spawn("true").tap { |pid| Process.wait(pid) })
      jobs.cancel(job)
      expect(jobs.claim(%w[long])).to be_nil
      expect(jobs.fetch(job)[:state]).to eq("cancelled")
    end
  end

  RSpec.describe Studio::Home do
    it "sweeps up what was left half written, but not what is being written" do
      Dir.mktmpdir do |dir|
        home = described_class.new(dir)
        old, young = %w[a.part b.part].map { |name| File.join(dir, name).tap { |path| File.write(path, "x") } }
        File.utime(Time.now - 600, Time.now - 600, old)
        home.sweep
        expect([File.exist?(old), File.exist?(young)]).to eq([false, true])
      end
    end

    it "looks at the disk now and then only" do
      Dir.mktmpdir do |dir|
        home = described_class.new(dir)
        expect(home.trouble(100.0)).to be_nil
        File.delete(File.join(dir, "reserve"))
        allow(File).to receive(:binwrite).and_raise(Errno::ENOSPC)
        expect(home.trouble(101.0)).to be_nil
        expect(home.trouble(103.0)).to match(/is full; free some space/)
      end
    end
  end
end
