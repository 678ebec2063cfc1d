# frozen_string_literal: true

module Vumbral
  module Server
    module Routes
      # Meshes that are brought in, and shapes for the view.
      module Meshes
        # How long a request waits for a worker to read the file.
        PATIENCE = 120.0

        def self.registered(app)
          app.get("/api/meshes") { answer(meshes: workshop.assets.list) }

          # The file is the body; its name comes as ?name=.
          app.post("/api/meshes") do
            name = params["name"].to_s
            raise Refused.new("Say the file's name with ?name=, for its ending tells the format.", code: "bad_value") if name.empty?

            length = request.content_length.to_i
            most = Studio::Assets::LARGEST
            if length > most
              raise Refused.new("#{File.basename(name)[0, 80]} has #{length / 1024 / 1024} MB; bring files of at most #{most / 1024 / 1024} MB, thinned if need be.", code: "file_too_large")
            end
            file = "#{Process.pid}-#{rand(1 << 64).to_s(36)}"
            workshop.home.write(workshop.home.within("incoming", file), raw_body)
            job = workshop.jobs.add("mesh", nil, file: file, name: name)
            until %w[done failed cancelled].include?((row = workshop.jobs.fetch(job))[:state])
              if workshop.now - row[:created_at] > PATIENCE
                raise Refused.new("The file is still being read; look at the meshes again in a while.", code: "busy")
              end
              sleep 0.02
            end
            raise Refused.new(row[:error], code: row[:code]) unless row[:state] == "done"

            answer(JSON.parse(row[:result]), 201)
          end

          # Corners with normals, f32, six numbers each, three corners a triangle. Takes the dials
          # of a prop's shape as they are named there.
          app.get("/api/shapes") do
            node = Vumbral::Shot::Node.new("prop", Vumbral::Shot::Kinds.fetch(:prop), "the prop")
            params.each do |name, value|
              node = node.set(name.to_sym, node.kind.dial(name).check(value, "the prop"))
            end
            content_type "application/octet-stream"
            # Set to a mesh from a file, but no file brought yet: nothing to be seen.
            halt "" if node[:shape] == "mesh" && node[:mesh].nil?

            cache_control :private, max_age: 86_400
            Geometry::Shapes.build(Geometry::Shapes.outline(node), workshop.assets).corners.bytes
          end
        end
      end
    end
  end
end
