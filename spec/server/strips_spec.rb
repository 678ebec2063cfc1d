# frozen_string_literal: true

require "rack/test"

module Vumbral
  RSpec.describe Server::Routes::Strips do
    include Rack::Test::Methods

    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    def app = @app ||= Server::Gate.new(Server::App.new(@workshop, Server::Broadcast.new(@workshop)))

    before { header "Host", "localhost" }

    def send_json(path, data = {}) =
      post("/api/shots/#{id}#{path}", JSON.generate(data), "CONTENT_TYPE" => "application/json")

    def answer = JSON.parse(last_response.body, symbolize_names: true)

    let(:id) { shelve(@workshop, small_shot(edits: [set("general", :last, 2)])) }
    let(:dials) { [{node: "look", dial: "thickness", values: [4, 40]}] }

    it "foresees, begins, tells, notes, draws and takes away" do
      send_json "/strips/forecast", dials: dials
      expect(answer).to include(runs: 2, frames: 2, new: 2)
      send_json "/strips", dials: dials
      expect(last_response.status).to eq(202)
      work(@workshop, answer[:job])
      get "/api/shots/#{id}/strips"
      expect(answer[:strips]).to match([include(number: 1, there: 2, of: 2, dials: ["Thickness of Look"])])
      get "/api/shots/#{id}/strips/1"
      expect(answer[:axes][0]).to include(
        node: "look", dial: "thickness", values: [4.0, 40.0], shown: ["4 per m", "40 per m"]
      )
      cells = answer[:cells]
      expect(cells.map { |cell| cell[:rows].map { |row| row[:lit] } }).to eq([[true, true]] * 2)
      cells.each do |cell|
        get "/api/volumes/#{cell[:rows][1][:key]}/#{cell[:rows][1][:light]}"
        expect(last_response).to be_ok
      end
      scenes = [0, 1].map { |n| get("/api/shots/#{id}/strips/1/scenes/#{n}") && answer[:scene][:rig][:thickness] }
      expect(scenes).to eq([4.0, 40.0])
      send_json "/strips/1/notes", cell: 1, marked: true
      expect(answer[:marked]).to eq([1])
      send_json "/strips/1/sheets", frame: 2
      expect(JSON.parse(work(@workshop, answer[:job])[:result])["sheet"]).to match(/\A[0-9a-f]{16}\z/)
      delete "/api/shots/#{id}/strips/1"
      get "/api/shots/#{id}/strips/1"
      expect([last_response.status, answer[:code]]).to eq([404, "unknown_strip"])
    end

    {
      [{dials: nil}] => /one to 3 dials/,
      [{dials: [{node: "look", dial: "thickness", values: ["x"]}]}] => /Thickness/,
      [{dials: [{node: "look", dial: "thickness", values: [1]}], quality: "huge"}] => /draft or full/,
      [{dials: [{node: "look", dial: "thickness", from: 0, to: 1, count: 4000}]}] => /from where to where/,
      [{dials: [7]}] => /one to 3 dials/
    }.each do |(asked), sentence|
      it "refuses #{asked.to_json} in a sentence" do
        send_json "/strips", asked
        expect([last_response.status, answer[:error]]).to match([be_between(400, 422), sentence])
        expect(@workshop.strips.list(id)).to eq([])
      end
    end

    it "says what a note lacks" do
      send_json "/strips", dials: dials
      send_json "/strips/1/notes", cell: 1
      expect(answer[:error]).to match(/marked or dropped/)
      send_json "/strips/1/notes", cell: 9, marked: true
      expect(answer[:error]).to match(/has 2 variations/)
    end
  end
end
