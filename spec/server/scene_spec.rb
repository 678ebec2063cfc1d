# frozen_string_literal: true

require "rack/test"

module Vumbral
  RSpec.describe Server::App do
    include Rack::Test::Methods

    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    def app = @app ||= Server::Gate.new(described_class.new(@workshop, Server::Broadcast.new(@workshop)))

    before { header "Host", "localhost" }

    def answer = JSON.parse(last_response.body, symbolize_names: true)

    # A worker beside, as the launcher would have it.
    def with_worker
      worker = nil
      thread = Thread.new { (worker = Studio::Worker.new(Studio::Workshop.new(@workshop.home.path))).run }
      yield
    ensure
      worker&.stop
      thread&.join(10)
    end

    def add(kind, id, dials) = {"do" => "add", "kind" => kind, "id" => id, "name" => id.capitalize, "dials" => dials}

    it "tells where bodies stand: at once when nothing breaks, from a worker when something does" do
      id = shelve(@workshop)
      get "/api/shots/#{id}/bodies"
      expect(answer[:bodies].map { |body| [body[:prop], body.key?(:poses)] }).to eq(
        [["prop-1", false], ["ground", false]]
      )
      @workshop.shots.edit(
        id, [add("prop", "lid", {"shape" => "box", "breaks" => true, "break_frame" => 3, "pieces" => 4})]
      )
      with_worker { get "/api/shots/#{id}/bodies" }
      pieces = answer[:bodies].select { |body| body[:prop] == "lid" }
      expect(pieces.size).to eq(5)
      get "/api/shapes?shape=mesh&mesh=#{pieces.last[:outline][:mesh]}"
      expect(last_response.body.bytesize % (3 * 6 * 4)).to eq(0)
      expect(last_response.body.bytesize).to be > 500
    end

    it "says what cannot be cut" do
      id = shelve(@workshop,
        small_shot(edits: [add("prop", "sheet", {"shape" => "plane", "breaks" => true, "break_frame" => 3})]))
      with_worker { get "/api/shots/#{id}/bodies" }
      expect([last_response.status, answer[:code],
        answer[:error]]).to match([422, "not_closed", /must be closed, and this one has 4 open edges/])
      @workshop.shots.edit(id, [set("sheet", :collider, true)])
      expect(work(@workshop,
        @workshop.runs.start(id, "draft")[:job_id])).to include(state: "failed", code: "not_closed")
      expect(@workshop.runs.state(id, "draft")[:rows].count { |frame| frame[:state] == "fresh" }).to eq(2)
    end

    it "gives the sparks of a frame" do
      id = shelve(@workshop, small_shot(edits: [add("emitter", "sparks", {"glow" => 2.0, "rate" => 200.0})]))
      get "/api/shots/#{id}/sparks/5"
      numbers = last_response.body.unpack("e*")
      expect(numbers.size % 10).to eq(0)
      expect(numbers.size / 10).to be_between(20, 60)
      get "/api/shots/#{id}/sparks/9999"
      expect(last_response).to be_ok
      get "/api/shots/#{shelve(@workshop)}/sparks/5"
      expect(last_response.body).to eq("")
    end

    it "takes pictures for sources, and refuses what is none" do
      png = Vips::Image.black(3, 3).write_to_buffer(".png")
      with_worker do
        post "/api/pictures?name=mask.png", png
        expect([last_response.status, answer[:facts]]).to eq([201, {width: 3, height: 3}])
        get "/api/pictures"
        expect(answer[:pictures].size).to eq(1)
        get "/api/meshes"
        expect(answer[:meshes]).to eq([])
        ["GIF89a nothing", "<svg/>", "\x89PNG\r\n but not for long", ""].each do |bytes|
          post "/api/pictures?name=mask.png", bytes
          expect([last_response.status, answer[:code]]).to eq([422, "bad_picture"])
        end
        stub_const("Vumbral::Studio::Pixels::MOST_PIXELS", 8)
        post "/api/pictures?name=mask.png", png
        expect([answer[:code], answer[:error]]).to match(["picture_too_large", /3 × 3 pixels/])
      end
      post "/api/pictures?name=mask.png", "", "CONTENT_LENGTH" => (200 * 1024 * 1024).to_s
      expect([last_response.status, answer[:code]]).to eq([413, "file_too_large"])
      post "/api/pictures", png
      expect(answer[:code]).to eq("bad_value")
      expect(Dir[File.join(@workshop.home.path, "incoming", "*")]).to eq([])
    end

    it "forecasts with the frames" do
      get "/api/shots/#{shelve(@workshop)}/frames"
      expect(answer[:forecast].keys).to eq(%i[draft full])
      expect(answer[:forecast][:full]).to include(cells: 3920, measured: false)
    end

    it "times sources in a row, forces and places that move" do
      id =
        shelve(
          @workshop,
          small_shot(
            edits: [
              set("source-1", :copies, 2),
              set("source-1", :step_frames, 4.0),
              set("source-1", :last, 2),
              add("force", "wind", {"first" => 3}),
              {"do" => "key", "node" => "prop-1", "dial" => "position", "frame" => 1, "value" => [0, 0, 0]},
              {
                "do" => "key", "node" => "prop-1", "dial" => "position", "frame" => 5, "value" => [0, 2, 0],
                "ease" => "linear"
              }
            ]
          )
        )
      get "/api/shots/#{id}"
      rows = answer[:timeline].to_h { |row| [[row[:node], row[:dial]], row] }
      expect(rows[%w[source-1 strength]][:values].map(&:positive?)).to eq(
        [true, true, false, false, true, true, false, false]
      )
      expect(rows[%w[wind strength]][:values].first(3)).to eq([0.0, 0.0, 2.0])
      place = rows[%w[prop-1 position]]
      expect([place[:values].last, place[:raw].last]).to eq([2.0, [0.0, 2.0, 0.0]])
    end
  end
end
