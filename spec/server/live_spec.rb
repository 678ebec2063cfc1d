# frozen_string_literal: true

module Vumbral
  RSpec.describe Server::Launcher do
    around { |example| Dir.mktmpdir { |dir| (@dir = dir) && example.run } }

    after { @live&.kill }

    def serve(**options) = @live = Live.new(@dir, **options)

    def eventually(seconds = 20)
      limit = Process.clock_gettime(Process::CLOCK_MONOTONIC) + seconds
      until (found = yield)
        raise "it did not come about" if Process.clock_gettime(Process::CLOCK_MONOTONIC) > limit

        sleep 0.05
      end
      found
    end

    # Reads until something was told.
    def heard(socket, words)
      text = (+"").b
      Timeout.timeout(20) { text << socket.readpartial(4096) until text.include?(words) }
      text.force_encoding(Encoding::UTF_8)
    end

    it "tells five hundred listeners what happens, from where each left off, and still answers" do
      live = serve(workers: false)
      sockets = Array.new(500) { live.listener }
      sockets.each { |socket| expect(heard(socket, "retry: 1000")).to start_with("HTTP/1.1 200 OK") }
      before = live.workshop.events.last
      expect(live.ask(:post, "/shots", {name: "Jug"})[0]).to eq(201)
      sockets.each do |socket|
        expect(heard(socket, "event: shots\n")).to match(/id: \d+\nevent: shots\ndata: \{.*"shot":"jug"\}\n\n/)
      end
      live.ask(:post, "/shots/jug/edits", {edits: [set("look", :thickness, 2.0)]})
      expect(heard(live.listener(since: before),
        "event: revision")).to include("event: shots").and include('"label":"Thickness 110 per m → 2 per m"')
      sockets.first(400).each(&:close)
      live.ask(:post, "/shots/jug/edits", {edits: [set("look", :thickness, 3.0)]})
      sockets.last(100).each { |socket| expect(heard(socket, "3 per m")).to include("event: revision") }
      code, seconds = live.stop
      expect([code, seconds < 5.0]).to eq([0, true])
    end

    it "stops a body that is too large, or of unknown length, before it comes" do
      live = serve(workers: false)
      answer = live.raw("POST /api/shots HTTP/1.1\r\nHost: localhost\r\nContent-Length: 99999999\r\n\r\n")
      expect(answer).to start_with("HTTP/1.1 413").and include("16 MB is the most here")
      answer = live.raw("POST /api/meshes?name=a.obj HTTP/1.1\r\nHost: localhost\r\nExpect: " \
"100-continue\r\nContent-Length: " \
"999999999\r\n\r\n")
      expect(answer).to start_with("HTTP/1.1 413").and include("100 MB is the most here")
      answer = live.raw("POST /api/shots HTTP/1.1\r\nHost: localhost\r\nTransfer-Encoding: chunked\r\n\r\n")
      expect(answer).to start_with("HTTP/1.1 411").and include("Say how long the body is")
      expect(live.raw("GET /api/shots HTTP/1.1\r\nHost: evil.example\r\nX-Forwarded-Host: localhost\r\nConnection: " \
"close\r\n\r\n")).to start_with("HTTP/1.1 403")
      expect(live.ask(:get, "/shots?quality[]=draft")).to match(
        [422, include(code: "bad_value", error: "quality is given once, as plain text.")]
      )
    end

    it "stops in the middle of a run with exit code 0, and goes on with it by itself after the next start" do
      live = serve
      id = shelve(live.workshop, small_shot(edits: [set("general", :last, 200), set("chamber", :voxel, 0.03)]))
      live.ask(:post, "/shots/#{id}/runs", {quality: "draft"})
      eventually { live.ask(:get, "/shots/#{id}")[1][:jobs].any? { |job| job[:done] > 2 } }
      code, = live.stop
      expect(code).to eq(0)
      expect(live.said).not_to match(/Error|Exception/)
      done = live.workshop.db[:frames].count
      expect(Studio::Workshop.new(@dir).frames.reconcile).to eq(found: 0, gone: 0)
      live = serve
      job =
        eventually { live.ask(:get, "/shots/#{id}")[1][:jobs].find { |row| row[:kind] == "run" && row[:done] > done } }
      expect(job).to include(resumed: true)
      live.stop
    end

    it "takes a run up again that a kill cut off, and loses no frame" do
      live = serve
      id = shelve(live.workshop, small_shot(edits: [set("general", :last, 40)]))
      live.ask(:post, "/shots/#{id}/runs", {quality: "draft"})
      eventually { live.ask(:get, "/shots/#{id}")[1][:jobs].any? { |job| job[:done] > 2 } }
      live.kill
      live = serve
      eventually(40) { live.ask(:get, "/shots/#{id}/frames")[1][:rows].all? { |row| row[:state] == "fresh" } }
      live.stop
    end

    it "says that its port is taken" do
      live = serve(workers: false)
      output, status = Open3.capture2e({"RUBYOPT" => nil}, File.join(ROOT, "bin", "vumbral"), "serve", "--home", @dir,
        "--port", live.port.to_s, "--no-workers")
      expect([output,
        status.exitstatus]).to eq(["Port #{live.port} is taken by another program; choose another with --port.\n", 1])
    end

    it "says on a small disk that it is full, changes nothing, and goes on once there is room" do
      mount = File.join(@dir, "small")
      Dir.mkdir(mount)
      skip "no small disk can be made here" unless system("mount", "-t", "tmpfs", "-o", "size=16m", "tmpfs", mount,
        err: File::NULL)
      begin
        home = File.join(mount, "home")
        Dir.mkdir(home)
        @live = live = Live.new(home)
        id = live.ask(:post, "/shots", {name: "Full"})[1][:id]
        listener = live.listener
        ballast = File.join(mount, "ballast")
        begin
          File.open(ballast, "wb") { |file| loop { file.syswrite("x" * 4096) } }
        rescue Errno::ENOSPC
          nil
        end
        status, answer = live.ask(:post, "/shots/#{id}/runs", {quality: "draft"})
        if status == 202
          job =
            eventually do
              live.ask(:get, "/jobs/#{answer[:job]}")[1].then do |row|
                row if row[:error] || row[:note].to_s.include?("full")
              end
            end
          expect(job[:error] || job[:note]).to match(/disk .*is full/)
        else
          expect([status, answer[:code]]).to eq([507, "disk_full"])
        end
        expect(heard(listener, "event: trouble")).to include("is full; free some space")
        File.delete(ballast)
        eventually { live.ask(:post, "/shots/#{id}/edits", {edits: [set("look", :thickness, 2.0)]})[0] == 200 }
        expect(heard(listener, '"text":null')).to include("event: trouble")
      ensure
        live&.kill
        system("umount", "-l", mount)
      end
    end
  end
end
