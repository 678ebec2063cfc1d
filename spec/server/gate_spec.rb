# frozen_string_literal: true

require "rack/mock"

module Vumbral
  RSpec.describe Server::Gate do
    before { @done = [] }

    def gate(token: nil)
      described_class.new(->(env) { (@done << env["REQUEST_METHOD"]) && [200, {}, ["in"]] }, token: token)
    end

    # @return [Array(Integer, String)] status, and the code of what is refused
    def ask(method, host: "localhost:4680", path: "/", token: nil, **headers)
      env = Rack::MockRequest.env_for("/", method: method, input: "")
      env = env.merge("HTTP_HOST" => host, "PATH_INFO" => path.split("?")[0], "QUERY_STRING" => path.split("?")[1].to_s)
        .merge(headers.transform_keys(&:to_s)).compact
      status, _, body = gate(token: token).call(env)
      [status, (body.any? && body[0].start_with?("{")) ? JSON.parse(body[0])["code"] : nil].compact
    end

    it "lets in what names this machine, with any port" do
      %w[localhost localhost:4680 127.0.0.1 127.0.0.1:9 [::1]:4680 LOCALHOST].each do |host|
        expect(ask("GET", host: host)).to eq([200])
      end
    end

    it "keeps out every other host, and hosts that only look like this one" do
      [
        "evil.example", "localhost.evil.example", "127.0.0.1.evil.example", "", nil, "localhost@evil.example",
        "localhost:80:80", "localhost evil", "0.0.0.0", "[::2]"
      ].each { |host| expect(ask("GET", host: host)).to eq([403, "bad_host"]) }
      expect(@done).to eq([])
    end

    it "does not believe what a proxy says" do
      {HTTP_X_FORWARDED_HOST: "localhost", HTTP_FORWARDED: "host=localhost"}.each do |header, value|
        expect(ask("GET", :host => "evil.example", header => value)).to eq([403, "bad_host"])
      end
      expect(ask("POST", HTTP_X_FORWARDED_HOST: "evil.example",
        HTTP_ORIGIN: "http://evil.example")).to eq([403, "bad_origin"])
    end

    it "lets only this very origin change anything, before anything is done" do
      expect(ask("POST", HTTP_ORIGIN: "http://localhost:4680")).to eq([200])
      @done.clear
      [
        "http://localhost:3000", "http://localhost", "http://evil.example", "null", "::not a url::",
        "http://localhost:4680.evil.example", "http://127.0.0.1:4680"
      ].each { |origin| expect(ask("POST", HTTP_ORIGIN: origin)).to eq([403, "bad_origin"]) }
      %w[PUT DELETE PATCH].each do |method|
        expect(ask(method, HTTP_ORIGIN: "http://localhost:3000")).to eq([403, "bad_origin"])
      end
      expect(@done).to eq([])
    end

    it "goes by the referer where there is no origin, and by what the browser says of the site" do
      expect(ask("POST", HTTP_REFERER: "http://localhost:4680/shots/a?b#c")).to eq([200])
      @done.clear
      ["http://evil.example/", "http://localhost:3000/x", "nonsense"].each do |referer|
        expect(ask("POST", HTTP_REFERER: referer)).to eq([403, "bad_origin"])
      end
      %w[cross-site same-site].each { |site| expect(ask("POST", HTTP_SEC_FETCH_SITE: site)).to eq([403, "bad_origin"]) }
      expect(@done).to eq([])
      expect(ask("POST", HTTP_SEC_FETCH_SITE: "same-origin")).to eq([200])
    end

    it "lets anybody follow a link here, and tools without an origin work" do
      expect(ask("GET", HTTP_REFERER: "http://evil.example/")).to eq([200])
      expect(ask("POST")).to eq([200])
    end

    it "refuses addresses that are no text" do
      %w[/%ff /%00 /a%zz /%c0%af /%01].each { |path| expect(ask("GET", path: path)).to eq([400, "bad_path"]) }
      ["/?a=%ff", "/?a=%00", "/?%ff=1"].each { |path| expect(ask("GET", path: path)).to eq([400, "bad_path"]) }
      expect(ask("GET", path: "/T%C3%B6pf?name=T%C3%B6pf")).to eq([200])
    end

    it "never lets a body be taken for a form" do
      seen = nil
      app = described_class.new(->(env) { (seen = env["CONTENT_TYPE"]) && [200, {}, []] })
      app.call(
        Rack::MockRequest.env_for(
          "/", :method => "POST", :input => "a=b", "CONTENT_TYPE" => "application/x-www-form-urlencoded",
          "HTTP_HOST" => "localhost"
        )
      )
      expect(seen).to eq("application/octet-stream")
    end

    it "asks for the token elsewhere, and remembers it" do
      door = ->(path = "/", **headers) { ask("GET", host: "studio.example", path: path, token: "s3cret", **headers) }
      expect(door.call).to eq([401, "no_token"])
      expect(door.call("/?token=s3cret")).to eq([303])
      expect(door.call(HTTP_COOKIE: "vumbral_token=s3cret")).to eq([200])
      expect(door.call(HTTP_AUTHORIZATION: "Bearer s3cret")).to eq([200])
      ["/?token=wrong", "/?token[]=s3cret", "/?token[a]=s3cret", "/?token"].each do |path|
        expect(door.call(path)).to eq([401, "no_token"])
      end
    end

    it "says why a body was stopped before it was read" do
      key = Server::EarlyLimit::KEY.to_sym
      expect(ask("POST", key => [200 * 1024 * 1024, 16 * 1024 * 1024])).to eq([413, "file_too_large"])
      expect(ask("POST", key => [nil, nil])).to eq([411, "no_length"])
      expect(@done).to eq([])
    end
  end

  RSpec.describe Server::EarlyLimit do
    def exceeded(path, length, **rest)
      described_class.exceeded({"PATH_INFO" => path,
                                "CONTENT_LENGTH" => length&.to_s}.merge(rest.transform_keys(&:to_s)))
    end

    it "has one limit for files and one for everything else" do
      mega = 1024 * 1024
      expect(exceeded("/api/meshes", 100 * mega)).to be_nil
      expect(exceeded("/api/meshes", 100 * mega + 1)).to eq([100 * mega + 1, 100 * mega])
      expect(exceeded("/api/shots/a/edits", 16 * mega)).to be_nil
      expect(exceeded("/api/shots/a/edits", 17 * mega)).to eq([17 * mega, 16 * mega])
      expect(exceeded("/api/meshes/../shots", 17 * mega)).to eq([17 * mega, 16 * mega])
      expect(exceeded("/", nil)).to be_nil
      expect(exceeded("/api/meshes", nil, HTTP_TRANSFER_ENCODING: "chunked")).to eq([nil, nil])
    end
  end
end
