# frozen_string_literal: true

require "rack/test"

module Vumbral
  # A liquid's surface that is clipped to the inside of a prop, or whatever else operations make of it, in the view as
  # in pictures.
  RSpec.describe Studio::Liquids, "with operations" do
    include Rack::Test::Methods

    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:id) { shelve(@workshop, small_water).tap { |shot| run_now(@workshop, shot) } }

    let(:vase) do
      [
        {
          "do" => "add",
          "kind" => "prop",
          "id" => "vase",
          "name" => "Vase",
          "dials" => {
            "shape" => "sphere", "radius" => 0.14, "divisions" => 4, "position" => [0.0, 0.1, 0.0], "shown" => false
          }
        },
        {
          "do" => "add",
          "kind" => "operation",
          "id" => "clip",
          "name" => "Only within",
          "dials" => {
            "prop" => "water", "what" => "combine", "how" => "intersect", "with" => "vase", "edge" => 0.01
          }
        }
      ]
    end

    def document = @workshop.shots.document(id)

    def body
      unless @workshop.bodies.known(document)
        work(@workshop, @workshop.jobs.add("bodies", nil, {document: document.to_json}))
      end
      @workshop.bodies.known(document).find { |row| row["prop"] == "water" }
    end

    def points(bytes) =
      bytes.unpack1("L<").then { |count| bytes.byteslice(8, 12 * count).unpack("e*").each_slice(3).to_a }

    def wide(places) = places.map { |x, _, z| Math.hypot(x, z) }.max

    it "is clipped to a prop without a run, and is as wide as that in pictures" do
      expect(body["altered"]).to be_nil
      @workshop.shots.edit(id, vase)
      expect(@workshop.runs.state(id, "draft")[:rows].map { |row| row[:state] }.uniq).to eq(["fresh"])
      standing = Geometry::Standing.new(document, @workshop.assets, only: ["water"]).at(3)
      expect(wide(standing.points.to_a.each_slice(3))).to be_within(0.006).of(0.14)
      expect(body["altered"].uniq.size).to eq(1)
    end

    it "is drawn so in the view, frame by frame, each made once" do
      @workshop.shots.edit(id, vase)
      key = @workshop.runs.state(id, "draft")[:rows][2][:liquid]
      name = body["altered"][2]
      expect(@workshop.liquids.altered(key, 0.0, name)).to be_nil
      row = work(@workshop, @workshop.jobs.add("surface", nil, {key: key, least: 0.0, alteration: name}))
      path = JSON.parse(row[:result])["path"]
      expect(wide(points(File.binread(path)))).to be_within(0.006).of(0.14)
      expect(wide(points(@workshop.liquids.shape(key)))).to be > 0.2
      expect(@workshop.liquids.altered(key, 0.0, name)).to eq(path)
      header "Host", "localhost"
      get "/api/liquids/#{key}?least=0&altered=#{name}"
      expect([last_response.status, last_response.body]).to eq([200, File.binread(path)])
      get "/api/liquids/#{key}?least=0&altered=none"
      expect([last_response.status, JSON.parse(last_response.body)["code"]]).to eq([400, "bad_path"])
    end

    it "goes along with a prop that moves, and is nothing where that is elsewhere" do
      @workshop.shots.edit(
        id,
        vase +
          [1, 6].map do |frame|
            {
              "do" => "key", "node" => "vase", "dial" => "position", "frame" => frame,
              "value" => [frame - 1.0, 0.1, 0.0]
            }
          end
      )
      names = body["altered"]
      expect(names.uniq.size).to eq(6)
      keys = @workshop.runs.state(id, "draft")[:rows].map { |row| row[:liquid] }
      made = [0, 5].map { |n| points(File.binread(@workshop.liquids.alter(keys[n], 0.0, names[n]))).size }
      expect(made).to match([be > 100, 0])
    end

    def app = @app ||= Server::Gate.new(Server::App.new(@workshop, Server::Broadcast.new(@workshop)))
  end
end
