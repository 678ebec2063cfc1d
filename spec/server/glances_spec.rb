# frozen_string_literal: true

require "rack/test"

module Vumbral
  # Pictures to look at, and of textures.
  RSpec.describe "Glances and textures" do
    include Rack::Test::Methods

    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    before { header "Host", "localhost" }

    let(:id) do
      texture = {
        "do" => "add",
        "kind" => "texture",
        "id" => "bands",
        "name" => "Bands",
        "dials" => {
          "what" => "stripes", "bend" => 0.0
        }
      }
      shelve(@workshop, small_shot("Still", edits: [{"do" => "remove", "node" => "source-1"}, texture]))
    end

    def app = @app ||= Server::Gate.new(Server::App.new(@workshop, Server::Broadcast.new(@workshop)))

    def glance(**asked)
      worker = Thread.new do
        100.times do
          job = @workshop.jobs.active.find { |row| row[:kind] == "glance" && row[:state] == "queued" }
          break work(@workshop, job[:id]) if job

          sleep 0.05
        end
      end
      post("/api/shots/#{id}/glances", JSON.generate({frame: 1, size: [48, 27]}.merge(asked)))
      worker.join if last_response.ok?
      worker.kill
      last_response
    end

    it "makes a picture of any size through any eye, once, and gives up what waits when another is asked for" do
      whole = glance
      expect([whole.status, whole.content_type]).to eq([200, "image/png"])
      expect(Vips::Image.new_from_buffer(whole.body, "").size).to eq([48, 27])
      count = @workshop.db[:jobs].where(kind: "glance").count
      expect(glance.body).to eq(whole.body)
      expect(@workshop.db[:jobs].where(kind: "glance").count).to eq(count)
      aside = glance(eye: {position: [3.0, 1.0, 0.0], target: [0.0, 1.0, 0.0], focal: 30.0})
      expect(aside.body).not_to eq(whole.body)
      first, second = [40, 44].map { |width| @workshop.glances.ask(id, 1, [width, 20]) }
      expect([first, second].map { |job| @workshop.jobs.fetch(job)[:state] }).to eq(%w[cancelled queued])
    end

    it "shows the gas that it is told, and none where that is gone" do
      whole = glance
      expect(glance(key: nil).body).to eq(whole.body)
      expect(glance(key: "0" * 32).body).to eq(whole.body)
      expect(glance(key: {"a" => 1}).status).to eq(200)
    end

    it "refuses sizes and eyes that are none in a sentence" do
      expect(JSON.parse(glance(crop: [0.5, 0.0, 0.2, 1.0]).body)["error"]).to match(
        /is told by its left, top, right and bottom/
      )
      expect(JSON.parse(glance(size: [4, 9000]).body)["error"]).to match(/has 16 to 1920 pixels each way, not 4 × 9000/)
      expect(JSON.parse(glance(eye: {position: [1.0]}).body)["error"]).to match(
        /is told by its position, its target and its focal length/
      )
    end

    it "shows what a texture looks like" do
      get("/api/shots/#{id}/textures/bands.png")
      image = Vips::Image.new_from_buffer(last_response.body, "")
      expect([image.size, image.avg.between?(60, 200)]).to eq([[132, 66], true])
      get("/api/shots/#{id}/textures/prop-1.png")
      expect([last_response.status, JSON.parse(last_response.body)["error"]]).to match([422, /is no texture/])
    end
  end
end
