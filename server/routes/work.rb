# frozen_string_literal: true

module Vumbral
  module Server
    module Routes
      # Jobs, and the stream of what happens.
      module Work
        def self.registered(app)
          app.get("/api/jobs/:id") { answer(workshop.jobs.show(workshop.jobs.fetch(number(params["id"], "The job")))) }

          app.post("/api/jobs/:id/cancel") do
            answer(workshop.jobs.show(workshop.jobs.cancel(number(params["id"], "The job"))))
          end

          # Comes first of what waits; is held back; goes on; is done once more.
          {first: :first, hold: :hold, "go-on": :go_on, again: :again}.each do |word, verb|
            app.post("/api/jobs/:id/#{word}") do
              answer(workshop.jobs.show(workshop.queue.public_send(verb, number(params["id"], "The job"))))
            end
          end

          # All work: what goes on and waits, in its order, then what has ended.
          app.get("/api/queue") { answer(jobs: workshop.queue.list) }

          # What the data folder holds, how much frames may take, and what is free.
          app.get("/api/room") { answer(workshop.room.of) }

          # "limit": bytes that frames may take, or null.
          app.post("/api/room") do
            limit = json_body["limit"]
            workshop.room.limit = limit && number(limit, "The limit")
            given = workshop.room.keep_within
            answer(workshop.room.of.merge(given: given))
          end

          # Gives room back: what can be made again by its name, or "stale".
          app.delete("/api/room/:what") do
            workshop.room.clear(params["what"]).then { |given| answer(workshop.room.of.merge(given: given)) }
          end

          # Presets, perhaps only ?kind=; one as a file; one of a file (its body); one of a node ("shot", "node",
          # "name").
          app.get("/api/presets") { answer(presets: workshop.presets.list(params["kind"])) }

          app.get("/api/presets/:id") do
            text = workshop.presets.text(params["id"])
            attachment "#{JSON.parse(text)["name"].gsub(/[^\w -]+/, "_")}.preset.json"
            content_type "application/json"
            text
          end

          app.get("/api/presets/:id/picture.jpg") do
            content_type "image/jpeg"
            cache_control :private, :no_cache
            workshop.presets.picture(params["id"])
          end

          app.post("/api/presets/files") do
            answer(workshop.presets.bring(raw_body, File.basename(params["name"].to_s)[0, 80]), 201)
          end

          app.post("/api/presets") do
            asked = json_body
            answer(
              workshop.presets.keep(asked["shot"].to_s, asked["node"].to_s, asked["name"], picture: asked["picture"]),
              201
            )
          end

          app.delete("/api/presets/:id") do
            workshop.presets.let_go(params["id"])
            answer(presets: workshop.presets.list)
          end

          # Gives a node the dials of a preset.
          app.post("/api/shots/:id/nodes/:node/preset") do
            workshop.presets.apply(params["id"], params["node"], json_body["preset"], by: by)
            answer(shot_answer(params["id"]))
          end

          # The newest jobs, ended or not.
          app.get("/api/jobs") { answer(jobs: workshop.jobs.recent.map { |job| workshop.jobs.show(job) }) }

          # Server-sent events: `revision`, `frame`, `lit`, `job`, `print`, `shots`, `trouble`, each with JSON.
          app.get("/api/events") do
            since = request.env["HTTP_LAST_EVENT_ID"] || params["since"]
            since &&= number(since, "since")
            hijack = request.env["rack.hijack"]
            raise Refused.new("This server cannot keep a connection open.", code: "no_stream") unless hijack

            broadcast.listen(hijack.call, since)
            halt 200
          end
        end
      end
    end
  end
end
