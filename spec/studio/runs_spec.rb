# frozen_string_literal: true

module Vumbral
  RSpec.describe Studio::Runs do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:id) { shelve(@workshop) }

    def key(frame, value)
      {"do" => "key", "node" => "source-1", "dial" => "smoke", "frame" => frame, "value" => value, "ease" => "linear"}
    end

    def states(quality = "draft") = @workshop.runs.state(id, quality)[:rows].map { |row| row[:state] }

    def bytes_of(key) = File.binread(Dir[File.join(@workshop.home.path, "frames", "*", "#{key}.frame")].first)

    it "computes every frame once and uses it again" do
      expect(run_now(@workshop, id)).to include(computed: 8, kept: 0)
      expect(run_now(@workshop, id)).to eq(computed: 0, kept: 8)
      expect(states).to eq(["fresh"] * 8)
    end

    it "goes on from the first frame that an edit touches" do
      @workshop.shots.edit(id, [key(1, 4.0), key(5, 4.0), key(8, 6.0)])
      run_now(@workshop, id)
      @workshop.shots.edit(id, [key(8, 9.0)])
      expect(states).to eq(["fresh"] * 5 + ["stale"] * 3)
      expect(run_now(@workshop, id)).to include(computed: 3, kept: 5)
      expect(states).to eq(["fresh"] * 8)
    end

    it "gives the same bytes resumed as uninterrupted" do
      run_now(@workshop, id, frames: 1..5)
      expect(states).to eq(["fresh"] * 5 + ["none"] * 3)
      run_now(@workshop, id)
      keys = @workshop.runs.plan(id, "draft").keys.values
      resumed = keys.map { |key| bytes_of(key) }
      with_workshop do |fresh|
        other = shelve(fresh)
        run_now(fresh, other)
        whole = keys.map { |key| File.binread(Dir[File.join(fresh.home.path, "frames", "*", "#{key}.frame")].first) }
        expect(resumed == whole).to be(true)
      end
    end

    it "takes up a job where a killed worker left it" do
      job = @workshop.runs.start(id, "draft")[:job_id]
      script = "require #{File.join(ROOT, "lib", "vumbral").inspect}; w = Vumbral::Studio::Workshop.new(" \
"#{@workshop.home.path.inspect}); " \
        "Vumbral::Studio::Simulation.prepend(Module.new { def advance(state, frame, wanted) = (frame == 4) ? " \
