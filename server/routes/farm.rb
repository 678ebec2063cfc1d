# frozen_string_literal: true

require "digest"

module Vumbral
  module Server
    module Routes
      # Other machines: their workers ask for jobs and files, say how far they are, and send what they made.
      module Farm
        # Sums of files that were sent before.
        SUMS = 4096

        def self.registered(app)
          app.helpers Helpers
          app.set :farm_sums, {}

          # A worker that begins: "id", "name", "cores", "memory", "speed", "version". Told the home's id, and where
          # calls come from.
          app.post("/api/farm/machines") do
            asked = json_body
            Studio::Farm::Version.check(asked["version"])
            row = workshop.machines.welcome(asked)
            answer(
              {
                machine: row[:id], home: workshop.home.id, redis: !workshop.tickets.nil?,
                lanes: Studio::Farm::Tickets::LANES
              },
              201
            )
          end

          app.get("/api/machines") do
            answer(
              machines: workshop.machines.list, twice: workshop.foreman.share_twice,
              engine: workshop.tickets ? "redis" : "own", trouble: workshop.tickets&.trouble
            )
          end

          # The share of work that is made twice and compared.
          app.post("/api/machines") do
            workshop.foreman.twice = json_body["twice"]
            answer(twice: workshop.foreman.share_twice)
          end

          {pause: :pause, "go-on": :go_on}.each do |word, verb|
            app.post("/api/machines/:id/#{word}") do
              workshop.machines.public_send(verb, params["id"])
              answer(machines: workshop.machines.list)
            end
          end

          app.delete("/api/machines/:id") do
            workshop.machines.let_go(params["id"])
            answer(machines: workshop.machines.list)
          end

          # A job, or nothing: "version", "lanes".
          app.post("/api/farm/claim") do
            asked = json_body
            parcel = workshop.foreman.give(machine, asked["version"], Array(asked["lanes"]).map(&:to_s))
            parcel ? answer(parcel) : halt(204)
          end

          app.post("/api/farm/jobs/:id/sign") do
            asked = json_body.slice("done", "total", "note", "from_here").transform_keys(&:to_sym)
            answer(workshop.foreman.sign(job_number, machine, **asked))
          end

          app.put("/api/farm/jobs/:id/files/*") do
            at, size = %w[at size].map { |name| number(params[name], "What is sent says #{name}, which") }
            check_length(Studio::Farm::Foreman::PIECE, "A piece of a file")
            answer(
              workshop.foreman.take(
                job_number, machine, params["splat"].first, raw_body, at: at, size: size, sum: params["sum"].to_s
              )
            )
          end

          app.post("/api/farm/jobs/:id/frames") do
            asked = json_body
            workshop.foreman.note_frame(job_number, machine, asked["key"], asked["facts"].to_h)
            answer({})
          end

          app.post("/api/farm/jobs/:id/events") do
            asked = json_body
            workshop.foreman.tell(job_number, machine, asked["kind"].to_s, asked["data"].to_h)
            answer({})
          end

          app.post("/api/farm/jobs/:id/finish") do
            asked = json_body
            workshop.foreman.finish(job_number, machine, asked["result"].to_h, asked["seconds"].to_f)
            answer({})
          end

          app.post("/api/farm/jobs/:id/fail") do
            asked = json_body
            workshop.foreman.fail(job_number, machine, asked["message"].to_s[0, 500], asked["code"].to_s[0, 40])
            answer({})
          end

          app.post("/api/farm/jobs/:id/give_back") do
            workshop.foreman.give_back(job_number, machine, cancelled: json_body["cancelled"] == true)
            answer({})
          end

          # A file of the data folder, whole or from where it was cut off.
          app.get("/api/farm/files/*") do
            path = readable(params["splat"].first)
            halt 404 unless File.file?(path)

            headers "x-vumbral-sum" => sum(path) unless request.head?
            send_file path, type: "application/octet-stream", disposition: nil
          end

          # The first file of a ?folder= whose name begins with ?start=.
          app.get("/api/farm/like") do
            folder = readable("#{params["folder"]}/x").delete_suffix("/x")
            start =
              params["start"].to_s[/\A[\w.-]{1,60}\z/] ||
              raise(Refused.new("A name begins with letters or digits.", code: "bad_path"))
            found = workshop.home.like(folder, "#{start}*")
            found ? answer(name: found.delete_prefix("#{workshop.home.path}/")) : halt(204)
          end

          app.get("/api/farm/rows/assets/:digest") do
            row = workshop.assets.row(params["digest"])
            if row
              answer(row)
            else
              halt(
                404, {"content-type" => "application/json"},
                JSON.generate(error: "It is not here.", code: "unknown_mesh")
              )
            end
          end
        end

        # What these routes read.
        module Helpers
          def machine = request.get_header("HTTP_X_VUMBRAL_MACHINE").to_s[0, 60]

          def job_number = number(params["id"], "The job")

          # @raise [Refused] for what is no worker's business
          def readable(name)
            folder = name.to_s[%r{\A[^/]+}]
            unless Studio::Farm::Outputs::READ.include?(folder)
              raise Refused.new("There is no file #{name.to_s[0, 60].inspect} for workers.", code: "bad_path")
            end

            workshop.home.within(name)
          end

          # @return [String] SHA-256 of a file, hexadecimal, remembered while it stays as it is
          def sum(path)
            stamp = File.stat(path).then { |stat| [path, stat.size, stat.mtime.to_f] }
            sums = settings.farm_sums
            sums.shift if sums.size > SUMS
            sums[stamp] ||= Digest::SHA256.file(path).hexdigest
          end
        end
      end
    end
  end
end
