# frozen_string_literal: true

module Vumbral
  # A worker that has nothing of the server's but its address.
  RSpec.describe Away::Hand do
    around do |example|
      with_workshop do |workshop|
        Dir.mktmpdir do |folder|
          serving(@workshop = workshop) { |address| (@address, @folder = address, folder) && example.run }
        end
      end
    end

    let(:worker) { hand(@address, File.join(@folder, "a")) }

    # Carries out a job elsewhere. @return [Hash] its row
    def done(job)
      expect(worker.take).to be(true)
      @workshop.jobs.fetch(job).tap { |row| raise "#{row[:state]}: #{row[:error]}" unless row[:state] == "done" }
    end

    # A sculpt with some density.
    def cloud(from, **dials)
      [
        {
          "do" => "add", "kind" => "sculpt", "id" => "sculpt-1", "name" => "Cloud",
          "dials" => {"from" => from, "voxel" => 0.1}.merge(dials.transform_keys(&:to_s))
        },
        {
          "do" => "add",
          "kind" => "step",
          "id" => "soft",
          "name" => "Soft",
          "dials" => {
            "sculpt" => "sculpt-1", "what" => "density", "inside" => 0.1
          }
        }
      ]
    end

    # What a shot comes to where there is one machine alone.
    def alone(document)
      with_workshop do |workshop|
        id = shelve(workshop, document)
        yield workshop, id
      end
    end

    it "runs a shot as this machine would, to the last bit, and tells frames as they come" do
      id = shelve(@workshop)
      since = @workshop.events.last
      row = done(@workshop.runs.start(id, "draft")[:job_id])
      expect(row).to include(machine: "0123456789ab", done: 8)
      expect(JSON.parse(row[:result])).to include("computed" => 8)
      told = @workshop.events.since(since).select { |event| event[:kind] == "frame" }
      expect(told.map { |event| event[:data]["frame"] }).to eq((1..8).to_a)
      expect(@workshop.runs.state(id, "draft")[:rows].map { |one| one.values_at(:state, :lit) }.uniq).to eq(
        [["fresh", true]]
      )
      expect(
        @workshop.frames.facts(told.map { |event| event[:data]["key"] }).values.map { |facts| facts["seconds"] }
      ).to all(be_positive)
      alone(small_shot) do |workshop, other|
        run_now(workshop, other)
        %w[frames views].each { |folder| expect(contents(@workshop, folder)).to eq(contents(workshop, folder)) }
      end
      expect(@workshop.machines.fetch("0123456789ab")).to include(done: 1)
    end

    it "goes on from the last state where another worker was lost" do
      id = shelve(@workshop, small_shot("Long puff", edits: [set("general", "last", 12)]))
      job = @workshop.runs.start(id, "draft")[:job_id]
      lost = hand(@address, File.join(@folder, "b"), id: "ba9876543210")
      # It goes when it has made ten frames.
      allow(lost.instance_variable_get(:@workshop)).to receive(:now).and_wrap_original do |now|
        raise Away::Link::Lost, "cut" if @workshop.jobs.fetch(job)[:done] >= 10

        now.call
      end
      allow(lost.instance_variable_get(:@workshop).jobs).to receive(
        :progress
      ).and_wrap_original do |tell, *given, **how|
        tell.call(*given, **how)
        lost.instance_variable_get(:@workshop).outbox.put("none")
        raise Away::Link::Lost, "cut" if given[1] >= 10
      end
      expect { lost.take }.to raise_error(Away::Link::Lost)
      expect(worker.take).to be(false)
      allow(@workshop).to receive(:now).and_return(Time.now.to_f + Studio::Jobs::LEASE + 1)
      result = JSON.parse(done(job)[:result])
      expect(result["computed"]).to be_between(1, 5)
      alone(small_shot("Long puff", edits: [set("general", "last", 12)])) do |workshop, other|
        run_now(workshop, other)
        expect(contents(@workshop, "frames")).to eq(contents(workshop, "frames"))
      end
    end

    it "makes a frame again that went away on the server while it was asked for" do
      id = shelve(@workshop)
      run_now(@workshop, id, frames: 1..4)
      far = worker.instance_variable_get(:@workshop)
      key = @workshop.runs.plan(id, "draft").keys[3]
      allow(far).to receive(:open).and_wrap_original do |open, parcel|
        FileUtils.rm_f(@workshop.home.within("frames", key[0, 2], "#{key}.frame"))
        open.call(parcel)
      end
      FileUtils.rm_rf(@workshop.home.within("views"))
      done(@workshop.runs.start(id, "draft")[:job_id])
      expect(@workshop.frames.frame?(key)).to be(true)
    end

    it "makes prints with all that they need: frames, meshes, layers" do
      mesh =
        @workshop.assets.bring("v 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 3 2\nf 1 2 4\nf 2 3 4\nf 3 1 4\n", "tetra.obj")[
          :digest
        ]
      edits = [
        set("prop-1", "shape", "mesh"), set("prop-1", "mesh", mesh),
        {"do" => "add", "kind" => "layer", "name" => "Ground"}
      ]
      id = shelve(@workshop, small_shot("Shown", edits: edits))
      run_now(@workshop, id)
      done(@workshop.prints.take(id, 6))
      work(@workshop, @workshop.prints.take(id, 6))
      pictures = [1, 2].map { |number| File.binread(@workshop.prints.path(id, number)) }
      expect(pictures[0]).to eq(pictures[1])
      expect(contents(@workshop, "cuts")).to be_empty
    end

    it "pours a liquid, and makes sculpts that are seen with a run" do
      id = shelve(@workshop, small_water)
      done(@workshop.runs.start(id, "draft")[:job_id])
      expect(@workshop.liquids.surface(@workshop.liquids.keys(@workshop.shots.document(id), "draft")[4]).count).to be >
        100
      carved = shelve(@workshop, small_shot("Carved", edits: cloud("prop", prop: "prop-1")))
      done(@workshop.runs.start(carved, "draft")[:job_id])
      rows = @workshop.runs.state(carved, "draft")[:rows]
      expect(rows.map { |row| row[:key] } & @workshop.runs.plan(carved, "draft").keys.values).to eq([])
      expect(rows.map { |row| row.values_at(:state, :lit) }.uniq).to eq([["fresh", true]])
      expect(rows.map { |row| @workshop.frames.read(row[:key])[0].count }).to all(be_positive)
    end

    # All parts of a job are made elsewhere, while this machine only waits for them.
    def divided(job, **how)
      far = hand(@address, File.join(@folder, job.to_s), **how)
      allow_any_instance_of(Studio::Worker).to receive(:run_one).and_wrap_original { |here, id|
        here.call(id) if id == job
      }
      thread = Thread.new { far.run_alone }
      work(@workshop, job).tap { |row| raise "#{row[:state]}: #{row[:error]}" unless row[:state] == "done" }
    ensure
      far.stop
      thread&.join(30)
    end

    it "makes the parts of an export with layers, as one machine would" do
      plate = Vips::Image.black(64, 36, bands: 3).linear([1, 1, 1], [40, 90, 160]).cast(:uchar).write_to_buffer(".png")
      file = File.join(@folder, "plate.png").tap { |path| File.binwrite(path, plate) }
      digest = @workshop.plates.bring({"plate.png" => file})[:digest]
      edits = [
        {
          "do" => "add",
          "kind" => "layer",
          "name" => "Plate",
          "dials" => {
            "what" => "plate", "plate" => digest, "blend" => "add", "opacity" => 40.0
          }
        }
      ]
      id = shelve(@workshop, small_shot("Laid over", edits: edits))
      run_now(@workshop, id)
      folder = ->(row) { JSON.parse(row[:result])["folder"] }
      pictures = ->(place) { Dir[File.join(place, "*.exr")].sort.map { |path| Digest::SHA256.file(path).hexdigest } }
      here = folder[work(@workshop, @workshop.exports.start(id, "exr"))]
      there = folder[divided(@workshop.exports.start(id, "exr"))]
      expect(pictures[there].size).to eq(8)
      expect(pictures[there]).to eq(pictures[here])
      expect(@workshop.machines.fetch("0123456789ab")[:done]).to be > 2
    end

    it "makes fine surfaces of a liquid while the run goes on" do
      fine = small_water(grain: 4.0, spray: true)
      id = shelve(@workshop, fine)
      since = @workshop.events.last
      divided(@workshop.runs.start(id, "draft")[:job_id], lanes: %w[part])
      expect(@workshop.machines.fetch("0123456789ab")[:done]).to be >= 1
      expect(
        @workshop
          .events
          .since(since)
          .select { |event| event[:kind] == "frame" }
          .map { |event| event[:data]["frame"] }
          .sort
      ).to eq((1..6).to_a)
      expect(@workshop.runs.state(id, "draft")[:rows].map { |row| row[:state] }.uniq).to eq(["fresh"])
      alone(fine) do |workshop, other|
        run_now(workshop, other)
        expect(contents(@workshop, "frames")).to eq(contents(workshop, "frames"))
      end
    end

    it "makes pictures of layers, and surfaces of sculpts, that are looked at" do
      edits =
        cloud("prop", prop: "prop-1") +
        [
          {
            "do" => "add",
            "kind" => "prop",
            "id" => "skin",
            "name" => "Skin",
            "dials" => {
              "shape" => "sculpt", "surface_of" => "sculpt-1", "threshold" => 0.5
            }
          },
          {"do" => "add", "kind" => "layer", "name" => "Again"}
        ]
      id = shelve(@workshop, small_shot("Skinned", edits: edits))
      document = @workshop.shots.document(id)
      name, = @workshop.surfaces.of(document, document.node("skin"))
      row = done(@workshop.jobs.add("surface", nil, {key: name, number: 0}))
      expect(File.binread(JSON.parse(row[:result])["path"])).to eq(File.binread(@workshop.surfaces.known(name, 0)))
      rushes = Studio::Rushes.of(@workshop, id, document, [2], quiet: true)
      jobs =
        @workshop.finishing.missing(rushes, 2, [96, 54]).map { |payload| @workshop.jobs.add("element", id, payload) }
      jobs.each { |job| done(job) }
      expect(@workshop.finishing.missing(rushes, 2, [96, 54])).to eq([])
      expect(jobs).not_to be_empty
    end

    it "carves and lights the frames of a sculpt, and runs variations" do
      grows =
        [1, 6].map do |frame|
          {
            "do" => "key", "node" => "sculpt-1", "dial" => "extent", "frame" => frame,
            "value" => [0.5 + 0.1 * frame] * 3
          }
        end
      id =
        shelve(
          @workshop,
          Shot::Edits.apply(
            Studio::Starters.bare("Only a cloud"), cloud("region") + [set("general", "last", 6)] + grows
          )[
            0
          ]
        )
      expect(
        JSON.parse(divided(@workshop.jobs.add("light", id, {quality: "draft", frame: 1}))[:result])["lit"]
      ).to be_between(2, 6)
      expect(@workshop.runs.state(id, "draft")[:rows].map { |row| row.values_at(:state, :lit) }.uniq).to eq(
        [["fresh", true]]
      )
      puff = shelve(@workshop)
      row = @workshop.strips.start(puff, [{"node" => "chamber", "dial" => "curl_boost", "values" => [0.0, 3.0]}])
      expect(JSON.parse(divided(row[:job_id])[:result])).to include("computed" => 16, "failed" => [])
      expect(@workshop.strips.list(puff)[0]).to include(there: 16)
    end

    it "fetches a file once, and again from where it was cut off" do
      path =
        @workshop.home.write(@workshop.home.within("meshes", "0123456789abcdef.mesh"), Random.new(1).bytes(300_000))
      to = File.join(@folder, "there.mesh")
      File.binwrite("#{to}.part", File.binread(path, 100_000))
      link = Away::Link.new(@address, machine: "0123456789ab")
      expect(link.fetch("meshes/0123456789abcdef.mesh", to)).to be(true)
      expect(File.binread(to)).to eq(File.binread(path))
      File.binwrite("#{to}.part", "not the beginning of it at all")
      File.delete(to)
      expect(link.fetch("meshes/0123456789abcdef.mesh", to)).to be(true)
      expect(File.binread(to)).to eq(File.binread(path))
      expect(
        [
          link.fetch("meshes/gone.mesh", to), link.there?("meshes/gone.mesh"),
          link.there?("meshes/0123456789abcdef.mesh")
        ]
      ).to eq([false, false, true])
    end

    it "is not quicker on the line than it may" do
      @workshop.home.write(@workshop.home.within("meshes", "0123456789abcdef.mesh"), Random.new(1).bytes(400_000))
      began = Process.clock_gettime(Process::CLOCK_MONOTONIC)
      Away::Link.new(@address, machine: "0123456789ab", bandwidth: 1e6).fetch(
        "meshes/0123456789abcdef.mesh", File.join(@folder, "slow")
      )
      expect(Process.clock_gettime(Process::CLOCK_MONOTONIC) - began).to be > 0.35
    end

    it "lets go of what it has not used for long, where there is too much" do
      home = worker.instance_variable_get(:@workshop).home
      files =
        %w[a b c].map do |name|
          home
            .write(File.join(home.path, "frames", "00", "#{name * 32}.frame"), "x" * 1000)
            .tap { |file| File.utime(Time.now - name.ord * -100, Time.now, file) }
        end
      home.instance_variable_set(:@room, 2000)
      home.thin_out
      expect(files.map { |file| File.exist?(file) }).to eq([false, true, true])
    end

    it "stops what is not wanted any more, and hands back what is to wait" do
      id = shelve(@workshop)
      job = @workshop.runs.start(id, "draft")[:job_id]
      far = worker.instance_variable_get(:@workshop)
      allow(far.jobs).to receive(:progress).and_wrap_original { |tell, *given, **how|
        tell.call(*given, **how).tap { @workshop.queue.hold(job) && far.jobs.instance_variable_set(:@asked, -9.0) }
      }
      worker.take
      expect(@workshop.jobs.fetch(job)).to include(state: "queued", held: true, resumed: true, machine: nil)
      @workshop.queue.go_on(job)
      allow(far.jobs).to receive(:progress).and_wrap_original { |tell, *given, **how|
        tell.call(*given, **how).tap { @workshop.jobs.cancel(job) && far.jobs.instance_variable_set(:@asked, -9.0) }
      }
      worker.take
      expect(@workshop.jobs.fetch(job)).to include(state: "cancelled")
    end

    it "goes on with other work where a job is not there any more" do
      job = @workshop.runs.start(shelve(@workshop), "draft")[:job_id]
      far = worker.instance_variable_get(:@workshop)
      allow(far.frames).to receive(:write).and_wrap_original { |write, *given, **how|
        write.call(*given, **how).tap { @workshop.db[:jobs].where(id: job).delete }
      }
      expect(worker.take).to be(true)
      expect(worker.take).to be(false)
    end

    it "is paused where its disk is full, and the work is done by others" do
      job = @workshop.runs.start(shelve(@workshop), "draft")[:job_id]
      allow(worker.instance_variable_get(:@workshop).frames).to receive(:write).and_raise(Errno::ENOSPC)
      worker.take
      expect(@workshop.jobs.fetch(job)).to include(state: "queued", attempts: 0)
      expect(@workshop.machines.list[1]).to include(state: "paused", trouble: /disk is full; free some space there/)
      expect(worker.take).to be(false)
      @workshop.machines.go_on("0123456789ab")
      allow(worker.instance_variable_get(:@workshop).frames).to receive(:write).and_call_original
      done(job)
    end

    it "gives what goes wrong inside it to somebody else, and says what is refused everywhere" do
      id = shelve(@workshop)
      run_now(@workshop, id)
      job = @workshop.prints.take(id, 3)
      allow(worker.instance_variable_get(:@workshop).painting).to receive(:image).and_raise(ArgumentError, "odd")
      expect { worker.take }.to output(/odd/).to_stderr
      expect(@workshop.jobs.fetch(job)).to include(state: "queued", not_by: "0123456789ab")
      expect(worker.take).to be(false)
      expect(work(@workshop, job)[:state]).to eq("done")
      other =
        @workshop.jobs.add(
          "print", id,
          {frame: 3, key: "0" * 32, width: 32, height: 18, document: @workshop.shots.document(id).to_json}
        )
      worker
        .instance_variable_get(:@workshop)
        .painting
        .then { |painting| allow(painting).to receive(:image).and_call_original }
      worker.take
      expect(@workshop.jobs.fetch(other)).to include(state: "failed", code: "no_frame")
    end

    it "is refused where it is of another version, or has no token" do
      allow(Studio::Farm::Version).to receive(:own).and_return("a" * 12, "b" * 12)
      expect(refusal { worker }).to match(["other_version", /update both/])
      serving(@workshop, token: "a" * 20) do |address|
        expect(refusal { Away::Link.new(address, machine: "0123456789ab").ask("/api/machines") }).to match(
          ["no_token", /token is needed/]
        )
        expect(Away::Link.new(address, machine: "0123456789ab", token: "a" * 20).ask("/api/machines")).to include(
          "machines" => []
        )
      end
    end

    it "says in a sentence what is no server" do
      expect(refusal { Away::Link.new("ftp://a", machine: "a") }).to match(["bad_value", /no address of a server/])
      stub_const("Vumbral::Away::Link::AGAIN", [0.01])
      expect {
        Away::Link.new("http://127.0.0.1:#{FarmHelp.free_port}", machine: "a").ask("/api/machines")
      }.to raise_error(Away::Link::Lost, /cannot be reached/)
    end
  end
end
