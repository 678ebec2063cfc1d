# frozen_string_literal: true

module Vumbral
  module Server
    module Routes
      # Shots, their edits, undo and redo.
      module Shots
        def self.registered(app)
          app.get("/api/shots") do
            rows = workshop.shots.list.map do |row|
              print = workshop.prints.list(row[:id]).first
              {id: row[:id], name: row[:name], changed: row[:changed_at], print: print && print[:number]}
            end
            answer(shots: rows)
          end

          app.post("/api/shots") do
            asked = json_body
            row = workshop.shots.create(asked["name"], starter: asked["starter"] || "plume", prop: asked["mesh"])
            answer(shot_answer(row[:id]), 201)
          end

          app.post("/api/shots/import") do
            length = request.content_length.to_i
            raise Refused.new("The shot file has #{length / 1024 / 1024} MB; that is no shot.", code: "file_too_large") if length > App::LARGEST_JSON

            row = workshop.shots.import(raw_body)
            answer(shot_answer(row[:id]), 201)
          end

          app.get("/api/shots/:id") { answer(shot_answer(params["id"])) }

          app.get("/api/shots/:id/file") do
            document = workshop.shots.document(params["id"])
            attachment "#{params["id"]}.shot.json"
            content_type "application/json"
            JSON.pretty_generate(document.to_h)
          end

          app.delete("/api/shots/:id") do
            workshop.shots.delete(params["id"])
            answer(deleted: params["id"])
          end

          app.post("/api/shots/:id/duplicate") { answer(shot_answer(workshop.shots.duplicate(params["id"])[:id]), 201) }

          app.post("/api/shots/:id/edits") do
            asked = json_body
            workshop.shots.edit(params["id"], asked["edits"])
            workshop.runs.follow(params["id"]) if asked["follow"]
            answer(shot_answer(params["id"]))
          end

          %w[undo redo].each do |way|
            app.post("/api/shots/:id/#{way}") do
              label = workshop.shots.public_send(way, params["id"])[:label]
              workshop.runs.follow(params["id"]) if json_body["follow"]
              answer(shot_answer(params["id"]).merge(label: label))
            end
          end
        end
      end
    end
  end
end
