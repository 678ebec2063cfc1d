# frozen_string_literal: true

module Vumbral
  module Server
    module Routes
      # Shots, their edits, undo and redo.
      module Shots
        def self.registered(app)
          app.get("/api/shots") do
            event = workshop.events.last
            jobs = workshop.jobs.active.group_by { |job| job[:shot_id] }
            rows = workshop.shots.list.map do |row|
              {id: row[:id], name: row[:name], changed: row[:changed_at], print: workshop.prints.newest(row[:id]),
               jobs: jobs.fetch(row[:id], []).map { |job| workshop.jobs.show(job) }}
            end
            away = workshop.shots.away.map { |row| row.slice(:id, :name, :away_at) }
            answer(shots: rows, away: away, event: event, trouble: workshop.home.trouble(workshop.now))
          end

          app.post("/api/shots") do
            asked = json_body
            row = workshop.shots.create(asked["name"], starter: asked["starter"] || "plume", prop: asked["mesh"])
            answer(shot_answer(row[:id]), 201)
          end

          app.post("/api/shots/import") do
            check_length(EarlyLimit::JSON_LIMIT, "The shot file")
            name = File.basename(params["name"].to_s)[0, 80]
            row = workshop.shots.import(raw_body, from: name.empty? ? "The shot file" : name)
            answer(shot_answer(row[:id]), 201)
          end

          # A whole shot that was packed: the name of a file that was kept (POST /api/files).
          app.post("/api/bundles") { answer(shot_answer(read(files_given, "bundle")["id"]), 201) }

          app.get("/api/shots/:id") { answer(shot_answer(params["id"])) }

          app.get("/api/shots/:id/file") do
            document = workshop.shots.document(params["id"])
            attachment "#{params["id"]}.shot.json"
            content_type "application/json"
            JSON.pretty_generate(document.to_h)
          end

          # What would go wrong, each with a sentence and perhaps edits that mend it.
          app.get("/api/shots/:id/preflight") { answer(findings: workshop.preflights.of(params["id"])) }

          # What a shot may begin with, and what it would take on this machine.
          app.get("/api/starters") do
            rows = Studio::Starters::ALL.map do |name, help|
              {name: name, help: help, costs: workshop.forecast.of_starter(name), fit: Studio::Starters::FITS[name]}
            end
            answer(starters: rows)
          end

          # What it keeps on disk.
          app.get("/api/shots/:id/holdings") { answer(workshop.holdings.of(params["id"])) }

          app.delete("/api/shots/:id") { answer(taken_away: workshop.shots.take_away(params["id"])[:id]) }

          app.post("/api/shots/:id/put_back") { answer(put_back: workshop.shots.put_back(params["id"])[:id]) }

          # There is no way back from here.
          app.post("/api/shots/:id/let_go") do
            workshop.shots.let_go(params["id"])
            answer(let_go: params["id"])
          end

          app.post("/api/shots/:id/duplicate") { answer(shot_answer(workshop.shots.duplicate(params["id"])[:id]), 201) }

          app.post("/api/shots/:id/edits") do
            asked = json_body
            head = asked["head"] && number(asked["head"], "The head")
            workshop.shots.edit(params["id"], asked["edits"], head: head, by: by)
            workshop.runs.follow(params["id"]) if asked["follow"]
            answer(shot_answer(params["id"]))
          end

          # Another window's step is taken back only with `others`.
          app.post("/api/shots/:id/undo") do
            asked = json_body
            moved(asked, workshop.shots.undo(params["id"], by: by, others: by.nil? || asked["others"] == true))
          end

          app.post("/api/shots/:id/redo") { moved(json_body, workshop.shots.redo(params["id"], by: by)) }
        end
      end
    end
  end
end
