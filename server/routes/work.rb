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
