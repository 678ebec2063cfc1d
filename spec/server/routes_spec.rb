# frozen_string_literal: true

require "rack/test"

module Vumbral
  # Every route, and what it refuses.
  RSpec.describe Server::Routes do
    include Rack::Test::Methods

    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    before { header "Host", "localhost" }

    let(:id) { shelve(@workshop) }

    def app = @app ||= Server::Gate.new(Server::App.new(@workshop, Server::Broadcast.new(@workshop)))

    def answer = JSON.parse(last_response.body, symbolize_names: true)

    def send_json(path, data = {}, window: nil)
      header "X-Vumbral-Window", window
      post(path, data.is_a?(String) ? data : JSON.generate(data))
      answer
    end

    def status = last_response.status

    # [method, path, body] of each route of a shot.
    OF_A_SHOT = [ # rubocop:disable Lint/ConstantDefinitionInBlock
      %w[get /api/shots/ID], %w[get /api/shots/ID/file], %w[delete /api/shots/ID], %w[get /api/shots/ID/preflight],
      %w[get /api/shots/ID/frames], %w[get /api/shots/ID/scenes/3],
      %w[get /api/shots/ID/bodies], %w[get /api/shots/ID/sparks/3], %w[get /api/shots/ID/prints],
      %w[get /api/shots/ID/prints/1.png],
      %w[get /api/shots/ID/prints/1/differences], %w[delete /api/shots/ID/prints/1], %w[get /api/shots/ID/exports],
      %w[get /api/shots/ID/exports/a/b],
      ["post", "/api/shots/ID/edits", "{\"edits\": []}"], ["post", "/api/shots/ID/undo", "{}"],
      ["post", "/api/shots/ID/redo", "{}"],
      ["post", "/api/shots/ID/duplicate", ""], ["post", "/api/shots/ID/runs", "{}"],
      ["post", "/api/shots/ID/light", "{}"],
      ["post", "/api/shots/ID/prints", "{\"frame\": 1}"], ["post", "/api/shots/ID/prints/1/bring_back", "{}"],
      ["post", "/api/shots/ID/prints/1/put_back", "{}"], ["post", "/api/shots/ID/put_back", "{}"],
      ["post", "/api/shots/ID/let_go", "{}"], ["post", "/api/shots/ID/reels", "{}"], %w[get /api/shots/ID/holdings],
      %w[get /api/shots/ID/reels/0123456789abcdef.webp], ["post", "/api/shots/ID/exports", "{\"as\": \"png\"}"],
      ["post", "/api/shots/ID/align", "{\"nodes\": [\"a\"], \"frame\": 1}"], %w[get /api/shots/ID/lamps/a/outlook],
      ["post", "/api/shots/ID/nodes/prop-1/bake", "{}"], ["post", "/api/shots/ID/fit", "{}"],
      ["post", "/api/shots/ID/nodes/prop-1/preset", "{\"preset\": \"a\"}"],
      ["post", "/api/shots/ID/spots", "{\"layer\": \"a\", \"frame\": 1, \"count\": 4}"],
      ["post", "/api/shots/ID/sighting", "{\"from\": 1, \"how\": \"tripod\"}"],
      ["post", "/api/shots/ID/behind", "{\"frame\": 1, \"size\": [32, 18]}"],
      ["post", "/api/shots/ID/finished/pixel", "{\"frame\": 1, \"size\": [32, 18], \"x\": 0, \"y\": 0}"],
      %w[get /api/shots/ID/tables/a], ["post", "/api/shots/ID/grain/a", "{\"frame\": 1}"]
    ].freeze

    it "tells what a shot may begin with, each with what it takes here and how large a mesh becomes for it" do
      get "/api/starters"
      rows = answer[:starters].to_h { |row| [row[:name], row] }
      expect(rows.keys.map(&:to_s)).to eq(Studio::Starters::ALL.keys)
      expect(rows["plume"]).to include(fit: 0.9, costs: include(:draft, :full))
      expect(rows["fire"][:fit]).to eq(Studio::Starters::FITS["fire"])
      expect(rows["empty"][:costs]).to be_nil
    end

    OF_A_SHOT.each do |method, path, body|
      it "#{method} #{path} says which shots there are" do
        id
        public_send(method, path.sub("ID", "nowhere"), *body)
        expect([status, answer[:code],
          answer[:error]]).to match([404, /unknown_(shot|print)/, /no (shot "nowhere"|print 1)/])
      end
    end

    it "tells all work and what takes room, and does to both what it is told" do
      job = @workshop.jobs.add("export", id, {})
      send_json("/api/jobs/#{job}/hold")
      expect(answer).to include(id: job, held: true)
      get "/api/queue"
      expect(answer[:jobs][0]).to include(id: job, held: true, name: @workshop.shots.fetch(id)[:name], attempts: 0)
      send_json("/api/jobs/#{job}/go-on")
      send_json("/api/jobs/#{job}/first")
      expect(answer).to include(held: false, state: "queued")
      send_json("/api/jobs/#{job}/again")
      expect([status, answer[:error]]).to match([409, /nothing to do again/])
      send_json("/api/jobs/x/first")
      expect(status).to be_between(400, 422)
      get "/api/room"
      expect(answer).to include(limit: nil, stale: {frames: 0, bytes: 0})
      send_json("/api/room", {limit: 1})
      expect([status, answer[:error]]).to match([422, /at least 256 MB/])
      send_json("/api/room", {limit: 1 << 30})
      expect(answer).to include(limit: 1 << 30, given: 0)
      delete "/api/room/prints"
      expect(answer[:error]).to match(/cannot be made again/)
      delete "/api/room/views"
      expect(answer).to include(given: 0)
    end

    it "answers every address with a body of another shape in a sentence" do
      ["[]", "7", "null", "\"x\"", "{", "\xFE"].each do |body|
        %w[/edits /runs /light /prints /exports /undo /redo].each do |path|
          post "/api/shots/#{id}#{path}", body
          expect([status, answer[:code]]).to match([400, /bad_body|not_json/])
        end
      end
    end

    it "answers numbers that are none in a sentence" do
      {
        "/runs" => [
          {frames: ["a", 2]}, {frames: [1]}, {frames: {}}, {frames: [1, 2, 3]}, {quality: 7}, {quality: []}
        ],
        "/prints" => [
          {}, {frame: "x"}, {frame: 1.5}, {frame: []}, {frame: 1, size: "big"}, {frame: 1, size: [1]},
          {frame: 1, size: %w[a b]}
        ],
        "/light" => [{frame: "x"}, {frame: {}}],
        "/edits" => [
          {edits: [set("look", :thickness, 1)], head: "x"}, {edits: [set("look", :thickness, 1)], head: []}
        ],
        "/exports" => [{}, {as: "gif"}, {as: []}, {as: "png", frames: [3, 1]}, {as: "png", frames: [0, 99]}]
      }.each do |path, bodies|
        bodies.each do |body|
          send_json("/api/shots/#{id}#{path}", body)
          expect([status, answer[:error]]).to match([422, /\A[A-Z].*\.\z/]), "#{path} #{body}: #{status} #{answer}"
        end
      end
      get "/api/shots/#{id}/prints/x.png"
      expect(answer[:error]).to eq("The print must be a whole number, not \"x\".")
      get "/api/shots/#{id}/sparks/x"
      expect(answer[:error]).to eq("The frame must be a whole number, not \"x\".")
    end

    it "tells where a lamp stands and what it sees, and brings things in line" do
      lamp = {
        "do" => "add",
        "kind" => "lamp",
        "id" => "bulb",
        "dials" => {
          "as" => "spot", "cone" => 60.0, "position" => [0.0, 3.0, 0.0], "target" => [1.0, 0.0, 0.0]
        }
      }
      pot = {"do" => "add", "kind" => "prop", "id" => "pot", "dials" => {"position" => [2.0, 1.0, 1.0]}}
      send_json(
        "/api/shots/#{id}/edits",
        {
          edits: [
            lamp, pot, {"do" => "key", "node" => "bulb", "dial" => "target", "frame" => 5, "value" => [2.0, 0.0, 0.0]}
          ]
        }
      )
      get "/api/shots/#{id}/lamps/bulb/outlook?frame=5"
      expect(answer).to match(
        position: [0.0, 3.0, 0.0], target: [2.0, 0.0, 0.0],
        focal: be_within(1e-6).of(18.0 / Math.tan(30.0 * Math::PI / 180))
      )
      get "/api/shots/#{id}/lamps/prop-1/outlook"
      expect([status, answer[:error]]).to match([422, /is no lamp to look from/])
      send_json("/api/shots/#{id}/align", {nodes: %w[prop-1 pot], frame: 1, axis: "z", way: "middle"})
      pot = answer[:document][:nodes].find { |node| node[:id] == "pot" }
      expect(pot[:dials][:position]).to match([2.0, 1.0, be_within(1e-4).of(0.0)])
      send_json("/api/shots/#{id}/align", {nodes: "pot", frame: 1, axis: "z", way: "middle"})
      expect([status, answer[:error]]).to match([422, /a list of 1 to 500 ids/])
    end

    it "tells of a clash with both values, and of another window's step" do
      expect(send_json("/api/shots/#{id}/edits", {edits: [set("look", :thickness, 5.0)], head: 1},
        window: "a")[:head]).to eq(2)
      clash = send_json("/api/shots/#{id}/edits", {edits: [set("look", :thickness, 7.0)], head: 1}, window: "b")
      expect([status,
        clash]).to match([409,
          include(code: "conflict", head: 2,
            conflicts: [include(node: "look", dial: "thickness", theirs: "5 per m", yours: "7 per m")])])
      asked = send_json("/api/shots/#{id}/undo", {}, window: "b")
      expect([status,
        asked]).to match([409, include(code: "others_step", label: "Thickness 60 per m → 5 per m", number: 2)])
      expect(send_json("/api/shots/#{id}/undo", {others: true},
        window: "b")).to include(head: 1, label: "Undone: Thickness 60 per m → 5 per m (made elsewhere)")
      expect(send_json("/api/shots/#{id}/redo", {}, window: "b")).to include(head: 2)
    end

    it "lets those without a name undo as before, and takes no strange names" do
      send_json("/api/shots/#{id}/edits", {edits: [set("look", :thickness, 5.0)]}, window: "a")
      expect(send_json("/api/shots/#{id}/undo")).to include(head: 1)
      send_json("/api/shots/#{id}/edits", {edits: [set("look", :thickness, 6.0)]}, window: "no name; at all")
      expect(
        @workshop.db[:revisions]
          .where(shot_id: id)
          .max(:number)
          .then { |number| @workshop.shots.revision(id, number)[:by] }
      ).to be_nil
    end

    it "gives preflight with remedies that are edits" do
      send_json("/api/shots/#{id}/edits", {edits: [set("source-1", :strength, 0.0)]})
      get "/api/shots/#{id}/preflight"
      remedy = answer[:findings][0][:remedy]
      expect(send_json("/api/shots/#{id}/edits", {edits: remedy[:edits]})[:steps][:undo]).to eq(
        "Feeding 0 times → 1 times"
      )
      get "/api/shots/#{id}/preflight"
      expect(answer).to eq(findings: [])
    end

    it "lists jobs, and shows on the shelf what goes on" do
      job = send_json("/api/shots/#{id}/runs", {quality: "draft"})[:job]
      get "/api/shots"
      expect(answer[:shots][0]).to include(id: id, print: nil,
        jobs: [include(id: job, kind: "run", state: "queued", resumed: false, background: false)])
      expect(answer[:trouble]).to be_nil
      get "/api/jobs"
      expect(answer[:jobs].map { |row| row[:id] }).to eq([job])
      post "/api/jobs/#{job}/cancel", "{}"
      get "/api/shots"
      expect(answer[:shots][0][:jobs]).to eq([])
      get "/api/jobs/99"
      expect([status, answer[:code]]).to eq([404, "unknown_job"])
    end

    it "says at the shot why nothing goes on" do
      allow(@workshop.home).to receive(:reserve).and_return(false)
      get "/api/shots/#{id}"
      expect(answer[:trouble]).to match(/disk .* is full; free some space/)
      send_json("/api/shots/#{id}/runs", {quality: "draft"})
      expect([status, answer[:code],
        answer[:error]]).to match([507, "disk_full", /nothing can be run; free some space/])
    end

    it "takes an edit though the run that should follow cannot start" do
      run_now(@workshop, id)
      allow(@workshop.home).to receive(:reserve).and_return(false)
      expect(send_json("/api/shots/#{id}/edits",
        {edits: [set("source-1", :smoke, 1.0)], follow: true})).to include(head: 2, jobs: [])
    end

    it "tells a file by its bytes, not by what it is called" do
      text = small_shot("Posted").to_json
      ["application/x-www-form-urlencoded", "multipart/form-data; boundary=x", "text/plain", "", nil].each do |type|
        post "/api/shots/import", text, {"CONTENT_TYPE" => type}.compact
        expect([status, answer[:name]]).to eq([201, "Posted"])
      end
      post "/api/shots/#{id}/edits", JSON.generate(edits: [set("look", :thickness, 5.0)]),
        "CONTENT_TYPE" => "application/x-www-form-urlencoded"
      expect(status).to eq(200)
    end

    it "takes no lists or tables in addresses" do
      ["/api/shots/#{id}/frames?quality[]=draft", "/api/shots/#{id}/frames?quality[a]=draft",
        "/api/shapes?shape[]=box", "/api/meshes?name[x]=1"].each do |path|
        get path
        expect([status, answer[:code], answer[:error]]).to match([422, "bad_value", /is given once, as plain text/])
      end
    end

    it "says what a shape or quantity lacks" do
      get "/api/shapes?shape=egg"
      expect(answer[:code]).to eq("bad_value")
      get "/api/shapes?colour=1"
      expect([status, answer[:code]]).to match([422, /bad_value/])
      get "/api/shapes?nothing=1"
      expect(answer[:code]).to eq("unknown_dial")
      get "/api/shapes?shape=mesh&mesh=#{"a" * 24}"
      expect([status, answer[:code]]).to eq([404, "unknown_mesh"])
      get "/api/shots/#{id}/channels/xyz/fuel"
      expect([status, answer[:code]]).to eq([400, "bad_path"])
      get "/api/shots/#{id}/channels/#{"a" * 32}/fuel"
      expect([status, answer[:code]]).to eq([404, "no_frame"])
    end

    it "hands out exported files, and none besides" do
      run_now(@workshop, id)
      work(@workshop, send_json("/api/shots/#{id}/exports", {as: "vdb", frames: [8, 8]})[:job])
      get "/api/shots/#{id}/exports"
      name, files = answer[:exports][0].values_at(:name, :files)
      get "/api/shots/#{id}/exports/#{name}/#{files[0]}"
      expect(last_response.headers["content-disposition"]).to include("little-puff.0008.vdb")
      ["/#{name}/nothing.vdb", "/#{name}/..", "/../#{name}",
        "/#{name}/%2e%2e%2f%2e%2e%2fvumbral.sqlite3"].each do |path|
        get "/api/shots/#{id}/exports#{path}"
        expect(status).to be >= 400
        expect(last_response.body).not_to include("SQLite")
      end
    end

    it "publishes how large files may be" do
      get "/api/kinds"
      expect(answer[:limits]).to eq(file: 100 * 1024 * 1024, shot: 16 * 1024 * 1024)
    end

    it "says with a shot and with the list how far events had come, so that none is missed" do
      id = shelve(@workshop, small_shot)
      get "/api/shots/#{id}"
      from = answer[:event]
      @workshop.shots.edit(id, [set("look", :thickness, 2.0)])
      expect(@workshop.events.since(from).map { |event| event[:kind] }).to include("revision")
      get "/api/shots"
      expect(answer[:event]).to eq(@workshop.events.last)
    end

    it "has no stream where the server cannot give one" do
      get "/api/events"
      expect([status, answer[:code]]).to eq([422, "no_stream"])
      get "/api/events?since=x"
      expect(answer[:code]).to eq("bad_value")
    end
  end

  RSpec.describe Server::Broadcast do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:broadcast) { described_class.new(@workshop) }

    after { broadcast.stop }

    def heard(socket, words)
      text = (+"").b
      Timeout.timeout(10) { text << socket.readpartial(4096) until text.include?(words) }
      text.force_encoding(Encoding::UTF_8)
    end

    it "lets go of who has left, and of who does not read" do
      stub_const("#{described_class}::MOST_WAITING", 50_000)
      stub_const("#{described_class}::CHECK", 0.05)
      (gone, mine), (deaf, other), (ear, third) = Array.new(3) { UNIXSocket.pair }
      [mine, other, third].each { |socket| broadcast.listen(socket, nil) }
      expect(broadcast.count).to eq(3)
      gone.close
      Timeout.timeout(10) { sleep 0.02 until broadcast.count == 2 }
      listening = Thread.new { loop { ear.readpartial(65_536) } }
      listening.report_on_exception = false
      # What is sent in one go stays below the limit, so that only the deaf one falls behind.
      Timeout.timeout(20) do
        until broadcast.count == 1
          @workshop.events.tell("shots", "x" * 20_000)
          sleep 0.06
        end
      end
      listening.kill
      expect(deaf.closed?).to be(false)
    end

    it "tells what was missed first, then what comes" do
      first = @workshop.events.tell("shots", "a")
      @workshop.events.tell("shots", "b")
      near, far = UNIXSocket.pair
      broadcast.listen(far, first)
      @workshop.events.tell("print", "c", number: 3)
      text = heard(near, "event: print")
      expect(text.scan(/"shot":"(\w)"/).flatten).to eq(%w[b c])
      expect(text).to start_with("HTTP/1.1 200 OK\r\n").and include('data: {"number":3,"shot":"c"}')
    end

    it "tells of a full disk without writing it down, and to those who come later too" do
      stub_const("#{described_class}::CHECK", 0.02)
      full = true
      allow(@workshop.home).to receive(:trouble) { full ? "Full." : nil }
      near, far = UNIXSocket.pair
      broadcast.listen(far, nil)
      expect(heard(near, "event: trouble")).to include('"text":"Full."')
      late, end_of_it = UNIXSocket.pair
      broadcast.listen(end_of_it, nil)
      expect(heard(late, "trouble")).to include("Full.")
      full = false
      expect(heard(near, '"text":null')).to include("event: trouble")
      expect(@workshop.events.since(0)).to eq([])
    end
  end
end
