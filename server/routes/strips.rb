# frozen_string_literal: true

module Vumbral
  module Server
    module Routes
      # Test strips: variations of a shot, run and looked at together.
      module Strips
        # What its routes ask of a request.
        module Asked
          def strip_number = number(params["number"], "The test strip")

          # @raise [Refused]
          def quality_given(asked)
            quality = (asked["quality"] || "draft").to_s
            return quality if Studio::Runs::QUALITIES.include?(quality)

            raise Refused.new("A test strip is run as #{Studio::Runs::QUALITIES.join(" or ")}.", code: "bad_value")
          end
        end

        def self.registered(app)
          app.helpers Asked

          app.get("/api/shots/:id/strips") do
            answer(strips: workshop.strips.list(workshop.shots.fetch(params["id"])[:id]))
          end

          app.post("/api/shots/:id/strips") do
            asked = json_body
            row =
              workshop.strips.start(
                params["id"], asked["dials"], quality: quality_given(asked), sure: asked["sure"] == true
              )
            answer({strip: row[:number], job: row[:job_id]}, 202)
          end

          # What one would cost; nothing is begun.
          app.post("/api/shots/:id/strips/forecast") do
            asked = json_body
            answer(workshop.strips.forecast(params["id"], asked["dials"], quality: quality_given(asked)))
          end

          app.get("/api/shots/:id/strips/:number") do
            answer(workshop.strips.show(params["id"], strip_number, from: params["from"].to_i))
          end

          # The light, the camera and the film of a variation.
          app.get("/api/shots/:id/strips/:number/scenes/:cell") do
            row = workshop.strips.fetch(params["id"], strip_number)
            document = workshop.strips.document(row, number(params["cell"], "The variation"))
            answer(scene: Picture::Renderer.scene(document, document.first_frame, workshop.assets))
          end

          # Marks a variation or drops it: {"cell": 3, "marked": true} or {"cell": 3, "dropped": true}.
          app.post("/api/shots/:id/strips/:number/notes") do
            asked = json_body
            what =
              %w[marked dropped].find { |name| asked.key?(name) } ||
              raise(Refused.new("Say whether the variation is marked or dropped.", code: "bad_value"))
            answer(
              workshop.strips.note(
                params["id"], strip_number, number(asked["cell"], "The variation"), what.to_sym, asked[what] == true
              )
            )
          end

          # A sheet of all of them at a frame, as a picture.
          app.post("/api/shots/:id/strips/:number/sheets") do
            job = workshop.strips.sheet(params["id"], strip_number, number(json_body["frame"], "The frame"))
            answer({job: job}, 202)
          end

          app.delete("/api/shots/:id/strips/:number") do
            workshop.strips.take_away(params["id"], strip_number)
            answer({})
          end
        end
      end
    end
  end
end
