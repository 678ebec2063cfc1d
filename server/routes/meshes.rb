# frozen_string_literal: true

module Vumbral
  module Server
    module Routes
      # Meshes that are brought in, and shapes for the view.
      module Meshes
        def self.registered(app)
          app.get("/api/meshes") { answer(meshes: workshop.assets.list) }

          # The file is the body; its name comes as ?name=.
          app.post("/api/meshes") { answer(bring("mesh"), 201) }

          # Keeps one of several files that belong together: the file is the body, its name ?name=.
          app.post("/api/files") { answer(keep_file, 201) }

          # Reads files that were kept: a mesh with what belongs to it, or a numbered sequence.
          app.post("/api/meshes/together") do
            asked = json_body
            rate = asked["rate"].is_a?(Numeric) ? asked["rate"].to_f.clamp(1.0, 240.0) : 24.0
            answer(read(files_given(asked), "mesh", rate: rate), 201)
          end

          # Puts a mesh that was brought into a shot: unit, up, apart, others and place, see Studio::Arrivals.
          app.post("/api/shots/:id/arrivals") do
            asked = json_body
            place = asked["place"]
            if place && !(place.is_a?(Array) && place.size == 3 && place.all?(Numeric))
              raise Refused.new("A place is three numbers.", code: "bad_value")
            end

            known =
              {unit: Geometry::Shapes::UNITS.keys, up: %w[y z]}.map do |key, words|
                [key, words.include?(asked[key.to_s]) ? asked[key.to_s] : words[0]]
              end
                .to_h
            step =
              workshop.arrivals.call(
                params["id"], asked["mesh"].to_s, **known, apart: asked["apart"] == true,
                others: asked["others"] == true, place: place, by: by
              )
            answer(shot_answer(params["id"]).merge(props: step[:props]), 201)
          end

          # Fits the chamber: {"to": "prop", "node"}, "sources" or "run".
          app.post("/api/shots/:id/fit") do
            asked = json_body
            workshop.fitting.call(params["id"], asked["to"].to_s, node: asked["node"], by: by)
            workshop.runs.follow(params["id"]) if asked["follow"]
            answer(shot_answer(params["id"]))
          end

          # Brings things in line: {"nodes": [ID], "frame": F, "axis": "x", "way": "low"}.
          app.post("/api/shots/:id/align") do
            asked = json_body
            workshop.placing.align(
              params["id"], asked["nodes"], number(asked["frame"], "The frame"), asked["axis"], asked["way"], by: by
            )
            answer(shot_answer(params["id"]))
          end

          # Puts a prop down onto what is under it at a frame.
          app.post("/api/shots/:id/nodes/:node/put-down") do
            workshop.placing.put_down(params["id"], params["node"], number(json_body["frame"], "The frame"), by: by)
            answer(shot_answer(params["id"]))
          end

          # Swaps a prop that moves for the same as a mesh for each frame.
          app.post("/api/shots/:id/nodes/:node/bake") do
            workshop.arrivals.bake(params["id"], params["node"], by: by)
            answer(shot_answer(params["id"]))
          end

          app.get("/api/pictures") { answer(pictures: workshop.assets.list("picture")) }

          # A brought picture as a view shows it: an 8 bit PNG of at most 1024 pixels along an edge.
          app.get("/api/pictures/:digest.png") do
            content_type "image/png"
            cache_control :private, max_age: 86_400
            Studio::Pixels.shown(workshop.assets.coloured(params["digest"]))
          end

          app.get("/api/drawings") { answer(drawings: workshop.assets.list("drawing")) }

          # Outlines that are raised to a prop: an SVG file is the body, its name ?name=.
          app.post("/api/drawings") { answer(bring("drawing"), 201) }

          app.get("/api/volumes") { answer(volumes: workshop.assets.list("volume")) }

          # A volume that a sculpt begins with: an OpenVDB file is the body, its name ?name=.
          app.post("/api/volumes") { answer(bring("volume"), 201) }

          # A picture that a source takes its strength from: the file is the body, its name ?name=.
          app.post("/api/pictures") { answer(bring("picture"), 201) }

          # Every body of the shot's props, with where it stands at each frame if it moves.
          app.get("/api/shots/:id/bodies") do
            document = workshop.shots.document(params["id"])
            rows = workshop.bodies.known(document)
            unless rows
              await(workshop.jobs.add("bodies", nil, {document: document.to_json}),
                "The pieces are still being cut; look again in a while.")
              rows = workshop.bodies.known(document)
            end
            answer(bodies: rows)
          end

          # Corners with normals and colours, f32, nine numbers each, three corners a triangle. Takes the dials
          # of a prop's shape as they are named there; ?at= says which of its own frames a mesh that moves is at. With
          # ?part=places where the corners lie in a picture instead, two numbers each; nothing where they do not.
          # A surface of a sculpt is asked for by its name: ?surface= and ?at= which of its frames.
          app.get("/api/shapes") do
            if params["surface"]
              key, at = params["surface"], Float(params["at"] || 0, exception: false).to_i
              found = workshop.surfaces.known(key, at)
              found ||=
                JSON.parse(
                  await(
                    workshop.jobs.add("surface", nil, {key: key, number: at}),
                    "The surface is still being made; look again in a while."
                  )[
                    :result
                  ]
                )[
                  "path"
                ]
              halt forever(found, "application/octet-stream")
            end

            node = Vumbral::Shot::Node.new("prop", Vumbral::Shot::Kinds.fetch(:prop), "the prop")
            at = params["at"] && Float(params["at"], exception: false)
            params.except("at", "part").each do |name, value|
              node = node.set(name.to_sym, node.kind.dial(name).check(value, "the prop"))
            end
            content_type "application/octet-stream"
            # Set to a mesh from a file, but no file brought yet: nothing to be seen.
            halt "" if %w[mesh drawing].include?(node[:shape]) && node[node[:shape].to_sym].nil?

            cache_control :private, max_age: 86_400
            outline = Geometry::Shapes.outline(node)
            mesh = at&.finite? ? Geometry::Shapes.standing(workshop.assets.mesh_at(node[:mesh], at), outline) : Geometry::Shapes.build(outline, workshop.assets)
            (params["part"] == "places") ? mesh.places&.bytes.to_s : Geometry::Specks.of(mesh).corners.bytes
          end
        end
      end
    end
  end
end
