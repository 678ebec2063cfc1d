# frozen_string_literal: true

require "json"
require "rack/deflater"
require "rack/static"
require "sinatra/base"

module Vumbral
  module Server
    # The HTTP interface: parses, calls the studio, answers. `docs/api.md` lists the routes.
    class App < Sinatra::Base
      DIST = File.join(ROOT, "web", "dist")

      # What a hashed name holds never changes, and scripts are a third of their size on the way.
      use Rack::Deflater, if: ->(env, _, headers, _) {
        env["PATH_INFO"].start_with?("/assets/") && headers["content-type"].to_s.match?(/javascript|css/)
      }
      use Rack::Static, urls: ["/assets"], root: DIST,
        header_rules: [[:all, {"cache-control" => "public, max-age=31536000, immutable"}]]

      set :show_exceptions, false
      set :raise_errors, false
      set :static, true
      set :public_folder, DIST
      set :static_cache_control, [:no_cache]
      set :host_authorization, {}
      # {Gate} looks at hosts and origins, before anything is done; these would look after it.
      set :protection, except: %i[json_csrf http_origin remote_token session_hijacking ip_spoofing]
      disable :sessions, :logging

      helpers Answers

      register Routes::Shots,
        Routes::Frames,
        Routes::Past,
        Routes::Pictures,
        Routes::Meshes,
        Routes::Strips,
        Routes::Finish,
        Routes::Work,
        Routes::Farm

      # @param workshop [Studio::Workshop]
      def initialize(workshop, broadcast)
        super()
        @workshop = workshop
        @broadcast = broadcast
      end

      attr_reader :workshop, :broadcast

      # Lists and tables in an address are nobody's.
      before do
        strange = params.find { |_, value| !value.nil? && !value.is_a?(String) && !value.is_a?(Array) } ||
          request.GET.find { |_, value| value.is_a?(Array) }
        raise Refused.new("#{strange[0].to_s[0, 40]} is given once, as plain text.", code: "bad_value") if strange
      end

      get "/api/kinds" do
        answer(
          formula: Shot::Formula::VARIABLES.keys + %w[and or],
          limits: {
            file: Studio::Assets::LARGEST, shot: EarlyLimit::JSON_LIMIT
          },
          kinds: Shot::Kinds.all.values.map(&:to_h),
          eases: Shot::Curve::EASES,
          beyond: Shot::Curve::BEYOND,
          exports: Studio::Exports::FORMATS,
          passes_of_exr: Studio::Exports::PASSES,
          exports_of_props: Studio::Exports::PROPS,
          seen: Light::ViewVolume::SEEN,
          meshes: Formats::Meshes::ENDINGS,
          plates: Studio::Plates::PICTURES + Studio::Plates::MOVIES,
          units: Geometry::Shapes::UNITS,
          passes: Shot::Ramp::PASSES,
          looks: Shot::Looks.to_a,
          materials: Shot::Materials.to_a
        )
      end

      get "/api/*" do
        raise Refused.new("There is nothing at #{request.path_info[0, 120]}.", code: "unknown_path")
      end

      # The front end finds its own way from here.
      get "*" do
        pass if request.path_info.start_with?("/api/", "/assets/")
        index = File.join(DIST, "index.html")
        unless File.exist?(index)
          halt 503, {"content-type" => "text/plain"},
            "The front end is not built yet; run bin/setup."
        end

        cache_control :no_cache
        send_file index
      end

      not_found do
        unless response.body.any? && response.media_type == "application/json"
          refuse("There is nothing at #{request.request_method} #{request.path_info[0, 120]}.", "unknown_path",
            404)
        end
      end

      error Refused do |error|
        refuse(error.message, error.code, Answers::STATUS.fetch(error.code, 422), error.details)
      end

      error Studio::Database::Error do |error|
        full = Studio::Database.full?(error)
        workshop.home.spend_reserve if full
        words = "The data is busy; nothing was changed. Try again."
        words = "The disk is full; nothing was changed. Free some space and try again." if full
        refuse(words, full ? "disk_full" : "busy", full ? 507 : 503)
      end

      error do |error|
        warn "#{request.request_method} #{request.path_info}: #{error.class}: #{error.message}\n" \
"#{error.backtrace.first(8).join("\n")}"
        refuse("Something went wrong inside Vumbral (#{error.class}); nothing is lost.", "internal", 500)
      end
    end
  end
end
