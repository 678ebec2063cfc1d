# frozen_string_literal: true

require "rack/test"

module Vumbral
  RSpec.describe Server::Routes::Meshes do
    include Rack::Test::Methods

    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    before { header "Host", "localhost" }

    let(:id) { shelve(@workshop) }

    def app = @app ||= Server::Gate.new(Server::App.new(@workshop, Server::Broadcast.new(@workshop)))

    def answer = JSON.parse(last_response.body, symbolize_names: true)

    def send_json(path, data) = post(path, JSON.generate(data)) && answer

    def keep(name, bytes)
      post "/api/files?name=#{name}", bytes, "CONTENT_TYPE" => "application/octet-stream"
      answer
    end

    # Answers wait for a worker.
    def together(files, **rest)
      worker = nil
      helper =
        Thread.new { Studio::Worker.new(Studio::Workshop.new(@workshop.home.path)).tap { |one| worker = one }.run }
      send_json("/api/meshes/together", {files: files}.merge(rest))
      worker&.stop
      helper.join(10)
      answer
    end

    it "reads a mesh with the colours that came with it, and says what did not come" do
      obj = "mtllib pot.mtl\nusemtl clay\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n"
      found = together([keep("pot.obj", obj), keep("pot.mtl", "newmtl clay\nKd 0.5 0.25 0.125\n")])
      expect(found).to include(name: "pot.obj", facts: include(coloured: true, left_out: []))
      get "/api/shapes?shape=mesh&mesh=#{found[:digest]}"
      expect(last_response.body.unpack("e*").each_slice(9).map { |corner| corner.last(3) }.uniq).to eq(
        [[0.5, 0.25, 0.125]]
      )
      found = together([keep("pot.obj", obj)])
      expect(found[:facts]).to include(
        coloured: false,
        left_out: ["The colours in pot.mtl were left out, for it did not come with the mesh; bring both together."]
      )
      expect(Dir[@workshop.home.within("incoming", "*")]).to eq([])
    end

    it "reads a numbered sequence, and shows each of its frames" do
      files =
        [1.0, 2.0, 3.0].map.with_index do |size, n|
          keep("pot.#{n + 7}.obj", Formats::OBJ.write(Geometry::Builders.box([size, 1.0, 1.0])))
        end
      found = together(files)
      expect(found).to include(name: "pot.#.obj", facts: include(frames: 3, low: [-1.5, -0.5, -0.5]))
      widths = [0, 1, 1.5].map do |at|
        get "/api/shapes?shape=mesh&mesh=#{found[:digest]}&plays=true&at=#{at}"
        last_response.body.unpack("e*").each_slice(9).map(&:first).max
      end
      expect(widths).to eq([0.5, 1.0, 1.25])
    end

    it "puts what was read into the shot, and bakes it" do
      mesh = together([keep("man.stl", Formats::STL.write(Geometry::Builders.box([10.0, 20.0, 170.0])))])
      placed = send_json("/api/shots/#{id}/arrivals", mesh: mesh[:digest], unit: "cm", up: "z", place: [1, 0, 2])
      expect([last_response.status, placed[:props]]).to eq([201, ["prop-2"]])
      prop = placed[:document][:nodes].find { |node| node[:id] == "prop-2" }
      expect(prop[:dials]).to include(unit: "cm", up: "z", position: [1.0, 0.85, 2.0])
      send_json(
        "/api/shots/#{id}/edits",
        edits: [set("prop-2", :shape, "mesh"), {do: "key", node: "prop-2", dial: "turn", frame: 4, value: [0, 90, 0]}]
      )
      baked = send_json("/api/shots/#{id}/nodes/prop-2/bake", {})
      expect(baked[:document][:nodes].find { |node| node[:id] == "prop-2" }[:dials]).not_to include(:unit, :position)
    end

    it "refuses what it is not given in a sentence" do
      {
        {mesh: "0123456789abcdef"} => [404, "unknown_mesh"], {mesh: "x", place: [1, 2]} => [422, "bad_value"],
        {mesh: nil} => [404, "unknown_mesh"]
      }.each do |body, refused|
        send_json("/api/shots/#{id}/arrivals", body)
        expect([last_response.status, answer[:code]]).to eq(refused)
      end
      [{}, {files: []}, {files: [{file: 1, name: "a.obj"}]}, {files: "x"}].each do |body|
        send_json("/api/meshes/together", body)
        expect([last_response.status, answer[:error]]).to eq(
          [422, "Files come as a list of objects, each with file and name."]
        )
      end
      expect(together([{file: "../../vumbral.sqlite3", name: "a.obj"}])[:error]).to match(
        /a.obj was lost when Vumbral stopped/
      )
      expect(together([keep("a.obj", "v 0 0 0\n"), keep("pot.obj", "v 0 0 0\n")])[:error]).to match(
        /has no number before its ending/
      )
      send_json("/api/shots/#{id}/nodes/nothing/bake", {})
      expect(last_response.status).to eq(404)
    end
  end
end
