# frozen_string_literal: true

module Vumbral
  module Formats
    # One part of {GLTF}.
    module GLTF
      # Lets a file's scene play, and takes down what stands where.
      class Stage
        MOST_FRAMES = 4000
        # Points of all frames together.
        MOST_POINTS = 60_000_000
        # Half of a film's height in millimetres, of 36 by 24.
        HALF_FILM = 12.0

        # @param container [Container]; @param rate [Float] frames a second
        def initialize(container, rate)
          @container = container
          @rate = rate
          @accessors = Accessors.new(container)
          @tree = Tree.new(container, @accessors)
          @surfaces = Surfaces.new(container, @accessors)
        end

        # @return [Model]
        # @raise [Refused] where there is no surface
        def model
          @held = @tree.order.select { |n| @tree.node(n)["mesh"] }
          if @held.sum { |n| surfaces(n).size }.zero?
            raise Refused.new(
              "#{@container.name} holds no faces; export it again as a polygon mesh.", code: "empty_mesh"
            )
          end

          count = frames
          meshes = [mesh(0.0)]
          check(meshes[0], count)
          moved = Array.new(count - 1) { |n| mesh((n + 1) / @rate) }
          moved = [] if moved.all? { |other| other.points.bytes == meshes[0].points.bytes }
          Model.new(
            meshes + moved, rate: moved.empty? ? nil : @rate, others: others(moved.size + 1), left_out: left_out
          )
        end

        private

        def surfaces(n) = @surfaces.of(@tree.node(n)["mesh"])

        # The node's name, or its mesh's.
        def name(n)
          node = @tree.node(n)
          given =
            [node["name"], @container.one("meshes", node["mesh"], "mesh")["name"]].find do |text|
              text.is_a?(String) && !text.strip.empty?
            end
          given ? Text.utf8(given).gsub(/[[:cntrl:]]/, " ").strip[0, 120] : "part #{n + 1}"
        end

        def frames
          return 1 unless @tree.moves?

          # A little, so that a last frame is not lost to rounding.
          (@tree.last * @rate + 1e-3).floor + 1
        end

        def check(mesh, count)
          @container.bad("plays for #{count} frames; #{MOST_FRAMES} is the most") if count > MOST_FRAMES
          return if count * mesh.points.dim(0) <= MOST_POINTS

          @container.bad(
            "has #{count} frames of #{mesh.points.dim(0)} points; thin it to #{MOST_POINTS / count} points"
          )
        end

        # @return [Geometry::Mesh] all that stands in the scene at a moment
        def mesh(seconds)
          places = @tree.places(seconds)
          whole =
            Geometry::Mesh.joined(
              alike(@held.flat_map { |n| surfaces(n).map { |surface| placed(n, surface, places, seconds) } })
            )
          whole.tap { Points.within(whole.points, @container.name) }
        end

        # Where only some have colours or texture places, the others have plain ones.
        def alike(meshes)
          coloured, laid = meshes.any?(&:colours), meshes.any?(&:places)
          meshes.map do |mesh|
            Geometry::Mesh.new(
              mesh.points,
              mesh.triangles,
              mesh.parts,
              places: mesh.places || (laid ? Kernel::Buffer.new(:f32, mesh.count, 6) : nil),
              colours:
                mesh.colours || (coloured ? Geometry::Colours.runs([[0, Geometry::Colours::PLAIN]], mesh.count) : nil)
            )
          end
        end

        def placed(n, surface, places, seconds)
          mesh = surface.mesh.named(name(n))
          mesh = mesh.with(morphed(n, surface, seconds)) if surface.deltas
          skin = @tree.node(n)["skin"]
          return mesh.transformed(places.fetch(n)) unless skin && surface.joints

          mesh.with(skinned(mesh.points, surface, skin, places))
        end

        def morphed(n, surface, seconds)
          count = surface.deltas.dim(0)
          given = @tree.weights(n, seconds) || @surfaces.weights(@tree.node(n)["mesh"]) || []
          weights = Array.new(count) { |k| given[k].to_f }
          points = surface.mesh.points
          Kernel::Buffer
            .new(:f32, *points.shape)
            .tap { |out| Geometry::DeformKernels.morph(out, points, surface.deltas, Kernel::Buffer.of(:f32, weights)) }
        end

        # A skinned mesh stands where its joints do, wherever its own node is.
        def skinned(points, surface, skin, places)
          row = @container.one("skins", skin, "skin")
          joints = row.fetch("joints")
          @container.bad("has a skin without joints") unless joints.is_a?(Array) && joints.any?
          most = surface.joints.to_a.max
          @container.bad("has a point held by joint #{most} of #{joints.size}") if most >= joints.size
          matrices =
            joints
              .zip(inverses(skin, row, joints.size))
              .flat_map { |joint, back| (places.fetch(joint) * back).rows.flatten }
          Kernel::Buffer.new(:f32, *points.shape).tap do |out|
            Geometry::DeformKernels.skin(
              out, points, surface.joints, surface.weights, Kernel::Buffer.of(:f32, matrices, joints.size, 12)
            )
          end
        end

        def inverses(skin, row, count)
          (@inverses ||= {})[skin] ||= if row["inverseBindMatrices"]
            numbers = @accessors.numbers(row["inverseBindMatrices"], width: 16).each_slice(16).to_a
            @container.bad("has a skin with #{numbers.size} matrices for #{count} joints") if numbers.size < count
            numbers.map do |values|
              values
                .each_slice(4)
                .to_a
                .then { |columns| Geometry::Transform.new(Array.new(3) { |r| columns.map { |column| column[r] } }) }
            end
          else
            Array.new(count) { Geometry::Transform.identity }
          end
        end

        def others(count)
          lamps = @container.json.dig("extensions", "KHR_lights_punctual", "lights") || []
          @tree.order.filter_map do |n|
            node = @tree.node(n)
            lamp = node.dig("extensions", "KHR_lights_punctual", "light")
            if node["camera"] then camera(n, @container.one("cameras", node["camera"], "camera"), count)
            elsif lamp then lamp(n, lamps.fetch(lamp), count)
            end
          end
        end

        def poses(n, count) = Array.new(count) { |frame| @tree.places(frame / @rate).fetch(n) }

        def camera(n, row, count)
          lens = row["perspective"] or return

          focal = HALF_FILM / Math.tan(lens.fetch("yfov") / 2.0)
          Model::Placed.new(@tree.node(n)["name"] || row["name"] || "camera", "camera", poses(n, count).map do |place|
            eye = place.apply([0.0, 0.0, 0.0])
            {"position" => eye, "target" => place.apply([0.0, 0.0, -3.0]), "focal" => focal}
          end)
        end

        def lamp(n, row, count)
          Model::Placed.new(
            @tree.node(n)["name"] || row["name"] || "lamp",
            (row["type"] == "directional") ? "sun" : "lamp",
            poses(n, count).map do |place|
              origin = place.apply([0.0, 0.0, 0.0])
              {
                "position" => origin, "way" => place.apply([0.0, 0.0, 1.0]).zip(origin).map { |a, b| a - b },
                "colour" => row.fetch("color", [1.0, 1.0, 1.0]), "strength" => row.fetch("intensity", 1.0)
              }
            end
          )
        end

        def left_out
          lines =
            @surfaces.left_out.map do |what, count|
              "#{count} surfaces made of #{what} have no faces and were left out."
            end
          if @tree.left_out.any?
            lines << "Of its animations, #{Text.excerpt(@tree.left_out.join(", "), 120)} were left out, for they move " \
              "what another moves."
          end
          if @surfaces.textures.positive?
            lines << "Its textures were left out; what is seen are its materials' colours."
          end
          lines
        end
      end
    end
  end
end
