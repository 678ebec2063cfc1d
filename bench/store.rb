# frozen_string_literal: true

# How the data folder bears much: 200 shots, 2,000 runs, 100,000 frames. Tells how long the shelf, the desk, an edit,
# the list of runs and the history take to be answered, and the same with a single shot, so that the ratio can be read.
#   ruby bench/store.rb
require_relative "support"
require "json"
require "rack/mock"
require "securerandom"
require "tmpdir"

module Vumbral
  class Store
    SHOTS, RUNS, FRAMES = 200, 2000, 100_000
    TIMES = 7

    def call
      few, many = [1, SHOTS].map { |shots| Dir.mktmpdir { |home| measured(home, shots) } }
      puts format("%-28s %10s %10s %8s", "answered in, ms", "1 shot", "#{SHOTS} shots", "ratio")
      few.each do |what, seconds|
        puts format("%-28s %10.1f %10.1f %8.2f", what, 1000 * seconds, 1000 * many[what], many[what] / seconds)
      end
    end

    private

    def measured(home, shots)
      workshop = Studio::Workshop.new(home)
      ids = fill(workshop, shots)
      @app = Server::App.new(workshop, Server::Broadcast.new(workshop))
      id = ids[shots / 2]
      node = workshop.shots.document(id).of(:source)[0].id
      value = 1.0
      {
        "shelf" => -> { get("/api/shots") },
        "desk" => -> { get("/api/shots/#{id}") && get("/api/shots/#{id}/frames?quality=draft") },
        "edit" => -> do
          post("/api/shots/#{id}/edits", edits: [{do: "set", node: node, dial: "smoke", value: value += 0.25}])
        end,
        "runs" => -> { get("/api/shots/#{id}/runs") },
        "history" => -> { get("/api/shots/#{id}/history") },
        "strips" => -> { get("/api/shots/#{id}/strips") }
      }.transform_values { |work| Bench.median(TIMES, &work) }
    end

    # Shots with runs that are there, ten each, and frames of fifty.
    def fill(workshop, count)
      starter = Studio::Starters.build("plume", "Shot").to_json
      ids = Array.new(count) { workshop.shots.import(starter)[:id] }
      per = RUNS / SHOTS
      ids.each do |id|
        per.times do |n|
          workshop.shots.edit(id, [{"do" => "set", "node" => "source-1", "dial" => "smoke", "value" => 2.0 + n}])
        end
      end
      facts =
        JSON.generate(
          size: [32, 48, 32], whole: 60_000, used: 49_152, substeps: 1, seconds: 0.1, paced: 0.2, speed: 1.5
        )
      workshop.db.transaction do
        ids.each do |id|
          per.times do |n|
            keys = Array.new(FRAMES / RUNS) { SecureRandom.hex(16) }
            workshop.db[:runs].insert(
              shot_id: id, number: n + 1, quality: "draft", revision: n + 2, keys: JSON.generate(keys), cells: 60_000,
              created_at: workshop.now, first_frame: 1
            )
            workshop.db[:frames].multi_insert(
              keys.each_with_index.map do |key, at|
                {key: key, frame: at + 1, bytes: 7, checkpoint: false, facts: facts}
              end
            )
            # Those of one shot have files, as the desk looks for them.
            if id == ids[count / 2]
              keys.each do |key|
                workshop.home.write(workshop.home.within("frames", key[0, 2], "#{key}.frame"), "content")
              end
            end
          end
        end
      end
      ids
    end

    def get(path) = asked("GET", path)

    def post(path, body) = asked("POST", path, JSON.generate(body))

    def asked(verb, path, body = nil)
      env =
        Rack::MockRequest.env_for(
          path, :method => verb, :input => body || "", "CONTENT_TYPE" => "application/json", "HTTP_HOST" => "127.0.0.1"
        )
      status, _, text = @app.call(env)
      raise "#{path}: #{status} #{text.each.to_a.join[0, 200]}" unless status < 300

      true
    end
  end
end

Vumbral::Store.new.call if $PROGRAM_NAME == __FILE__
