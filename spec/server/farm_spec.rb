# frozen_string_literal: true

require "rack/test"

module Vumbral
  # What workers of other machines ask over HTTP, and what they are refused.
  RSpec.describe Server::Routes::Farm do
    include Rack::Test::Methods

    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    before do
      header "Host", "localhost"
      header "X-Vumbral-Machine", "0123456789ab"
    end

    def app = @app ||= Server::Gate.new(Server::App.new(@workshop, Server::Broadcast.new(@workshop)))

    def said = [last_response.status, JSON.parse(last_response.body, symbolize_names: true)]

    def ask(path, data = {}, way: :post)
      public_send(way, path, JSON.generate(data))
      said
    end

    let(:version) { Studio::Farm::Version.own }

    it "welcomes a machine of its own version, and says what it is called by" do
      expect(ask("/api/farm/machines", FarmHelp::MACHINE.merge(id: "0123456789ab", version: version))).to match(
        [201, hash_including(machine: "0123456789ab", home: @workshop.home.id, redis: false)]
      )
      expect(ask("/api/farm/machines", {id: "0123456789ab", version: "older"})).to match(
        [409, hash_including(code: "other_version")]
      )
      expect(ask("/api/farm/machines", {version: version})).to match([422, hash_including(code: "bad_value")])
    end

    it "gives nothing to who is not known, and nothing where there is nothing" do
      expect(ask("/api/farm/claim", {version: version, lanes: %w[short]})).to match(
        [404, hash_including(code: "unknown_machine")]
      )
      helped(@workshop)
      post "/api/farm/claim", JSON.generate(version: version, lanes: %w[short nonsense])
      expect([last_response.status, last_response.body]).to eq([204, ""])
    end

    it "takes signs and files of a job from who has it, and says what is wrong" do
      helped(@workshop)
      job = @workshop.jobs.add("element", nil, {"name" => "ab" * 12})
      expect(ask("/api/farm/jobs/#{job}/sign")).to match([409, hash_including(code: "not_yours")])
      ask("/api/farm/claim", {version: version, lanes: %w[short]})
      expect(ask("/api/farm/jobs/#{job}/sign", {done: 1, total: 4, note: "half way"})).to eq(
        [200, {wanted: true, held: false, waiting: false}]
      )
      expect(@workshop.jobs.fetch(job)).to include(done: 1, note: "half way")
      name = "elements/ab/#{"ab" * 12}.half"
      put "/api/farm/jobs/#{job}/files/#{name}?at=0&size=3&sum=#{Digest::SHA256.hexdigest("abc")}", "abc"
      expect(said).to eq([200, {have: 3, done: true}])
      put "/api/farm/jobs/#{job}/files/#{name}?at=none&size=3&sum=x", "abc"
      expect(said).to match([422, hash_including(code: "bad_value")])
      put "/api/farm/jobs/#{job}/files/vumbral.sqlite3?at=0&size=3&sum=x", "abc"
      expect(said).to match([403, hash_including(code: "not_allowed")])
      %w[frames events].each do |what|
        ask("/api/farm/jobs/#{job}/#{what}", {key: "0" * 32, facts: {}, kind: "nothing", data: {}})
      end
      expect(ask("/api/farm/jobs/#{job}/finish", {result: {name: "x"}, seconds: 1.0})).to eq([200, {}])
      expect(ask("/api/farm/jobs/#{job}/give_back")[0]).to eq(409)
    end

    it "gives files whole or in part, with their sum, and only what is a worker's business" do
      path = @workshop.home.write(@workshop.home.within("meshes", "0123456789abcdef.mesh"), "a mesh of ours")
      get "/api/farm/files/meshes/0123456789abcdef.mesh", {}, "HTTP_RANGE" => "bytes=7-"
      expect([last_response.status, last_response.body, last_response["x-vumbral-sum"]]).to eq(
        [206, "of ours", Digest::SHA256.file(path).hexdigest]
      )
      get "/api/farm/files/meshes/gone.mesh"
      expect(last_response.status).to eq(404)
      %w[vumbral.sqlite3 prints/a/00001.png exports/x meshes/../vumbral.sqlite3].each do |name|
        get "/api/farm/files/#{name}"
        expect(last_response.status).to be_between(400, 422)
      end
      get "/api/farm/like?folder=meshes&start=0123"
      expect(said).to eq([200, {name: "meshes/0123456789abcdef.mesh"}])
      get "/api/farm/like?folder=meshes&start=99"
      expect(last_response.status).to eq(204)
      get "/api/farm/like?folder=meshes&start=*"
      expect(last_response.status).to eq(400)
      get "/api/farm/rows/assets/none"
      expect(last_response.status).to eq(404)
    end

    it "pauses machines, has them go on and lets them go" do
      id = helped(@workshop)[:id]
      allow(Studio::Farm::Gauge).to receive(:known).and_return(1.0)
      expect(ask("/api/machines/#{id}/pause")[1][:machines][1]).to include(state: "paused")
      expect(ask("/api/machines/#{id}/go-on")[1][:machines][1]).to include(state: "working")
      expect(ask("/api/machines/#{id}", way: :delete)).to eq([200, {machines: []}])
      expect(ask("/api/machines/#{id}/pause")[0]).to eq(404)
      expect(ask("/api/machines", {twice: 3})[0]).to eq(422)
    end
  end
end
