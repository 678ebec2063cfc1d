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
            answer(
              {
                job:
                  workshop.sightings.find(
                    params["id"], asked["layer"].to_s, number(asked["frame"], "A frame"),
                    number(asked["count"], "How many spots"), by: by
                  )
              },
              202
            )
          end

          # Takes the camera from spots: "from" (a frame), "how" ("free" or "tripod"), "zooms".
          app.post("/api/shots/:id/sighting") do
            asked = json_body
            answer(
              {
                job:
                  workshop.sightings.solve(
                    params["id"], number(asked["from"], "A frame"), asked["how"], zooms: asked["zooms"] == true, by: by
                  )
              },
              202
            )
          end

          # Puts a prop where its tracked spots are.
          app.post("/api/shots/:id/pins/:node") do
            answer({job: workshop.tracking.pin(params["id"], params["node"], by: by)}, 202)
          end

          # What a layer's effects make of colours, as a .cube file; what is not in it is told in a header.
          app.get("/api/shots/:id/tables/:layer") do
            document = workshop.shots.document(params["id"])
            text, others =
              workshop.finishing.table(
                document, params["layer"],
                number(Integer(params["frame"] || document.first_frame, exception: false), "The frame")
              )
            content_type "text/plain"
            headers "X-Left-Out" => others.join(", ")
            attachment "#{document.name} #{document.node(params["layer"]).name}.cube"
            text
          end

          # Sets a grain effect as grainy as the plate is at a frame.
          app.post("/api/shots/:id/grain/:effect") do
            document = workshop.shots.document(params["id"])
            node = document.node(params["effect"])
            unless node.kind.name == :effect && node[:what] == "grain"
              raise Refused.new("#{node.name} is no grain.", code: "bad_edit")
            end

            found = workshop.finishing.grain(document, number(json_body["frame"], "The frame"))
            dials = {"amount" => found.amount, "grain_size" => found.size, "coloured" => found.coloured}
            edits =
              dials.map do |dial, value|
                {
                  "do" => "set",
                  "node" => node.id,
                  "dial" => dial,
                  "value" =>
                    node.kind.dial(dial, node.name).range.then { |range| value.clamp(range.begin, range.end) }.round(4)
                }
              end
            workshop.shots.step(params["id"], edits, "Grain as the plate has it", by: by)
            answer(shot_answer(params["id"]))
          end

          # The light of a pixel of the finished frame: "frame", "size", "x" and "y" (0 to 1 from the left and the top).
          app.post("/api/shots/:id/finished/pixel") do
            asked = json_body
            size = look_size(asked["size"])
            place = asked.values_at("x", "y")
            unless place.all? { |c| c.is_a?(Numeric) && c.between?(0, 1) }
              raise Refused.new(
                "A pixel is told by how far it is from the left and from the top, 0 to 1.", code: "bad_value"
              )
            end

            image = looked(params["id"], asked, size)[1]
            x, y = place.zip(size).map { |part, edge| (part * edge).floor.clamp(0, edge - 1) }
            answer(light: (0..3).map { |c| image[y, x, c].round(6) })
          end

          # What lies below the shot's own picture at a frame: "frame" and "size".
          app.post("/api/shots/:id/behind") do
            asked = json_body
            size = look_size(asked["size"])
            shot = workshop.shots.fetch(params["id"])[:id]
            document = workshop.shots.document(shot)
            frame = number(asked["frame"], "The frame").clamp(document.first_frame, document.last_frame)
            pixels = workshop.finishing.behind(Studio::Rushes.build(workshop, shot, document, []), frame, size)
            content_type "image/jpeg"
            cache_control :private, :no_store
            Studio::Pixels.jpeg(pixels)
          end

          # A frame with all layers, to look at: "frame", "size" and perhaps "edits" that are not kept, and the "part"
          # that is wanted in full (left, top, right and bottom, 0 to 1), while the rest comes coarsely.
          app.post("/api/shots/:id/finished") do
            asked = json_body
            size = look_size(asked["size"])
            document, image, frame = looked(params["id"], asked, size)
            content_type "image/jpeg"
            cache_control :private, :no_store
            Studio::Pixels.jpeg(workshop.finishing.developed(document, frame, image))
          end
        end
      end
    end
  end
end
