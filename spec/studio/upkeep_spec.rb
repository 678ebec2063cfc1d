# frozen_string_literal: true

module Vumbral
  RSpec.describe Studio::Upkeep do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:upkeep) { described_class.new(@workshop) }

    let(:id) { shelve(@workshop) }

    def frames = Dir[File.join(@workshop.home.path, "frames", "*", "*.frame")]

    it "lays the reserve aside, and takes files away that were sent and never read" do
      waiting = %w[old young].map { |name| @workshop.home.write(@workshop.home.within("incoming", name), "x") }
      File.utime(Time.now - 2 * 24 * 3600, Time.now - 2 * 24 * 3600, waiting[0])
      expect(upkeep.call).to eq(found: 0, gone: 0)
      expect(waiting.map { |path| File.exist?(path) }).to eq([false, true])
      expect(File.size(File.join(@workshop.home.path, "reserve"))).to eq(Studio::Home::RESERVE)
    end

    it "brings rows and files of many frames together" do
      run_now(@workshop, id)
      File.delete(frames[0])
      File.truncate(frames[1], 30)
      keys = frames.map { |path| File.basename(path, ".frame") }
      @workshop.db[:frames].where(key: keys.last(2)).delete
      expect(upkeep.call).to eq(found: 2, gone: 2)
      expect(upkeep.call).to eq(found: 0, gone: 0)
      expect(@workshop.runs.state(id, "draft")[:rows].map { |row| row[:state] }.tally).to eq("fresh" => 6, "none" => 2)
      expect(run_now(@workshop, id)).to include(computed: 2, kept: 6)
    end

    it "takes a whole file away that nobody can make a row from" do
      run_now(@workshop, id)
      key = File.basename(frames[0], ".frame")
      @workshop.db[:frames].where(key: key).delete
      File.binwrite(frames[0], "VMBR\x05\x00\x00\x00{\"a\"}")
      expect(upkeep.call).to eq(found: 0, gone: 0)
      expect(frames.size).to eq(7)
    end

    it "lets go of shots that were taken away long ago" do
      ids = Array.new(2) { shelve(@workshop) }
      ids.each { |id| @workshop.shots.take_away(id) }
      @workshop.db[:shots].where(id: ids[0]).update(away_at: @workshop.now - 31 * 24 * 3600)
      upkeep.call
      expect(@workshop.shots.away.map { |row| row[:id] }).to eq([ids[1]])
    end

    it "has jobs of dead workers wait again" do
      job = @workshop.jobs.add("run", id, {})
      @workshop.jobs.claim(%w[long], worker: Process.spawn("true").tap { |pid| Process.wait(pid) })
      upkeep.call
      expect(@workshop.jobs.fetch(job)).to include(state: "queued", resumed: true)
    end

    it "lets the server come up on a full disk" do
      allow(@workshop.frames).to receive(:reconcile).and_raise(Sequel::DatabaseError, "database or disk is full")
      expect(upkeep.call).to eq(found: 0, gone: 0)
      allow(@workshop.frames).to receive(:reconcile).and_raise(Sequel::DatabaseError, "file is not a database")
      expect { upkeep.call }.to raise_error(Sequel::DatabaseError)
    end
  end

  RSpec.describe "The programs in bin" do
    def program(name, *words) = Open3.capture2e({"RUBYOPT" => nil}, File.join(ROOT, "bin", name), *words)

    it "explain themselves" do
      text, status = program("demo", "--help")
      expect([text, status.exitstatus]).to match([/Starts Vumbral with its demo.*--home DIR.*--port N/m, 0])
      expect(program("dev", "--help")[0]).to match(/front end with reloading/)
      expect(program("demo", "--colour").then { |output, exit| [output, exit.exitstatus] }).to eq(
        ["--colour is no option of bin/demo; see bin/demo --help.\n", 1]
      )
      expect(program("demo", "--home").then { |output, exit| [output, exit.exitstatus] }).to eq(
        ["--home needs a folder.\n", 1]
      )
    end

    it "name the torture where people look for it" do
      expect(File.read(File.join(ROOT, "CONTRIBUTING.md"))).to include("bin/torture", "bin/dev", "A dial", "A kernel")
    end
  end
end
