# frozen_string_literal: true

module Vumbral
  module Server
    module Routes
      # Plates, look-up tables, and frames with all layers of the finish.
      module Finish
        def self.registered(app)
          app.get("/api/plates") { answer(plates: workshop.assets.list("plate")) }

          # Reads files that were kept (POST /api/files): a movie, a picture or a numbered sequence of pictures.
          app.post("/api/plates") { answer(read(files_given, "plate"), 201) }

          app.get("/api/tables") { answer(tables: workshop.assets.list("table")) }

          # A look-up table: a .cube file is the body, its name ?name=.
          app.post("/api/tables") { answer(bring("table"), 201) }

          # Follows a tracked spot from a frame on to another, before or behind it; what is found becomes its keys.
          app.post("/api/shots/:id/tracks/:node") do
            asked = json_body
            from, to = %w[from to].map { |name| number(asked[name], "A frame") }
            answer({job: workshop.tracking.start(params["id"], params["node"], from, to, by: by)}, 202)
          end

          # Evens what was found, over so many frames.
          app.post("/api/shots/:id/tracks/:node/smooth") do
            workshop.tracking.smooth(params["id"], params["node"], json_body["frames"] || 1.5, by: by)
            answer(shot_answer(params["id"]))
          end

          # Finds spots in a layer's picture at a frame and follows them: "layer", "frame", "count".
          app.post("/api/shots/:id/spots") do
            asked = json_body
            answer({job: workshop.sightings.find(params["id"], asked["layer"].to_s, number(asked["frame"], "A frame"), number(asked["count"], "How many spots"), by: by)}, 202)
          end

          # Takes the camera from spots: "from" (a frame), "how" ("free" or "tripod"), "zooms".
          app.post("/api/shots/:id/sighting") do
            asked = json_body
            answer({job: workshop.sightings.solve(params["id"], number(asked["from"], "A frame"), asked["how"], zooms: asked["zooms"] == true, by: by)}, 202)
          end

          # Puts a prop where its tracked spots are.
          app.post("/api/shots/:id/pins/:node") { answer({job: workshop.tracking.pin(params["id"], params["node"], by: by)}, 202) }

          # A frame with all layers, to look at: "frame", "size" and perhaps "edits" that are not kept.
          app.post("/api/shots/:id/finished") do
            asked = json_body
            shot = workshop.shots.fetch(params["id"])[:id]
            document = followed(shot, asked["edits"])
            frame = number(asked["frame"], "The frame").clamp(document.first_frame, document.last_frame)
            size = size_given(asked["size"])
            raise Refused.new("A picture to look at has 16 to 2048 pixels each way.", code: "out_of_range") unless size&.all? { |n| n.between?(16, 2048) }

            finish = workshop.finishing
            rushes = Studio::Rushes.of(workshop, shot, document, [frame], quiet: true)
            finish.missing(rushes, frame, size).map { |payload| workshop.jobs.add("element", shot, payload) }
              .each { |job| await(job, "The picture is still being made; ask again in a while.") }
            image = finish.look(rushes, frame, size)
            content_type "image/jpeg"
            cache_control :private, :no_store
            Studio::Pixels.jpeg(finish.developed(document, frame, image))
          end
        end
      end
    end
  end
end
