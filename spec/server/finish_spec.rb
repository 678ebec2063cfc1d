# frozen_string_literal: true

require "rack/test"

module Vumbral
  # Plates, tables and finished frames over HTTP.
  RSpec.describe Server::Routes::Finish do
    include FinishHelp
    include Rack::Test::Methods

    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    before { header "Host", "localhost" }

    def app = @app ||= Server::Gate.new(Server::App.new(@workshop, Server::Broadcast.new(@workshop)))

    def answer = JSON.parse(last_response.body, symbolize_names: true)

    def send_json(path, data = {}) = post(path, JSON.generate(data))

    # Work that is asked for is done here.
    def working
      stopped = false
      thread =
        Thread.new do
          if (job = @workshop.jobs.claim(%w[short long]))
            Studio::Worker.new(@workshop).send(:work, job)
          else
            sleep(0.01)
          end until stopped
        end
      yield
    ensure
      stopped = true
      thread.join
    end

    def png(level) =
      Vips::Image
        .black(24, 16, bands: 3)
        .linear(1, level)
        .cast(:uchar)
        .copy(interpretation: :srgb)
        .write_to_buffer(".png")

    it "takes plates of files that were sent, and tables, and lists them" do
      kept = [40, 80].each_with_index.map { |level, n| post("/api/files?name=wall.#{n}.png", png(level)) && answer }
      working do
        send_json("/api/plates", files: kept)
        expect([last_response.status, answer[:facts][:frames]]).to eq([201, 2])
        post(
          "/api/tables?name=dusk.cube",
          Formats::Cube.new(Kernel::Buffer.of(:f32, [0.0, 0.0, 0.0, 1.0, 1.0, 1.0], 2, 1, 1, 3)).write
        )
        expect(answer[:name]).to eq("dusk.cube")
        post("/api/tables?name=dusk.cube", "nothing")
        expect([last_response.status, answer[:error]]).to match([422, /dusk.cube/])
        send_json("/api/plates", files: "many")
        expect(answer[:error]).to eq("Files come as a list of objects, each with file and name.")
      end
      expect([get("/api/plates") && answer[:plates].size, get("/api/tables") && answer[:tables].size]).to eq([1, 1])
    end

    it "gives a finished frame, with edits that are not kept, and says what it cannot" do
      id = shelve(@workshop, small_shot(edits: [set("general", :last, 2), layer("one"), effect("one", "exposure")]))
      run_now(@workshop, id)
      bright = working do
        [0.0, -4.0].map do |stops|
          send_json("/api/shots/#{id}/finished", frame: 2, size: [96, 54], edits: [set("one-exposure", :stops, stops)])
          expect([last_response.status, last_response.content_type]).to eq([200, "image/jpeg"])
          Vips::Image.new_from_buffer(last_response.body, "").avg
        end
      end
      expect(bright[1]).to be < 0.5 * bright[0]
      working { send_json("/api/shots/#{id}/finished", frame: 1, size: [96, 54], part: [0.2, 0.2, 0.6, 0.8]) }
      expect(Vips::Image.new_from_buffer(last_response.body, "").size).to eq([96, 54])
      expect(@workshop.shots.document(id).node("one-exposure")[:stops]).to eq(0.0)
      {
        {frame: 2, size: [9000, 9000]} => /16 to 2048 pixels/, {frame: 2} => /16 to 2048 pixels/,
        {frame: 2, size: [96, 54], part: [0.5, 0.0, 0.2, 1.0]} => /left, top, right and bottom/,
        {frame: 2, size: [96, 54], edits: [{"do" => "fly"}]} => /is no edit/
      }.each do |asked, words|
        send_json("/api/shots/#{id}/finished", asked)
        expect([last_response.status, answer[:error]]).to match([be >= 400, words])
      end
    end

    it "refuses to follow what is no spot, and to pin a prop without spots" do
      id = shelve(@workshop)
      send_json("/api/shots/#{id}/tracks/prop-1", from: 1, to: 4)
      expect(answer[:error]).to match(/is no tracked spot/)
      send_json("/api/shots/#{id}/pins/prop-1")
      expect(answer[:error]).to match(/pinned by 3 tracked spots or more, and better by 4; there are 0/)
    end

    it "tells the light of a pixel, gives colours as a table, and sets grain as the plate has it" do
      frames = {"wall.png" => File.join(@workshop.home.path, "wall.png")}
      noise = Random.new(2)
      Vips::Image
        .new_from_memory(
          Array.new(96 * 64) { [(110 + 8 * (noise.rand - 0.5) * 2).round] * 3 }.flatten.pack("C*"), 96, 64, 3, :uchar
        )
        .copy(interpretation: :srgb)
        .pngsave(frames["wall.png"])
      plate = @workshop.plates.bring(frames)
      id =
        shelve(
          @workshop,
          small_shot(
            edits: [
              set("general", :last, 2), layer("wall", -1, what: "plate", plate: plate[:digest]),
              layer("red", 1, what: "colour", colour: [0.5, 0.25, 0.125]), effect("red", "grain"),
              effect("red", "exposure", 1, stops: 1.0)
            ]
          )
        )
      working do
        send_json("/api/shots/#{id}/finished/pixel", frame: 1, size: [96, 54], x: 0.5, y: 0.5)
        expect(answer[:light][0]).to be_within(0.2).of(1.0)
        send_json("/api/shots/#{id}/finished/pixel", frame: 1, size: [96, 54], x: 5, y: 0.5)
        expect([last_response.status, answer[:error]]).to match([422, /how far it is from the left/])
      end
      get("/api/shots/#{id}/tables/red")
      expect([last_response.headers["X-Left-Out"], Formats::Cube.read(last_response.body).size]).to eq(["grain", 33])
      get("/api/shots/#{id}/tables/wall")
      expect(answer[:error]).to match(/no effect that only changes colours/)
      send_json("/api/shots/#{id}/grain/red-grain", frame: 1)
      grain = @workshop.shots.document(id).node("red-grain")
      expect([grain[:amount], grain[:coloured]]).to match([be_between(0.9, 1.2), 0.0])
      send_json("/api/shots/#{id}/grain/red-exposure", frame: 1)
      expect(answer[:error]).to match(/is no grain/)
    end

    it "shows what lies behind the shot, without making anything of it" do
      id =
        shelve(
          @workshop,
          small_shot(
            edits: [
              layer("back", -1, what: "colour", colour: [1.0, 0.0, 0.0]), layer("one"),
              layer("front", 1, what: "colour", colour: [0.0, 1.0, 0.0])
            ]
          )
        )
      send_json("/api/shots/#{id}/behind", frame: 1, size: [96, 54])
      expect(
        [last_response.status, Vips::Image.new_from_buffer(last_response.body, "").getpoint(40, 20).map(&:round)]
      ).to match([200, [be > 245, be < 10, be < 10]])
      send_json("/api/shots/#{id}/behind", frame: 1, size: [9600, 54])
      expect(answer[:error]).to match(/16 to 2048 pixels/)
    end

    it "finds spots and takes the camera only from what there is" do
      id = shelve(@workshop, small_shot(edits: [layer("one", what: "colour")]))
      send_json("/api/shots/#{id}/spots", layer: "one", frame: 1, count: 8)
      expect(answer[:error]).to match(/shows nothing that moves/)
      send_json("/api/shots/#{id}/sighting", from: 1, how: "tripod")
      expect(answer[:error]).to match(/There are 0/)
    end
  end
end
