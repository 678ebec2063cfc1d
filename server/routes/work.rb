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

          # Server-sent events: `revision`, `frame`, `lit`, `job`, `print`, `shots`, each with JSON.
          app.get("/api/events") do
            since = request.env["HTTP_LAST_EVENT_ID"] || params["since"]
            halt 200, {"content-type" => "text/event-stream", "cache-control" => "no-store", "x-accel-buffering" => "no"},
              broadcast.listen(since && number(since, "since"))
          end
        end
      end
    end
  end
end
