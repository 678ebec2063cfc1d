# frozen_string_literal: true

module Vumbral
  RSpec.describe CLI::Commands do
    around { |example| Dir.mktmpdir { |dir| (@dir = dir) && example.run } }

    # The real program. @return [Array(String, String, Integer)] output, errors, exit code
    def vumbral(*arguments, home: File.join(@dir, "home"))
      output, errors, status = Open3.capture3({"BUNDLE_WITHOUT" => nil, "RUBYOPT" => nil},
        File.join(ROOT, "bin", "vumbral"), *arguments, "--home", home)
      [output, errors, status.exitstatus]
    end

    def json(*arguments) = JSON.parse(vumbral(*arguments, "--json")[0], symbolize_names: true)

    def tune(shot)
      %w[general.last=6 chamber.size=1,1.4,1 chamber.voxel=0.08 chamber.draft=1.5].each do |setting|
        vumbral("set", shot, *setting.split("="))
      end
    end

    it "goes the whole way: a mesh, a shot, dials, a run, a print, exports" do
      mesh = File.join(@dir, "Jug.obj")
      File.write(mesh, Formats::OBJ.write(Demo::Models.vase))
      expect(json("new", "plume", "--name", "Jug steam", "--prop", mesh)).to eq(id: "jug-steam", name: "Jug steam")
      expect(vumbral("set", "jug-steam", "source-1.smoke", "6")[0]).to eq("Smoke 4 per s → 6 per s\n")
      tune("jug-steam")
      expect(vumbral("show",
        "jug-steam")[0]).to include("Jug steam, frames 1 to 6", "source-1  Plume (source)", "smoke = 6 per s")
      expect(json("run", "jug-steam", "--frames", "1-4")).to include(computed: 4, kept: 0, run: 1)
      expect(vumbral("run", "jug-steam")[0]).to match(/\A2 frames computed, 4 used again, 2 refined in [\d.]+ s\.\n\z/)
      expect(json("run", "jug-steam", "--full")).to include(computed: 6)
      picture = File.join(@dir, "frame.png")
      expect(json("print", "jug-steam", "--frame", "6", "--size", "64x36", "--out",
        picture)).to include(number: 1, frame: 6, quality: "full", out: picture)
      expect(File.binread(picture)[1, 3]).to eq("PNG")
      sheet = json("sheet", "jug-steam", "--frames", "2,5-6", "--size", "96x54", "--out", File.join(@dir, "sheet.png"))
      expect(sheet[:frames].map { |row| row[:frame] }).to eq([2, 5, 6])
      expect(sheet[:frames]).to all(
        include(quality: "full", bright: be_between(0, 1), dark: be_between(0, 1), peak: be > 293)
      )
      expect(File.binread(sheet[:out])[16, 8].unpack("N2")).to match([be_between(192, 204), be_between(150, 190)])
      expect(json("export", "jug-steam", "--as", "vdb", "--out", File.join(@dir, "out"), "--frames",
        "5-6")).to include(files: 2)
      expect(Dir.children(File.join(@dir, "out")).sort).to eq(%w[jug-steam.0005.vdb jug-steam.0006.vdb])
      expect(json("shots").map { |row| row[:name] }).to eq(["Jug steam"])
      saved = File.join(@dir, "saved.json")
      File.write(saved, vumbral("show", "jug-steam", "--json")[0])
      expect(vumbral("import", saved)[0]).to eq("Brought in the shot jug-steam-2.\n")
    end

    it "answers every mistake with one sentence and an exit code" do
      vumbral("new", "plume", "--name", "Puff")
      broken = File.join(@dir, "broken.obj")
      File.write(broken, "v 0 0 0\nv nothing\n")
      newer = File.join(@dir, "newer.json")
      File.write(newer, '{"format":"vumbral-shot","version":9,"name":"x","nodes":[]}')
      {
        %w[set puff chamber.voxel 0] => "Voxel size of Chamber cannot be 0; it goes from 0.0005 to 100 m.",
        %w[set puff chamber.voxel NaN] => "Voxel size of Chamber cannot be NaN; it goes from 0.0005 to 100 m.",
        %w[set puff chamber.glow 1] => /\AChamber has no dial "glow"; it has: leader, position, size/,
        %w[set puff chamber 1] => /Name the dial as NODE.DIAL/,
        %w[set puff chamber.size 900,900,900] => /need .* GB, but there are/,
        %w[show nothing] => "There is no shot \"nothing\"; there are: puff.",
        %w[run puff --frames x] => /Give frames as A-B/,
        %w[run puff --frames 1-900] => /are not in the shot/,
        %w[print puff --frame 3 --out x.png] => /Frame 3 has not been run since the last change; run a draft first./,
        %w[print puff --frame 3 --size big --out x.png] => /Give a size as WxH/,
        %w[sheet puff --frames 3,x --out x.png] => /Give frames as a list, for example 8,14,24-26, not "3,x"/,
        %w[sheet puff --frames 3 --out x.png] => /Frame 3 has not been run since the last change/,
        %w[sheet puff --frames 1-900 --out x.png] => /A sheet holds 1 to 64 frames, not 900/,
        ["new", "plume", "--name", "x", "--prop",
          broken] => "Line 2 of broken.obj is not a point (\"v nothing\"); a point is v and three numbers.",
        %w[new plume --name x --prop /no/file.obj] => "There is no file /no/file.obj.",
        %w[new volcano --name x] => /no starter "volcano"/,
        ["import", newer] => /saved by a newer Vumbral/,
        ["import", broken] => /broken.obj is not JSON/
      }.each do |arguments, message|
        output, errors, code = vumbral(*arguments)
        expect(errors.chomp).to match(message.is_a?(String) ? /\A#{Regexp.escape(message)}\z/ : message),
          arguments.join(" ")
        expect(errors.lines.size).to eq(1)
        expect([output, code]).to eq(["", 1])
      end
      expect(JSON.parse(vumbral("show", "nothing", "--json")[0])).to include("code" => "unknown_shot")
      expect(vumbral("shots", home: "/proc/nowhere")[1]).to match(/cannot be made .* choose another with --home/)
      expect(vumbral("export", "puff", "--as", "gif", "--out", @dir)).to match(["", /png, .*vdb/i, 1])
      expect(vumbral("launch")[2]).to eq(1)
    end

    it "shows a bar with the time left, on a terminal only" do
      terminal = StringIO.new.tap { |io| def io.tty? = true }
      bar = CLI::Progress.new("Run 1", output: terminal)
      bar.show({total: 8, done: 2})
      bar.show({total: 8, done: 8})
      expect(terminal.string).to include("Run 1", "8/8")
      quiet = StringIO.new
      CLI::Progress.new("Run 1", output: quiet).show({total: 8, done: 2})
      expect(quiet.string).to eq("")
    end

    it "brings plates and tables for the finish, follows and says what is missing" do
      files =
        [40, 90].each_with_index.map do |level, n|
          File
            .join(@dir, "wall.#{n}.png")
            .tap do |path|
              Vips::Image
                .black(24, 16, bands: 3)
                .linear(1, level)
                .cast(:uchar)
                .copy(interpretation: :srgb)
                .write_to_file(path)
            end
        end
      plate = json("plate", *files)
      expect(plate[:facts]).to include(frames: 2, width: 24)
      File.write(
        cube = File.join(@dir, "dusk.cube"),
        Formats::Cube.new(Kernel::Buffer.of(:f32, [0.0, 0.0, 0.0, 1.0, 1.0, 1.0], 2, 1, 1, 3)).write
      )
      expect(vumbral("table", cube)[0]).to match(/\Adusk.cube: an effect takes it as its table [0-9a-f]{24}\.\n\z/)
      expect(vumbral("plate", File.join(@dir, "none.png"))).to match(["", /There is no file/, 1])
      vumbral("new", "plume", "--name", "Puff")
      expect(vumbral("track", "puff", "prop-1", "--from", "1", "--to", "2")).to match(["", /is no tracked spot/, 1])
      expect(vumbral("pin", "puff", "prop-1")).to match(["", /pinned by 3 tracked spots/, 1])
    end

    it "serves, works, and stops cleanly; a killed worker is replaced and its run goes on" do
      vumbral("new", "plume", "--name", "Puff")
      tune("puff")
      vumbral("set", "puff", "general.last", "40")
      port = TCPServer.open("127.0.0.1", 0) { |server| server.addr[1] }
      home = File.join(@dir, "home")
      pid = Process.spawn(File.join(ROOT, "bin", "vumbral"), "serve", "--home", home, "--port", port.to_s,
        out: (log = File.join(@dir, "log")), err: log)
      ask = lambda do |path, body = nil|
        request = body ? Net::HTTP::Post.new(path).tap { |post| post.body = body } : Net::HTTP::Get.new(path)
        JSON.parse(Net::HTTP.start("127.0.0.1", port) { |http| http.request(request) }.body, symbolize_names: true)
      end
      Timeout.timeout(60) { sleep 0.1 until File.read(log).include?("Vumbral is at http://127.0.0.1:#{port}/") }
      job = ask.call("/api/shots/puff/runs", "{}")[:job]
      Timeout.timeout(60) { sleep 0.02 until ask.call("/api/jobs/#{job}")[:done] >= 3 }
      Process.kill(:KILL, Studio::Workshop.new(home).jobs.fetch(job)[:worker])
      Timeout.timeout(90) { sleep 0.05 until %w[done failed].include?(ask.call("/api/jobs/#{job}")[:state]) }
      expect(ask.call("/api/jobs/#{job}")).to include(state: "done", result: include(kept: be >= 3))
      expect(ask.call("/api/shots/puff/frames")[:rows].map { |row| row[:state] }.uniq).to eq(["fresh"])
      workers = Dir["/proc/[0-9]*/cmdline"]
        .select { |path| File.read(path).include?(home) rescue false } # rubocop:disable Style/RescueModifier
      Process.kill(:TERM, pid)
      Timeout.timeout(30) { Process.wait(pid) }
      expect(workers.size).to be >= 2
      Timeout.timeout(10) { sleep 0.1 while workers.any? { |path| File.exist?(path) } }
    ensure
      Process.kill(:KILL, pid) if pid && File.exist?("/proc/#{pid}") && Process.waitpid(pid, Process::WNOHANG).nil?
    end
  end
end

module Vumbral
  RSpec.describe CLI::DialList do
    it "is what the documentation says" do
      expect(File.read(File.join(ROOT, "docs", "dials.md")).chomp).to eq(
        described_class.new(Shot::Kinds.all.values).text
      ),
        "run: bin/vumbral dials > docs/dials.md"
    end
  end
end
