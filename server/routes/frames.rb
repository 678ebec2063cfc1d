# frozen_string_literal: true

module Vumbral
  module Server
    module Routes
      # Runs and their frames.
      module Frames
        def self.registered(app)
          app.post("/api/shots/:id/runs") do
            asked = json_body
            run = workshop.runs.start(params["id"], asked["quality"] || "draft", frames: frames_given(asked["frames"]))
            answer({run: run[:number], job: run[:job_id], cells: run[:cells]}, 202)
          end

          app.get("/api/shots/:id/frames") { answer(workshop.runs.state(params["id"], params["quality"] || "draft")) }

          # Asks for frames to be lit for the view, from one frame on.
          app.post("/api/shots/:id/light") do
            asked = json_body
            shot = workshop.shots.fetch(params["id"])[:id]
            workshop.jobs.cancel_of(shot, kind: "light")
            # Many frames of it may take long, so that it makes way for what is waited for.
            job = workshop.jobs.add("light", shot, {quality: asked["quality"].to_s,
              frame: number(asked["frame"] || 0, "The frame")}, background: true)
            answer({job: job}, 202)
          end

          # One quantity of a frame for the view: fuel, speed, pressure, divergence, temperature, smoke.
          app.get("/api/shots/:id/channels/:key/:name") do
            ambient = workshop.shots.document(params["id"]).the(:chamber)[:ambient]
            cache_control :private, max_age: 86_400
            content_type "application/octet-stream"
            workshop.views.channel(params["key"], params["name"], ambient)
          end

          # How often each density, temperature or fuel is met in a frame.
          app.get("/api/shots/:id/histograms/:key/:name") do
            ambient = workshop.shots.document(params["id"]).the(:chamber)[:ambient]
            cache_control :private, max_age: 86_400
            answer(workshop.views.histogram(params["key"], params["name"], ambient))
          end

          # Sparks of a frame: f32, ten numbers each.
          app.get("/api/shots/:id/sparks/:frame") do
            content_type "application/octet-stream"
            workshop.glimpses.sparks(params["id"], number(params["frame"], "The frame"))
          end

          # How strong a front, a map, or what has maps is at each corner of a prop's triangles: a byte each.
          app.get("/api/shots/:id/strengths/:node/:frame") do
            content_type "application/octet-stream"
            workshop.strengths.bytes(
              params["id"], params["node"], number(params["frame"], "The frame"), params["prop"].to_s
            )
          end

          # A draft while a dial is under the hand: edits that are not kept, or nothing where nothing is run by them.
          app.post("/api/shots/:id/live") do
            begun = workshop.live_draft.start(params["id"], json_body["edits"])
            halt 204 unless begun
            answer(begun, 202)
          end

          app.delete("/api/shots/:id/live") do
            workshop.live_draft.finish(params["id"])
            answer({})
          end

          # What a frame looks like while a dial is under the hand: edits that are not kept. The volume as above, with
          # "liquid" (the name of the frame of it that is seen) its surface as below, or nothing.
          app.post("/api/shots/:id/follow") do
            asked = json_body
            of = [workshop.shots.fetch(params["id"])[:id], number(asked["frame"], "The frame"), asked["quality"].to_s]
            bytes =
              if asked["liquid"]
                workshop
                  .following
                  .surface(*of, asked["liquid"].to_s, asked["edits"])
                  &.then { |mesh| workshop.liquids.encoded(mesh) }
              else
                workshop.following.volume(*of, asked["key"], asked["edits"])
              end
            halt 204 unless bytes
            content_type "application/octet-stream"
            bytes
          end

          # The surface of a liquid's frame: points and triangles (counts u32; f32 three each; i32 three each; a colour
          # of each point, f32, where there are any). With ?altered= as
          # operations leave it, which is made when it is asked for.
          app.get("/api/liquids/:key") do
            least = params["least"].to_f.clamp(0.0, 1.0)
            if params["altered"]
              of = [params["key"], least, params["altered"]]
              found =
                workshop.liquids.altered(*of) ||
                JSON.parse(
                  await(
                    workshop.jobs.add("surface", nil, %i[key least alteration].zip(of).to_h),
                    "The surface is still being made; look again in a while."
                  )[
                    :result
                  ]
                )[
                  "path"
                ]
              halt forever(found, "application/octet-stream")
            end

            cache_control :private, :immutable, max_age: 31_536_000
            content_type "application/octet-stream"
            workshop.liquids.shape(params["key"], least)
          end

          # Particles that a liquid's frame keeps: f32, ten numbers each (place, speed, age, number, kind, pressure).
          app.get("/api/liquids/:key/drops") do
            cache_control :private, :immutable, max_age: 31_536_000
            content_type "application/octet-stream"
            workshop.liquids.points(params["key"]).bytes
          end

          # How many of a liquid's particles a kick would catch, in draft.
          # Where a lamp stands and what it sees at ?frame=, to look from it.
          app.get("/api/shots/:id/lamps/:node/outlook") do
            document = workshop.shots.document(params["id"])
            node = document.node(params["node"])
            raise Refused.new("#{node.name} is no lamp to look from.", code: "bad_value") unless node.kind.name == :lamp

            answer(
              Light::Lamps.outlook(
                document, node,
                Integer(params["frame"] || document.first_frame, exception: false) || document.first_frame
              )
            )
          end

          app.get("/api/shots/:id/kicks/:node") do
            answer(workshop.liquids.caught(workshop.shots.document(params["id"]), params["node"]))
          end

          app.get("/api/volumes/:key/:light") do
            forever(workshop.views.path(params["key"], params["light"]), "application/octet-stream", encoding: "gzip")
          end
        end
      end
    end
  end
end
