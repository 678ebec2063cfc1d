# frozen_string_literal: true

require "rack/test"
require "zlib"

module Vumbral
  # How the front end comes to the browser.
  RSpec.describe Server::App do
    include Rack::Test::Methods

    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    before { header "Host", "localhost" }

    def app = @app ||= Server::Gate.new(described_class.new(@workshop, Server::Broadcast.new(@workshop)))

    def script = Dir[File.join(described_class::DIST, "assets", "Desk-*.js")].first

    it "sends scripts compressed, to be kept for good under their hashed names" do
      header "Accept-Encoding", "gzip"
      get "/assets/#{File.basename(script)}"
      expect(last_response.headers).to include("content-encoding" => "gzip", "cache-control" => /immutable/)
      plain = Zlib.gunzip(last_response.body)
      expect(plain.bytesize).to eq(File.size(script))
      expect(last_response.body.bytesize).to be < 0.45 * plain.bytesize
    end

    it "leaves fonts as they are, and what may change to be asked for" do
      header "Accept-Encoding", "gzip"
      get "/assets/#{File.basename(Dir[File.join(described_class::DIST, "assets", "*.woff2")].first)}"
      expect(last_response.headers["content-encoding"]).to be_nil
      %w[/ /shots/anything].each do |path|
        get path
        expect([last_response.status, last_response.headers["cache-control"]]).to match([200, /no-cache/])
        expect(last_response.body).to include("<div id=\"app\">")
      end
      get "/assets/nothing-here.js"
      expect(last_response.status).to eq(404)
    end

    it "lets shelf and desk stand before the view's own script has come" do
      desk = File.read(script)
      sizes =
        Dir[File.join(described_class::DIST, "assets", "*.js")].to_h do |path|
          [File.basename(path)[/\A[^-]+/], File.size(path)]
        end
      expect(sizes.keys).to include("three", "ShotView", "Desk", "Shelf")
      expect(desk).not_to match(/import\s*[^;(]*from\s*"\.\/three-/)
      expect(sizes["Desk"]).to be < 400_000
    end
  end
end
