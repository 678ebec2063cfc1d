# frozen_string_literal: true

module Vumbral
  RSpec.describe Studio::Farm::Foreman do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:foreman) { @workshop.foreman }
    let(:anvil) { helped(@workshop)[:id] }
    let(:forge) { helped(@workshop, "ba9876543210")[:id] }

    before { stub_const("Vumbral::Studio::Jobs::HEAD_START", 0.0) }

    def give(machine, lanes = %w[short part long]) = foreman.give(machine, Studio::Farm::Version.own, lanes)

    def send_whole(job, machine, name, bytes, sum: Digest::SHA256.hexdigest(bytes)) =
      foreman.take(job, machine, name, bytes, at: 0, size: bytes.bytesize, sum: sum)

    def element(name = "ab" * 12) = @workshop.jobs.add("element", nil, {"name" => name})

    it "gives a job with all that is written down of it" do
      id = shelve(@workshop)
      run = @workshop.runs.start(id, "draft")
      parcel = give(anvil)
      expect(parcel[:job]).to include(id: run[:job_id], kind: "run", shot_id: id)
      expect(parcel[:rows].transform_values(&:size)).to eq(shots: 1, runs: 1, revisions: 1, caches: 0, assets: 0)
      expect(parcel[:known].values).to eq([false] * 8)
      expect(parcel[:outputs]).to include(*parcel[:known].keys.map { |key| "frames/#{key[0, 2]}/#{key}." })
      expect(give(anvil)).to be_nil
      JSON.generate(parcel)
    end

    it "takes only what the job may write, from who has it" do
      job = element
      give(anvil)
      expect(refusal { send_whole(job, anvil, "elements/ab/#{"ac" * 12}.half", "x") }).to match(
        ["not_allowed", /may not write/]
      )
      [
        "../away", "elements/ab/../../vumbral.sqlite3", "frames/00/#{"0" * 32}.frame", "shots.json",
        "elements/ab/#{"ab" * 12}.half/x"
      ].each { |name| expect(refusal { send_whole(job, anvil, name, "x") }[0]).to match(/not_allowed|bad_path/) }
      expect(refusal { send_whole(job, forge, "elements/ab/#{"ab" * 12}.half", "x") }).to match(
        ["not_yours", /not this machine's any more/]
      )
      expect(send_whole(job, anvil, "elements/ab/#{"ab" * 12}.half", "x")).to eq(have: 1, done: true)
      foreman.finish(job, anvil, {"name" => "ab" * 12}, 1.5)
      expect(refusal { foreman.sign(job, anvil) }[0]).to eq("not_yours")
      expect([@workshop.jobs.fetch(job)[:state], @workshop.machines.fetch(anvil)[:seconds]]).to eq(["done", 1.5])
    end

    it "lets a part of an export write its own frames alone" do
      shot = shelve(@workshop)
      job = @workshop.jobs.add("cut", shot, {whole: 77, first: 4, keys: [[5, nil], [6, nil]]}, of: [77, 1])
      give(anvil)
      ["000004.cut", "000005.cut", ".#{shot}-sheet/000005.png"].each do |name|
        expect(send_whole(job, anvil, "cuts/77/#{name}", "x")[:done]).to be(true)
      end
      %w[000003.cut 000006.cut .other-sheet/000005.png a/000004.cut].each do |name|
        expect(refusal { send_whole(job, anvil, "cuts/77/#{name}", "x") }[0]).to eq("not_allowed")
      end
    end

    it "tells still why a machine is paused when it comes back" do
      @workshop.machines.pause(anvil, "It made something else.")
      expect(helped(@workshop)).to include(paused: true, trouble: "It made something else.")
    end

    it "takes a file in pieces, from where it was cut off, and nothing that came damaged" do
      job = element
      give(anvil)
      name = "elements/ab/#{"ab" * 12}.half"
      bytes = Random.new(3).bytes(1000)
      sum = Digest::SHA256.hexdigest(bytes)
      piece = ->(at, part) { foreman.take(job, anvil, name, part, at: at, size: 1000, sum: sum) }
      expect(piece[0, bytes[0, 400]]).to eq(have: 400, done: false)
      expect(piece[0, bytes[0, 400]]).to eq(have: 400, done: false)
      expect(piece[400, bytes[400..]]).to eq(have: 1000, done: true)
      expect(File.binread(@workshop.home.within(name))).to eq(bytes)
      other = element("cd" * 12)
      give(anvil)
      expect(refusal { send_whole(other, anvil, "elements/cd/#{"cd" * 12}.half", "x", sum: "0" * 64) }).to match(
        ["damaged", /sent again/]
      )
      expect(File.exist?(@workshop.home.within("elements/cd/#{"cd" * 12}.half"))).to be(false)
    end

    it "writes nothing over that has its name from what made it" do
      job = element
      give(anvil)
      name = "elements/ab/#{"ab" * 12}.half"
      @workshop.home.write(@workshop.home.within(name), "as it was")
      send_whole(job, anvil, name, "another")
      expect(File.read(@workshop.home.within(name))).to eq("as it was")
    end

    it "lets recipes of sculpts come that are what their names say, where the job makes frames" do
      run = @workshop.runs.start(shelve(@workshop), "draft")[:job_id]
      key = give(anvil)[:known].keys[0]
      recipe = JSON.generate([1, [], key])
      made = Digest::SHA256.hexdigest(recipe)[0, 32]
      expect(refusal { send_whole(run, anvil, "frames/#{made[0, 2]}/#{made}.frame", "x") }[0]).to eq("not_allowed")
      expect(refusal { send_whole(run, anvil, "sculpts/#{made[0, 2]}/#{made}.json", "[]") }[0]).to eq("damaged")
      expect(send_whole(run, anvil, "sculpts/#{made[0, 2]}/#{made}.json", recipe)[:done]).to be(true)
      expect(send_whole(run, anvil, "views/#{made[0, 2]}/#{made}-#{"0" * 16}.gz", "x")[:done]).to be(true)
    end

    it "makes a share of the work twice, and believes who agree" do
      foreman.twice = 1.0
      job = element
      give(anvil)
      name = "elements/ab/#{"ab" * 12}.half"
      send_whole(job, anvil, name, "the same")
      foreman.finish(job, anvil, {}, 1.0)
      expect(@workshop.jobs.fetch(job)).to include(state: "queued", not_by: anvil)
      expect(File.exist?(@workshop.home.within(name))).to be(false)
      expect(give(anvil)).to be_nil
      give(forge)
      send_whole(job, forge, name, "the same")
      foreman.finish(job, forge, {}, 1.0)
      expect(@workshop.jobs.fetch(job)).to include(state: "done")
      expect(@workshop.machines.working.size).to eq(2)
    end

    it "gives no more work to machines that make two things of one, and makes it here" do
      foreman.twice = 1.0
      job = element
      give(anvil)
      name = "elements/ab/#{"ab" * 12}.half"
      send_whole(job, anvil, name, "one thing")
      foreman.finish(job, anvil, {}, 1.0)
      give(forge)
      send_whole(job, forge, name, "another thing")
      foreman.finish(job, forge, {}, 1.0)
      expect(@workshop.machines.list.drop(1).map { |row| row[:trouble] }).to all(
        match(/was not what another machine made of it/)
      )
      expect(@workshop.jobs.claim(%w[short], machine: helped(@workshop, "cafecafecafe"))).to be_nil
      expect(@workshop.jobs.claim(%w[short])[:id]).to eq(job)
    end

    it "holds what is made here against what a machine made" do
      foreman.twice = 1.0
      id = shelve(@workshop)
      run_now(@workshop, id)
      job = @workshop.prints.take(id, 4)
      give(anvil)
      send_whole(job, anvil, "cuts/#{job}/print.png", "no such picture")
      foreman.finish(job, anvil, {"seconds" => 1.0}, 1.0)
      expect(work(@workshop, job)[:state]).to eq("done")
      expect(@workshop.machines.fetch(anvil)).to include(paused: true, trouble: /gets no more work/)
      expect(Vips::Image.new_from_file(@workshop.prints.path(id, 1)).width).to eq(96)
      expect(refusal { foreman.twice = 2 }[0]).to eq("out_of_range")
    end

    it "gives no work to a machine that is paused, and takes up what one had that is let go" do
      job = element
      @workshop.machines.pause(anvil)
      expect(give(anvil)).to be_nil
      @workshop.machines.go_on(anvil)
      give(anvil)
      @workshop.machines.let_go(anvil)
      expect(@workshop.jobs.fetch(job)).to include(state: "queued", machine: nil)
      expect(refusal { give(anvil) }).to match(["unknown_machine", /was let go; start its worker again/])
      expect(refusal { @workshop.machines.welcome("id" => "x", "name" => "") }[0]).to eq("bad_value")
      expect(refusal { foreman.give(forge, "other", %w[short]) }[0]).to eq("other_version")
    end

    it "tells of what a machine does, how quick it is and when it was heard of" do
      allow(Studio::Farm::Gauge).to receive(:known).and_return(2.0)
      expect(@workshop.machines.list).to eq([])
      give(anvil)
      element
      give(anvil)
      here, there = @workshop.machines.list
      expect(here).to include(id: nil, state: "here", speed: 2.0)
      expect(there).to include(name: "Anvil", cores: 2, state: "working", doing: [hash_including(kind: "element")])
      expect(@workshop.machines.capacity).to eq(1.5)
      allow(@workshop).to receive(:now).and_return(Time.now.to_f + 60)
      expect([@workshop.machines.list[1][:state], @workshop.machines.any?, @workshop.machines.capacity]).to eq(
        ["silent", false, 1.0]
      )
    end

    it "measures a machine once" do
      allow(Studio::Farm::Gauge).to receive(:measure).and_return(3.5)
      2.times { expect(Studio::Farm::Gauge.of(@workshop.home)).to eq(3.5) }
      expect(Studio::Farm::Gauge).to have_received(:measure).once
      2.times { @workshop.machines.welcome(FarmHelp::MACHINE.merge("id" => "0123456789ab")) }
      expect(@workshop.jobs.active.map { |job| job[:kind] }).to eq([])
      FileUtils.rm_f(@workshop.home.within("gauge.json"))
      other = Studio::Workshop.new(@workshop.home.path)
      2.times { other.machines.welcome(FarmHelp::MACHINE.merge("id" => "0123456789ab")) }
      expect(
        work(@workshop, @workshop.jobs.active.map { |job| job[:id] }.then { |ids| ids.one? && ids[0] })[:state]
      ).to eq("done")
      expect(other.machines.capacity).to be_within(1e-9).of(1.0 + 1.0 / 3.5)
      RSpec::Mocks.space.proxy_for(Studio::Farm::Gauge).reset
      expect(Studio::Farm::Gauge.measure).to be > 0.01
    end
  end
end
