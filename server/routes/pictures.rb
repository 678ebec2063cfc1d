# frozen_string_literal: true

module Vumbral
  module Server
    module Routes
      # Prints and exports.
      module Pictures
        def self.registered(app)
          app.get("/api/shots/:id/prints") do
            answer(prints: workshop.prints.list(workshop.shots.fetch(params["id"])[:id]))
          end

          app.post("/api/shots/:id/prints") do
            asked = json_body
            job = workshop.prints.take(params["id"], number(asked["frame"], "The frame"),
              size: size_given(asked["size"]))
            answer({job: job}, 202)
          end

          app.get("/api/shots/:id/prints/:number.png") do
            row = workshop.prints.fetch(params["id"], number(params["number"], "The print"))
            forever(workshop.prints.path(row[:shot_id], row[:number]), "image/png")
          end

          app.get("/api/shots/:id/prints/:number/differences") do
            other = params["other"] && number(params["other"], "The other print")
            answer(differences: workshop.prints.differences(params["id"], number(params["number"], "The print"), other))
          end

          app.post("/api/shots/:id/prints/:number/bring_back") do
            asked = json_body
            workshop.prints.bring_back(params["id"], number(params["number"], "The print"), rows: asked["rows"], by: by)
            workshop.runs.follow(params["id"]) if asked["follow"]
            answer(shot_answer(params["id"]))
          end

          # What somebody says of it: {"starred": true}, {"name": "…"}, {"note": "…"}.
          app.post("/api/shots/:id/prints/:number") do
            answer(workshop.prints.say(params["id"], number(params["number"], "The print"), json_body))
          end

          app.delete("/api/shots/:id/prints/:number") do
            answer(taken_away: workshop.prints.take_away(params["id"], number(params["number"], "The print"))[:number])
          end

          app.post("/api/shots/:id/prints/:number/put_back") do
            answer(put_back: workshop.prints.put_back(params["id"], number(params["number"], "The print"))[:number])
          end

          # Takes a print apart by what lights it, and tells what there is.
          app.post("/api/shots/:id/prints/:number/apart") do
            shot, print = workshop.shots.fetch(params["id"])[:id], number(params["number"], "The print")
            job = workshop.balances.ask(shot, print)
            await(job, "The print is still being taken apart; ask again in a while.") if job
            answer(names: workshop.balances.names(shot, print))
          end

          # A print with each of its lights brighter or of another colour.
          app.post("/api/shots/:id/prints/:number/balanced") do
            content_type "image/jpeg"
            workshop.balances.picture(
              workshop.shots.fetch(params["id"])[:id], number(params["number"], "The print"), json_body["gains"]
            )
          end

          # The light at a place of it, 0 to 1 across and down, before the film, and what each light adds to that.
          app.get("/api/shots/:id/prints/:number/light") do
            x, y =
              %w[x y].map do |name|
                Float(params[name], exception: false) ||
                  raise(Refused.new("A place is told by x and y, from 0 to 1.", code: "bad_value"))
              end
            answer(
              workshop.balances.light(
                workshop.shots.fetch(params["id"])[:id], number(params["number"], "The print"), x, y
              )
            )
          end

          # Puts such a balance into the shot.
          app.post("/api/shots/:id/prints/:number/balance") do
            workshop.balances.apply(params["id"], number(params["number"], "The print"), json_body["gains"], by: by)
            answer(shot_answer(params["id"]))
          end

          # What a texture looks like, four of its features wide.
          app.get("/api/shots/:id/textures/:node.png") do
            frame = params["frame"] && number(params["frame"], "The frame")
            content_type "image/png"
            cache_control :private, :no_cache
            workshop.swatches.texture(workshop.shots.document(params["id"]), params["node"], frame)
          end

          # What a sculpt is after a step, or what it begins with.
          app.get("/api/shots/:id/steps/:node.png") do
            document = workshop.shots.document(params["id"])
            found =
              workshop.swatches.step(
                document, params["node"], params["frame"] ? number(params["frame"], "The frame") : document.first_frame
              )
            if found.is_a?(Hash)
              found =
                JSON.parse(
                  await(
                    workshop.jobs.add("sketch", nil, found), "The picture is still being made; ask again in a while."
                  )[
                    :result
                  ]
                )[
                  "path"
                ]
            end
            content_type "image/png"
            cache_control :private, :no_cache
            File.binread(found)
          end

          # How often values come up before a step, which its curve goes over.
          app.get("/api/shots/:id/steps/:node/values") do
            document = workshop.shots.document(params["id"])
            asked =
              workshop.swatches.values(
                document, params["node"], params["frame"] ? number(params["frame"], "The frame") : document.first_frame
              )
            answer(
              JSON.parse(
                await(
                  workshop.jobs.add("sketch", nil, asked), "The values are still being counted; ask again in a while."
                )[
                  :result
                ]
              )
            )
          end

          # A picture to look at, through the view's own eye.
          app.post("/api/shots/:id/glances") do
            asked = json_body
            shot = workshop.shots.fetch(params["id"])[:id]
            found =
              workshop.glances.ask(
                shot, number(asked["frame"], "The frame"), size_given(asked["size"]), asked["eye"], asked["crop"],
                shown: asked.slice("key").then { |shown| shown unless shown.empty? }
              )
            name = found.is_a?(String) ? found : JSON.parse(await(found, "The picture is still being made; ask again in a while.")[:result])["name"]
            forever(workshop.glances.path(shot, name), "image/png")
          end

          # What is another at a frame of what a view is told of light, look and film.
          app.get("/api/shots/:id/scenes/:frame") do
            document = workshop.shots.document(params["id"])
            first = Picture::Renderer.scene(document, document.first_frame, workshop.assets)
            answer(scene: Picture::SceneCourse.at(document, number(params["frame"], "The frame"), first, workshop.assets))
          end

          # The name of a frame's fogs and beams as the view draws them, or nothing.
          app.post("/api/shots/:id/fogs") do
            shot = workshop.shots.fetch(params["id"])[:id]
            found = workshop.fog_views.ask(shot, number(json_body["frame"], "The frame"))
            if found.is_a?(Integer)
              found =
                JSON.parse(await(found, "The fog is still being lit; ask again in a while.")[:result])[
                  "name"
                ]
            end
            answer(name: found)
          end

          app.get("/api/fogs/:name") do
            forever(workshop.fog_views.path(params["name"]), "application/octet-stream", encoding: "gzip")
          end

          # The exposure that a frame asks for, in stops.
          app.post("/api/shots/:id/meter") do
            shot = workshop.shots.fetch(params["id"])[:id]
            frame = number(json_body["frame"], "The frame")
            workshop.runs.best(shot, frame)
            job = workshop.jobs.add("meter", shot, {frame: frame})
            answer(JSON.parse(await(job, "The light is still being measured; ask again in a while.")[:result]))
          end

          # A contact sheet of several frames.
          app.post("/api/shots/:id/sheets") do
            asked = json_body
            answer({job: workshop.sheets.start(params["id"], asked["frames"], size: size_given(asked["size"]))}, 202)
          end

          app.get("/api/shots/:id/sheets/:name.png") do
            forever(workshop.sheets.path(workshop.shots.fetch(params["id"])[:id], params["name"]), "image/png")
          end

          # The small moving picture of the shot as it stands: its name, or the job that makes it.
          app.post("/api/shots/:id/reels") { answer(workshop.reels.start(params["id"]), 202) }

          app.get("/api/shots/:id/reels/:name.webp") do
            forever(workshop.reels.path(workshop.shots.fetch(params["id"])[:id], params["name"]), "image/webp")
          end

          app.get("/api/shots/:id/exports") do
            answer(exports: workshop.exports.list(workshop.shots.fetch(params["id"])[:id]))
          end

          app.post("/api/shots/:id/exports") do
            asked = json_body
            next answer({job: workshop.exports.start_saved(params["id"], asked["saved"].to_s)}, 202) if asked["saved"]

            job =
              workshop.exports.start(
                params["id"], asked["as"].to_s, frames: frames_given(asked["frames"]), size: size_given(asked["size"]),
                passes: asked["passes"] || [], props: asked["props"] || [], finish: asked["finish"] != false
              )
            answer({job: job}, 202)
          end

          app.get("/api/shots/:id/exports/:name/:file") do
            path = workshop.exports.folder(workshop.shots.fetch(params["id"])[:id], params["name"], params["file"])
            raise Refused.new("There is no such exported file.", code: "unknown_export") unless File.file?(path)

            send_file path, disposition: "attachment", filename: params["file"]
          end
        end
      end
    end
  end
end
