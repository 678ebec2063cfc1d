# frozen_string_literal: true

require "rack/test"

module Vumbral
  # Runs, kept runs, live drafts and the history over HTTP.
  RSpec.describe Server::Routes::Past do
    include Rack::Test::Methods

    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    before { header "Host", "localhost" }

    let(:id) { shelve(@workshop) }

    def app = @app ||= Server::Gate.new(Server::App.new(@workshop, Server::Broadcast.new(@workshop)))

    def answer = JSON.parse(last_response.body, symbolize_names: true)

    def send_json(path, data = {}) = post(path, JSON.generate(data))

    def smoke = @workshop.shots.document(id).node("source-1")[:smoke]

    def two_runs
      run_now(@workshop, id)
      @workshop.shots.edit(id, [set("source-1", :smoke, 9.0)])
      run_now(@workshop, id)
    end

    it "lists runs, shows one's picture, frames and differences, and brings it back" do
      two_runs
      get "/api/shots/#{id}/runs"
      expect(answer[:runs].map { |run| run.slice(:number, :there, :picture) }).to eq(
        [{number: 2, there: 8, picture: true}, {number: 1, there: 8, picture: true}]
      )
      get "/api/shots/#{id}/runs/1.png"
      expect([last_response.status, last_response.content_type]).to eq([200, "image/png"])
      get "/api/shots/#{id}/runs/1/frames"
      expect(answer[:rows].map { |row| row[:state] }.uniq).to eq(["fresh"])
      get "/api/shots/#{id}/runs/1/differences?other=2"
      expect(answer[:differences].map { |row| row[:dial] }).to eq(["smoke"])
      before = smoke
      send_json("/api/shots/#{id}/runs/1/bring_back", rows: [{node: "source-1", dial: "smoke"}])
      expect([last_response.status, smoke == before]).to eq([200, false])
      send_json("/api/shots/#{id}/runs/1/light", frame: 3)
      expect(last_response.status).to eq(202)
      delete "/api/shots/#{id}/runs/2"
      expect(answer[:given]).to be_positive
      get "/api/shots/#{id}/runs/2/differences"
      expect([last_response.status, answer[:code]]).to eq([404, "unknown_run"])
    end

    it "keeps runs and variations, names them, hands them on and lets them go" do
      two_runs
      send_json("/api/shots/#{id}/runs/1/keep", name: "Thin")
      expect([last_response.status, answer[:name]]).to eq([201, "Thin"])
      digest = answer[:digest]
      send_json("/api/caches/#{digest}", note: "good")
      expect(answer).to include(name: "Thin", note: "good")
      send_json("/api/caches/exports", caches: [digest], as: "vdb")
      expect([last_response.status, answer[:jobs].size]).to eq([202, 1])
      delete "/api/shots/#{id}/runs/1"
      expect([last_response.status, answer[:code]]).to eq([409, "kept"])
      get "/api/caches?shot=#{id}"
      expect(answer[:caches].map { |cache| cache[:digest] }).to eq([digest])
      delete "/api/caches/#{digest}"
      expect(get("/api/caches") && answer[:caches]).to eq([])
      send_json("/api/shots/#{id}/strips/1/keep", cells: [0])
      expect(answer[:code]).to eq("unknown_strip")
    end

    it "tells the history and goes to a point, tells all that is set, and what made an export" do
      two_runs
      get "/api/shots/#{id}/history"
      expect(answer[:points].map { |point| point[:runs] }).to eq([[2], [1]])
      get "/api/shots/#{id}/history/1/differences"
      expect(answer[:differences].map { |row| row[:dial] }).to eq(["smoke"])
      send_json("/api/shots/#{id}/history/1/go")
      expect([last_response.status, answer[:head], answer[:label]]).to eq([200, 1, "Gone to: New shot"])
      send_json("/api/shots/#{id}/history/77/go")
      expect([last_response.status, answer[:code]]).to eq([404, "unknown_point"])
      get "/api/shots/#{id}/set"
      expect(answer[:differences].map { |row| row[:dial] }).to include("voxel")
      get "/api/shots/#{id}/exports/none/differences"
      expect([last_response.status, answer[:code]]).to eq([404, "unknown_export"])
    end

    it "runs live drafts, and says nothing where nothing is run" do
      send_json("/api/shots/#{id}/live", edits: [set("source-1", :smoke, 8.0)])
      expect([last_response.status, answer[:first]]).to eq([202, 1])
      send_json("/api/shots/#{id}/live", edits: [set("look", :thickness, 8.0)])
      expect(last_response.status).to eq(204)
      delete "/api/shots/#{id}/live"
      expect(@workshop.jobs.active(id)).to eq([])
    end

    it "says what is no movie, no picture and no name" do
      skip "ffmpeg is not here" unless Studio::Movie.there?
      send_json("/api/clips", files: [], rate: 24)
      expect(answer[:error]).to include("1 to 2000 pictures")
      get "/api/clips/nothing.mp4"
      expect([last_response.status, answer[:code]]).to eq([400, "bad_path"])
      get "/api/clips/#{"0" * 16}.mp4"
      expect([last_response.status, answer[:error]]).to eq([404, "This movie is not here any more; make it again."])
    end
  end
end
