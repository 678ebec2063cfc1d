# frozen_string_literal: true

require "json"
require "sinatra/base"

module Vumbral
  module Server
    # The HTTP interface: parses, calls the studio, answers. `docs/api.md` lists the routes.
    class App < Sinatra::Base
      DIST = File.join(ROOT, "web", "dist")
      LARGEST_JSON = 16 * 1024 * 1024

      set :show_exceptions, false
      set :raise_errors, false
      set :static, true
      set :public_folder, DIST
      set :static_cache_control, [:no_cache]
      set :host_authorization, {}
      disable :sessions, :logging

      helpers Answers

      register Routes::Shots, Routes::Frames, Routes::Pictures, Routes::Meshes, Routes::Work

      # @param workshop [Studio::Workshop]
      def initialize(workshop, broadcast)
        super()
        @workshop = workshop
        @broadcast = broadcast
      end

      attr_reader :workshop, :broadcast

      get "/api/kinds" do
        answer(kinds: Shot::Kinds.all.values.map(&:to_h), starters: Studio::Starters::ALL.map { |name, help| {name: name, help: help} },
          eases: Shot::Curve::EASES, exports: Studio::Exports::FORMATS, seen: Light::ViewVolume::SEEN, meshes: Formats::Meshes::READERS.keys)
      end

      get "/api/*" do
        raise Refused.new("There is nothing at #{request.path_info[0, 120]}.", code: "unknown_path")
      end

      # The front end finds its own way from here.
      get "*" do
        pass if request.path_info.start_with?("/api/", "/assets/")
        index = File.join(DIST, "index.html")
        halt 503, {"content-type" => "text/plain"}, "The front end is not built yet; run bin/setup." unless File.exist?(index)

        cache_control :no_cache
        send_file index
      end

      not_found do
        refuse("There is nothing at #{request.request_method} #{request.path_info[0, 120]}.", "unknown_path", 404) unless response.body.any? && response.media_type == "application/json"
      end

      error Refused do |error|
        refuse(error.message, error.code, Answers::STATUS.fetch(error.code, 422))
      end

      error Studio::Database::Error do |error|
        full = error.message.include?("full")
        refuse(full ? "The disk is full; nothing was changed. Free some space and try again." : "The data is busy; nothing was changed. Try again.", full ? "disk_full" : "busy", 503)
      end

      error do |error|
        warn "#{request.request_method} #{request.path_info}: #{error.class}: #{error.message}\n#{error.backtrace.first(8).join("\n")}"
        refuse("Something went wrong inside Vumbral (#{error.class}); nothing is lost.", "internal", 500)
      end
    end
  end
end