"Process.kill(:KILL, Process.pid) : super }); " \
        "Vumbral::Studio::Worker.new(w).run_one(#{job})"
      system({"BUNDLE_GEMFILE" => File.join(ROOT, "Gemfile")}, RbConfig.ruby, "-rbundler/setup", "-e", script)
      expect(states).to eq(["fresh"] * 3 + ["none"] * 5)
      row = work(@workshop, job)
      expect(row).to include(state: "done", attempts: 2)
      expect(JSON.parse(row[:result])).to include("computed" => 5, "kept" => 3)
    end

    it "stops when asked and keeps what was finished" do
      job = @workshop.runs.start(id, "draft")[:job_id]
      steps = 0
      allow_any_instance_of(Gas::Stage).to receive(:advance).and_wrap_original do |original, *arguments|
        @workshop.jobs.cancel(job) if (steps += 1) == 3
        original.call(*arguments)
      end
      expect(work(@workshop, job)[:state]).to eq("cancelled")
      expect(states.count("fresh")).to eq(3)
    end

    it "runs again by itself after a change, if what was run is touched" do
      expect(@workshop.runs.follow(id)).to be_nil
      run_now(@workshop, id)
      @workshop.shots.edit(id, [set("sun-1", :strength, 1.0)])
      expect(@workshop.runs.follow(id)).to be_nil
      @workshop.shots.edit(id, [set("source-1", :smoke, 1.0)])
      expect(@workshop.runs.follow(id)).to include(number: 2, quality: "draft")
      @workshop.shots.edit(id, [set("source-1", :prop, nil)])
      expect(@workshop.runs.follow(id)).to be_nil
    end

    it "replaces a run that is going on" do
      first = @workshop.runs.start(id, "draft")[:job_id]
      second = @workshop.runs.start(id, "draft")[:job_id]
      expect([first, second].map { |job| @workshop.jobs.fetch(job)[:state] }).to eq(%w[cancelled queued])
    end

    it "refuses what cannot be run" do
      expect(refusal { @workshop.runs.start(id, "quick") }).to match(["bad_value", /draft or full/])
      expect(refusal { @workshop.runs.start(id, "draft", frames: 3..40) }).to match(
        ["out_of_range", /Frames 3-40 are not in the shot; it goes from 1 to 8/]
      )
      @workshop.shots.edit(id, [set("source-1", :prop, nil)])
      expect(refusal { @workshop.runs.start(id, "draft") }).to match(["no_source", /Nothing feeds this shot/])
      expect(refusal { @workshop.runs.best(id, 3) }).to match(["not_run", /Frame 3 has not been run/])
      expect(refusal { @workshop.runs.best(id, 99) }).to match(["no_frame", /it goes from 1 to 8/])
    end

    it "stops at the frame where something is no longer a number, and says after which change" do
      run_now(@workshop, id, frames: 1..3)
      @workshop.shots.edit(id, [set("general", :last, 7)])
      allow_any_instance_of(Gas::Solver).to receive(:substep).and_wrap_original do |original, state, *rest, **options|
        state.smoke[3, 3, 3] = Float::NAN
        original.call(state, *rest, **options)
      end
      row = work(@workshop, @workshop.runs.start(id, "draft")[:job_id])
      expect(row).to include(state: "failed", code: "not_a_number")
      expect(row[:error]).to match(
        /At frame \d the (velocity|smoke) is no longer a number.*The last change was: Last frame 8 → 7/
      )
      expect(states.first(3)).to eq(["fresh"] * 3)
    end

    it "counts on what is needed for the memory there is" do
      plan = @workshop.runs.plan(id, "full")
      allow(@workshop.machine).to receive(:memory).and_return(plan.memory)
      expect(refusal { @workshop.runs.start(id, "full") }).to match(["too_large", /voxel size at least/])
      least = refusal { @workshop.runs.start(id, "full") }[1][/at least ([\d.]+) m/, 1].to_f
      @workshop.shots.edit(id, [set("chamber", :voxel, least)])
      expect(refusal { @workshop.runs.start(id, "full") }).to be_nil
    end
  end

  RSpec.describe Studio::FrameStore do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    it "finds a damaged frame out, takes it away, and the run makes it anew" do
      id = shelve(@workshop)
      run_now(@workshop, id)
      key = @workshop.runs.plan(id, "draft").keys[5]
      path = Dir[File.join(@workshop.home.path, "frames", "*", "#{key}.frame")].first
      bytes = File.binread(path)
      bytes.setbyte(bytes.bytesize / 2, bytes.getbyte(bytes.bytesize / 2) ^ 0xff)
      File.binwrite(path, bytes)
      expect(refusal { @workshop.frames.read(key) }).to match(["damaged", /run the shot again/])
      expect(refusal { @workshop.frames.read(key) }).to match(["no_frame", /gone/])
      expect(run_now(@workshop, id)).to include(computed: 1, kept: 7)
      expect(@workshop.frames.read(key)[1]).to include("frame" => 5)
    end

    it "gives keys that are none no way into the folder" do
      ["../../x", "A" * 32, "", nil].each do |key|
        expect(refusal { @workshop.frames.read(key) }).to match(["bad_path", /not the key of a frame/])
      end
    end

    it "says that the disk is full, and leaves nothing half-written" do
      id = shelve(@workshop)
      job = @workshop.runs.start(id, "draft")[:job_id]
      allow(File).to receive(:binwrite).and_raise(Errno::ENOSPC)
      row = work(@workshop, job)
      expect(row).to include(state: "failed", code: "disk_full")
      expect(row[:error]).to match(/disk is full.*free some space/)
      allow(File).to receive(:binwrite).and_call_original
      expect(Dir[File.join(@workshop.home.path, "**", "*.part")]).to eq([])
      expect(run_now(@workshop, id)).to include(computed: 8)
    end
  end
end
