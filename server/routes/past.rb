# frozen_string_literal: true

module Vumbral
  module Server
    module Routes
      # What was: runs with their settings, kept runs, and the shot's history.
      module Past
        # What its routes ask of a request.
        module Asked
          def run_number = number(params["number"], "The run")

          def point_number = number(params["number"], "The point")

          # Both ways of bringing settings back are followed by a draft where one was there.
          def taken_back(asked)
            yield
            workshop.runs.follow(params["id"]) if asked["follow"]
            answer(shot_answer(params["id"]))
          end
        end

        def self.registered(app)
          app.helpers Asked
          runs(app)
          caches(app)

          # A small movie of pictures that were sent (POST /api/files): {"files": ["…"], "rate": 24}.
          app.post("/api/clips") do
            asked = json_body
            job = workshop.clips.start(asked["files"], asked["rate"])
            answer({job: job}, 202)
          end

          app.get("/api/clips/:name.mp4") do
            path = workshop.clips.path(params["name"])
            unless File.file?(path)
              raise Refused.new("This movie is not here any more; make it again.", code: "no_frame")
            end

            send_file path,
              type: "video/mp4",
              disposition: "attachment",
              filename: "#{params["title"].to_s[/\A[\w -]{1,60}\z/] || "view"}.mp4"
          end

          # What made an export in the data folder, against the shot as it stands.
          app.get("/api/shots/:id/exports/:name/differences") do
            shot = workshop.shots.fetch(params["id"])[:id]
            answer(
              differences:
                Studio::Differences.between(
                  workshop.shots.document(shot), workshop.exports.document(shot, params["name"])
                )
            )
          end

          app.post("/api/shots/:id/exports/:name/bring_back") do
            asked = json_body
            taken_back(asked) do
              workshop.exports.bring_back(workshop.shots.fetch(params["id"])[:id], params["name"], by: by)
            end
          end

          # All that is not as it comes, in the whole shot.
          app.get("/api/shots/:id/set") do
            answer(differences: Studio::Differences.set(workshop.shots.document(params["id"])))
          end

          # The tree of what was tried.
          app.get("/api/shots/:id/history") { answer(workshop.history.of(params["id"])) }

          app.get("/api/shots/:id/history/:number/differences") do
            answer(differences: workshop.history.differences(params["id"], point_number))
          end

          # Goes to a point of it.
          app.post("/api/shots/:id/history/:number/go") do
            asked = json_body
            moved(asked, workshop.shots.go_to(params["id"], point_number, by: by))
          end
        end

        def self.runs(app)
          app.get("/api/shots/:id/runs") do
            answer(runs: workshop.past_runs.list(workshop.shots.fetch(params["id"])[:id]))
          end

          app.get("/api/shots/:id/runs/:number/frames") do
            answer(rows: workshop.past_runs.rows(params["id"], run_number))
          end

          # Asks for its frames to be lit for the view, from a frame on.
          app.post("/api/shots/:id/runs/:number/light") do
            asked = json_body
            row = workshop.past_runs.fetch(params["id"], run_number)
            job =
              workshop.jobs.add(
                "light", row[:shot_id],
                {run: row[:number], quality: row[:quality], frame: number(asked["frame"] || 0, "The frame")},
                background: true
              )
            answer({job: job}, 202)
          end

          app.get("/api/shots/:id/runs/:number.png") do
            row = workshop.past_runs.fetch(params["id"], run_number)
            path = workshop.past_runs.picture(row)
            unless File.file?(path)
              raise Refused.new("Run #{row[:number]} has no picture; it did not come to its end.", code: "no_frame")
            end

            cache_control :private, :no_cache
            send_file path, type: "image/png"
          end

          app.get("/api/shots/:id/runs/:number/differences") do
            other = params["other"] && number(params["other"], "The other run")
            answer(differences: workshop.past_runs.differences(params["id"], run_number, other))
          end

          app.post("/api/shots/:id/runs/:number/bring_back") do
            asked = json_body
            taken_back(asked) { workshop.past_runs.bring_back(params["id"], run_number, rows: asked["rows"], by: by) }
          end

          app.delete("/api/shots/:id/runs/:number") do
            answer(given: workshop.past_runs.take_away(params["id"], run_number))
          end
        end

        def self.caches(app)
          # Runs that are kept, of all shots or of ?shot=.
          app.get("/api/caches") { answer(caches: workshop.caches.list(params["shot"])) }

          app.post("/api/shots/:id/runs/:number/keep") do
            answer(workshop.caches.keep_run(params["id"], run_number, json_body["name"]), 201)
          end

          # Keeps variations of a test strip: {"cells": [0, 3]}.
          app.post("/api/shots/:id/strips/:number/keep") do
            answer({caches: workshop.caches.keep_cells(params["id"], strip_number, json_body["cells"])}, 201)
          end

          # Hands several on in one go, each in a folder of its own.
          app.post("/api/caches/exports") do
            answer({jobs: workshop.caches.export(json_body["caches"], json_body["as"] || "vdb")}, 202)
          end

          # The edits that place one in a shot.
          app.get("/api/caches/:digest/placing") { answer(edits: workshop.caches.placing(params["digest"])) }

          # Names one, or says something of it.
          app.post("/api/caches/:digest") do
            answer(workshop.caches.tell(params["digest"], **json_body.slice("name", "note").transform_keys(&:to_sym)))
          end

          app.delete("/api/caches/:digest") { answer(given: workshop.caches.let_go(params["digest"])) }
        end
        private_class_method :runs, :caches
      end
    end
  end
end
