# frozen_string_literal: true

module Vumbral
  module Geometry
    # One part of {Operations}.
    module Operations
      # Many of the same shape as one, where {Spread} places them.
      module Copies
        module_function

        # @return [Mesh]
        def call(mesh, row, meshes)
          spread = Spread.new(row, meshes)
          if spread.count > Spread::MOST
            raise Refused.new(
              "#{row["name"]} would make #{spread.count} copies, and #{Spread::MOST} is the most; let them " \
                "stand farther apart.",
              code: "mesh_too_large"
            )
          end
          Operations.check(mesh.count * spread.count, row, "take fewer copies")
          places = spread.places
          return Mesh.from([], []) if places.empty?

          return points(mesh, row, spread, places) if mesh.empty?

          Mesh.joined(
            places.each_with_index.map { |place, n| mesh.transformed(placed(row, place, spread.chance(n, 0))) }
          ).named(mesh.parts[0].name)
        end

        # Of what has no faces, as a mark has none, as many points.
        def points(mesh, row, spread, places)
          own = mesh.points.to_a.each_slice(3).to_a
          made =
            places.each_with_index.flat_map do |place, n|
              placed(row, place, spread.chance(n, 0)).then { |stands| own.flat_map { |point| stands.apply(point) } }
            end
          Mesh.from(made, [])
        end

        # One copy: turned about its own upright, tilted so that this points along a way, and of its own size.
        def placed(row, place, random)
          turn = random.rand(-1.0..1.0) * row["turn_vary"]
          size = 1.0 + random.rand(-1.0..1.0) * row["size_vary"]
          lean = leaning(place.up)
          turn += heading(lean, place.ahead) if place.ahead
          Transform.place(position: place.at) * lean *
            Transform.place(turn: [0.0, turn, 0.0], scale: [[size, 0.01].max] * 3)
        end

        # From upright to a way, by the shortest turn.
        def leaning((x, y, z))
          return Transform.place(turn: [180.0, 0.0, 0.0]) if y < -0.999999

          k = 1.0 / (1.0 + y)
          Transform.new(
            [[1.0 - k * x * x, x, -k * x * z, 0.0], [-x, y, -z, 0.0], [-k * x * z, z, 1.0 - k * z * z, 0.0]]
          )
        end

        # Degrees about its upright until its front (along z) goes along a way.
        def heading(lean, ahead)
          x, _, z = lean.inverse.apply(ahead)
          Math.atan2(x, z) * 180.0 / Math::PI
        end
        private_class_method :points, :placed, :leaning, :heading
      end
    end
  end
end
