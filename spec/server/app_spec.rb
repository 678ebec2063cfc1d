# frozen_string_literal: true

require "rack/test"

module Vumbral
  RSpec.describe Server::App do
    include Rack::Test::Methods

    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    def app = @app ||= Server::Gate.new(described_class.new(@workshop, Server::Broadcast.new(@workshop)))

    before { header "Host", "localhost" }

    def send_json(path, data = {}) = post(path, JSON.generate(data), "CONTENT_TYPE" => "application/json")

    def answer = JSON.parse(last_response.body, symbolize_names: true)

    # What was answered: status, code and sentence.
    def refused = [last_response.status, answer[:code], answer[:error]]

    def done(job) = work(@workshop, job)

    let(:id) { shelve(@workshop) }

    it "publishes every kind with its dials, as the core declares them" do
      get "/api/kinds"
      expect(last_response).to be_ok
      expect(answer[:kinds].map { |kind| kind[:name] }).to eq(Shot::Kinds.all.keys.map(&:to_s))
      chamber = answer[:kinds].find { |kind| kind[:name] == "chamber" }
      voxel = chamber[:dials].find { |dial| dial[:name] == "voxel" }
      expect(voxel).to include(label: "Voxel size", unit: "m", default: 0.04, range: [0.0005, 100.0], keyed: false)
      expect(answer[:exports].keys).to eq(
        %i[png png16 exr jpg tif dpx vdb obj ply glb usda points drops vdb-surface zip mp4 hevc webm webm-alpha ffv1]
      )
    end

    it "makes, lists, opens, edits, undoes, duplicates, saves and throws away shots" do
      send_json "/api/shots", name: "Jug steam"
      expect(last_response.status).to eq(201)
      expect(answer[:id]).to eq("jug-steam")
      send_json "/api/shots/jug-steam/edits", edits: [set("source-1", :smoke, 1.5)]
      expect(answer).to include(head: 2, steps: {undo: "Smoke 4 per s → 1.5 per s", redo: nil})
      send_json "/api/shots/jug-steam/undo"
      expect(answer).to include(head: 1, label: "Undone: Smoke 4 per s → 1.5 per s")
      send_json "/api/shots/jug-steam/redo"
      expect(answer[:head]).to eq(2)
      send_json "/api/shots/jug-steam/duplicate"
      expect(answer[:name]).to eq("Jug steam copy")
      get "/api/shots"
      expect(answer[:shots].map { |shot| shot[:id] }).to contain_exactly("jug-steam", "jug-steam-copy")
      get "/api/shots/jug-steam/file"
      saved = last_response.body
      expect(last_response.headers["content-disposition"]).to include("jug-steam.shot.json")
      delete "/api/shots/jug-steam"
      get "/api/shots"
      expect([answer[:shots], answer[:away]].map { |list| list.map { |shot| shot[:id] } }).to eq(
        [["jug-steam-copy"], ["jug-steam"]]
      )
      send_json "/api/shots/jug-steam/put_back"
      send_json "/api/shots/jug-steam/let_go"
      expect(refused).to match([409, "on_the_shelf", /stands on the shelf/])
      delete "/api/shots/jug-steam"
      send_json "/api/shots/jug-steam/let_go"
      get "/api/shots/jug-steam"
      expect(refused).to match([404, "unknown_shot", /no shot "jug-steam"; there are: jug-steam-copy/])
      post "/api/shots/import", saved
      expect([last_response.status, answer[:id]]).to eq([201, "jug-steam-2"])
    end

    it "runs, says how far it is, and gives frames for the view" do
      send_json "/api/shots/#{id}/runs", quality: "draft"
      expect(last_response.status).to eq(202)
      job = answer[:job]
      get "/api/jobs/#{job}"
      expect(answer).to include(state: "queued", kind: "run")
      done(job)
      get "/api/shots/#{id}/frames?quality=draft"
      expect(answer[:rows].map { |row| [row[:state], row[:lit]] }.uniq).to eq([["fresh", true]])
      row = answer[:rows].last
      get "/api/volumes/#{row[:key]}/#{row[:light]}"
      expect(last_response.headers).to include("content-encoding" => "gzip", "cache-control" => /immutable/)
      bytes = Zlib.gunzip(last_response.body)
      head = JSON.parse(bytes[4, bytes.unpack1("L<")])
      expect(head["size"]).to eq(row[:facts][:size])
      get "/api/shots/#{id}/channels/#{row[:key]}/speed"
      expect(JSON.parse(last_response.body[4, last_response.body.unpack1("L<")])).to include("unit" => "m/s")
      get "/api/shots/#{id}/channels/#{row[:key]}/taste"
      expect(refused).to match([422, "bad_value", /no quantity "taste"; there are: fuel, speed/])
      get "/api/shots/#{id}/histograms/#{row[:key]}/smoke"
      expect(answer).to match(low: 0.0, high: be_positive, unit: "", counts: have_attributes(size: 96))
      send_json "/api/shots/#{id}/sheets", frames: [2]
      expect(last_response.status).to eq(202)
      name = JSON.parse(done(answer[:job])[:result])["sheet"]
      get "/api/shots/#{id}/sheets/#{name}.png"
      expect([last_response.status, last_response.body[1, 3]]).to eq([200, "PNG"])
      send_json "/api/shots/#{id}/meter", frame: 99
      expect(refused).to match([404, "no_frame", /from 1 to 8/])
      get "/api/shots/#{id}/histograms/#{row[:key]}/taste"
      expect(refused).to match([422, "bad_value", /no histogram of "taste"/])
    end

    it "follows a change with a run, lights frames anew, and cancels" do
      run_now(@workshop, id)
      send_json "/api/shots/#{id}/edits", edits: [set("source-1", :smoke, 1.5)], follow: true
      expect(answer[:jobs].map { |job| job[:kind] }).to eq(["run"])
      send_json "/api/jobs/#{answer[:jobs][0][:id]}/cancel"
      expect(answer[:state]).to eq("cancelled")
      send_json "/api/shots/#{id}/undo"
      send_json "/api/shots/#{id}/edits", edits: [set("sun-1", :strength, 0.5)], follow: true
      expect(answer[:jobs]).to eq([])
      get "/api/shots/#{id}/frames"
      expect(answer[:rows].map { |row| [row[:state], row[:lit]] }.uniq).to eq([["fresh", false]])
      send_json "/api/shots/#{id}/light", quality: "draft", frame: 4
      done(answer[:job])
      get "/api/shots/#{id}/frames"
      expect(answer[:rows].map { |row| row[:lit] }.uniq).to eq([true])
    end

    it "takes prints, compares them, brings their settings back" do
      run_now(@workshop, id)
      send_json "/api/shots/#{id}/prints", frame: 7
      done(answer[:job])
      send_json "/api/shots/#{id}/edits", edits: [set("look", :thickness, 1.0)]
      send_json "/api/shots/#{id}/prints", frame: 7, size: [64, 36]
      done(answer[:job])
      get "/api/shots/#{id}/prints"
      expect(answer[:prints].map { |print| [print[:number], print[:changed]] }).to eq([[2,
        "Thickness 60 per m → 1 per m"], [1, "First print"]])
      get "/api/shots/#{id}/prints/1.png"
      expect([last_response.headers["content-type"], last_response.body[1, 3]]).to eq(["image/png", "PNG"])
      get "/api/shots/#{id}/prints/2/differences?other=1"
      expect(answer[:differences].size).to eq(1)
      send_json "/api/shots/#{id}/prints/1/bring_back"
      expect(answer[:steps][:undo]).to eq("Settings of print 1 brought back")
      delete "/api/shots/#{id}/prints/1"
      get "/api/shots/#{id}/prints"
      expect(answer[:prints].map { |print| print[:number] }).to eq([2])
      send_json "/api/shots/#{id}/prints/1/put_back"
      get "/api/shots/#{id}/prints"
      expect(answer[:prints].map { |print| print[:number] }).to eq([2, 1])
    end

    it "exports to the data folder and hands the files out" do
      run_now(@workshop, id)
      send_json "/api/shots/#{id}/exports", as: "vdb", frames: [7, 8]
      done(answer[:job])
      get "/api/shots/#{id}/exports"
      name, files = answer[:exports][0].values_at(:name, :files)
      get "/api/shots/#{id}/exports/#{name}/#{files[0]}"
      expect(last_response.body.unpack1("q<")).to eq(Formats::VDB::MAGIC)
      [
        "/api/shots/#{id}/exports/..%2F..%2F/vumbral.sqlite3",
        "/api/shots/#{id}/exports/#{name}/..%2F..%2F..%2Fvumbral.sqlite3", "/api/shots/#{id}/exports/%2e%2e/%2e%2e"
      ].each do |path|
        get path
        expect(last_response.status).to be_between(400, 404)
        expect(last_response.body).not_to include("SQLite")
      end
    end

    it "draws the shapes of props for the view" do
      get "/api/shapes?shape=box&size=1,2,3"
      expect(last_response.body.bytesize).to eq(12 * 3 * 9 * 4)
      get "/api/shapes?shape=ufo"
      expect(refused).to match([422, "bad_value", /Shape of the prop cannot be "ufo"/])
      get "/api/shapes?shape=mesh"
      expect([last_response.status, last_response.body]).to eq([200, ""])
    end

    describe "a mesh that is brought" do
      def bring(bytes, name)
        helper =
          Thread.new do
            Studio::Worker.new(Studio::Workshop.new(@workshop.home.path)).tap { |worker| @helper = worker }.run
          end
        post "/api/meshes?name=#{name}", bytes, "CONTENT_TYPE" => "application/octet-stream"
        @helper&.stop
        helper.join(10)
      end

      it "is read by a worker and described" do
        bring(Formats::STL.write(Demo::Models.bowl), "bowl.stl")
        expect(last_response.status).to eq(201)
        expect(answer).to include(name: "bowl.stl", facts: include(open_edges: 0))
        send_json "/api/shots", name: "Bowl", mesh: answer[:digest]
        get "/api/shots/bowl/bodies"
        expect(answer[:bodies].map { |body| body[:outline][:shape] }).to eq(%w[mesh plane])
        get "/api/meshes"
        expect(answer[:meshes].size).to eq(1)
      end

      it "is refused with the line that is wrong" do
        bring("v 0 0 0\nf 1 2 3\n", "broken.obj")
        expect(refused).to eq([422, "bad_mesh",
          "Line 2 of broken.obj has a face that uses point 2, but there are 1 points so far."])
        expect(Dir[File.join(@workshop.home.path, "incoming", "*")]).to eq([])
      end

      it "is refused for its size before it is read" do
        post "/api/meshes?name=huge.obj", "", "CONTENT_TYPE" => "application/octet-stream",
          "CONTENT_LENGTH" => (200 * 1024 * 1024).to_s
        expect(refused).to eq([413, "file_too_large",
          "huge.obj has 200 MB; bring files of at most 100 MB, thinned if need be."])
      end

      it "needs a name" do
        post "/api/meshes", "v"
        expect(refused).to match([422, "bad_value", /\?name=/])
      end
    end

    describe "bad input" do
      let(:before) { @workshop.shots.document(id).to_json }

      after { expect(@workshop.shots.document(id).to_json).to eq(before) }

      {
        %w[/edits {] => [400, "not_json", /The body is not JSON/],
        ["/edits", "[1]"] => [400, "bad_body", /must be a JSON object/],
        ["/edits", "\xFF\xFE"] => [400, "not_json", /not UTF-8 text/],
        %w[/edits {}] => [422, "bad_edit", /list of objects/],
        ["/edits", '{"edits":[{"do":"set","node":"chamber","dial":"voxel","value":-1}]}'] => [
          422, "out_of_range", "Voxel size of Chamber cannot be -1; it goes from 0.0005 to 100 m."
        ],
        ["/edits", '{"edits":[{"do":"set","node":"chamber","dial":"voxel","value":NaN}]}'] => [
          400, "not_json", /not JSON/
        ],
        ["/edits", '{"edits":[{"do":"set","node":"chamber","dial":"voxel","value":"NaN"}]}'] => [
          422, "out_of_range", /cannot be NaN/
        ],
        ["/edits", '{"edits":[{"do":"set","node":"chamber","dial":"voxel","value":1e999}]}'] => [
          422, "out_of_range", /cannot be Infinity/
        ],
        ["/edits", '{"edits":[{"do":"set","node":"chamber","dial":"glow","value":1}]}'] => [
          422, "unknown_dial", /Chamber has no dial "glow"; it has: leader, position, size, voxel/
        ],
        ["/edits", '{"edits":[{"do":"set","node":"moon","dial":"x","value":1}]}'] => [404, "unknown_node", /no "moon"/],
        ["/edits", '{"edits":[{"do":"set","node":"chamber","dial":"size","value":[9000,9000,9000]}]}'] => [
          422, "too_large", /need .* GB, but there are/
        ],
        %w[/runs {"quality":"best"}] => [422, "bad_value", /draft or full/],
        ["/runs", '{"frames":[1]}'] => [422, "bad_value", /\[first, last\]/],
        %w[/prints {}] => [422, "bad_value", /The frame must be a whole number/],
        %w[/prints {"frame":3}] => [409, "not_run", /Frame 3 has not been run/],
        %w[/exports {"as":"gif"}] => [422, "bad_value", /png, .*vdb, obj, ply, glb, usda, points, drops, .* or ffv1/],
        ["/redo", ""] => [409, "nothing_to_do", /nothing to do again|There is nothing to redo/]
      }.each do |(path, body), expected|
        it "gets one clear sentence: #{path} #{body.inspect[0, 70]}" do
          before
          post "/api/shots/#{id}#{path}", body, "CONTENT_TYPE" => "application/json"
          expect(refused).to match(expected)
        end
      end

      it "from a newer Vumbral is not taken" do
        before
        post "/api/shots/import", '{"format":"vumbral-shot","version":7,"name":"x","nodes":[]}'
        expect(refused).to match([422, "newer_version", /update Vumbral to open it/])
        post "/api/shots/import", "x" * 20, "CONTENT_LENGTH" => (20 * 1024 * 1024).to_s
        expect(refused).to match([413, "file_too_large", "The shot file has 20 MB; 16 MB is the most."])
      end

      it "leads nowhere" do
        before
        get "/api/nothing"
        expect(refused).to eq([404, "unknown_path", "There is nothing at /api/nothing."])
        post "/api/nothing"
        expect(refused[0, 2]).to eq([404, "unknown_path"])
        get "/api/volumes/..%2f..%2fetc/passwd"
        expect(last_response.body).not_to include("root:")
        get "/api/volumes/#{"a" * 32}/#{"b" * 16}"
        expect(refused).to match([404, "no_frame", /run the shot again/])
        get "/api/jobs/x"
        expect(refused).to match([422, "bad_value", /The job must be a whole number/])
      end
    end

    it "says that the disk is full, and changes nothing" do
      id
      allow(@workshop.db).to receive(:transaction).and_raise(Sequel::DatabaseError,
        "SQLite3::FullException: database or disk is full")
      send_json "/api/shots/#{id}/edits", edits: [set("look", :thickness, 2.0)]
      expect(refused).to match([507, "disk_full", /disk is full; nothing was changed/])
    end

    it "keeps what went wrong inside to itself, and says that nothing is lost" do
      allow(@workshop.shots).to receive(:list).and_raise("secret detail")
      expect { get "/api/shots" }.to output(/secret detail/).to_stderr
      expect(refused).to eq([500, "internal", "Something went wrong inside Vumbral (RuntimeError); nothing is lost."])
    end
  end
end
