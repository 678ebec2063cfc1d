# frozen_string_literal: true

require "rack/test"

module Vumbral
  # Sidekiq's page, where Redis calls other machines.
  RSpec.describe Server::Engine do
    include Rack::Test::Methods

    around do |example|
      Dir.mktmpdir { |home| (@workshop = Studio::Workshop.new(home, redis: FarmHelp.redis)) && example.run }
    end

    let(:token) { "a" * 20 }

    def app =
      @app ||=
        Server::Gate.new(
          described_class.beside(Server::App.new(@workshop, Server::Broadcast.new(@workshop)), @workshop.tickets.url),
          token: token
        )

    before { header "Host", "smoke.example" }

    it "is shown to who has the token, and to nobody else" do
      get "/engine/"
      expect(last_response.status).to eq(401)
      header "Authorization", "Bearer #{token}"
      @workshop.jobs.add("print", nil, {})
      get "/engine/queues"
      expect([last_response.status, last_response.body.include?("vumbral-#{@workshop.home.id}-short")]).to eq(
        [200, true]
      )
    end

    it "lets calls be taken away there, and leaves everything else as it was" do
      header "Authorization", "Bearer #{token}"
      @workshop.jobs.add("print", nil, {})
      queue = "vumbral-#{@workshop.home.id}-short"
      get "/engine/queues/#{queue}"
      said = last_response.body[/name=["']authenticity_token["'] value=["']([^"']+)/, 1]
      header "Content-Type", "application/x-www-form-urlencoded"
      post "/engine/queues/#{queue}", {"authenticity_token" => said, "delete" => "Delete"}
      expect([last_response.status, @workshop.tickets.size("short")]).to eq([302, 0])
      get "/api/machines"
      expect(JSON.parse(last_response.body)).to include("engine" => "redis", "trouble" => nil)
      post "/api/machines", JSON.generate(twice: 0.25)
      expect(JSON.parse(last_response.body)).to eq("twice" => 0.25)
    end
  end
end
