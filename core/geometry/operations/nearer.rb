# frozen_string_literal: true

module Vumbral
  module Geometry
    # One part of {Operations}.
    module Operations
      # Makes faces finer the nearer the camera comes to them: edges are halved until none is longer than a share of how
      # far it stays away. No gaps come of it, for an edge is halved for both of its faces, and none gets sharp, for of
      # a face that is cut the longest edge is halved too (Rivara 1984).
      module Nearer
        # Points, triangles, of each triangle the one that it is of and where its corners lie in that.
        # `edges` are those that are new.
        State = Struct.new(:points, :triangles, :owners, :corners, :edges)
        WHOLE = [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]].freeze
        # So often faces are halved at most, and no more of them may come of it.
        ROUNDS, MOST = 60, 300_000
        private_constant :WHOLE, :ROUNDS

        module_function

        # @return [Mesh]
        def call(mesh, row, _meshes)
          eyes = row["eyes"].to_a
          return mesh if eyes.empty?

          whole = Edges.new(mesh)
          state =
            State.new(
              whole.points.dup, whole.triangles, (0...whole.triangles.size).to_a, [WHOLE] * whole.triangles.size,
              edges(whole.triangles)
            )
          long = long(state, eyes, row)
          ROUNDS.times do
            marked = marked(state, long)
            break if marked.empty?

            # Every edge that is halved makes two faces more, or one at a rim.
            check(state.triangles.size + marked.size, row)
            state = halved(state, marked)
          end
          made(whole.mesh, state)
        end

        def check(count, row)
          return if count <= MOST

          raise Refused.new(
            "#{row["name"]} would make #{count} triangles and more, and #{MOST} is the most; let its edges be " \
              "longer.",
            code: "mesh_too_large"
          )
        end

        def edges(triangles)
          triangles.each_with_object({}) { |(a, b, c), all| all[key(a, b)] = all[key(b, c)] = all[key(c, a)] = true }
        end

        # Tells whether an edge is too long.
        def long(state, eyes, row)
          share, least = row["near_share"]**2, row["near_least"]**2
          lambda do |edge|
            p, q = state.points[edge >> 32], state.points[edge & 0xffffffff]
            x, y, z = q[0] - p[0], q[1] - p[1], q[2] - p[2]
            square = x * x + y * y + z * z
            square > least && eyes.any? { |eye| square > share * apart(eye, p, x, y, z, square) }
          end
        end

        # Square of how far an eye is from an edge.
        def apart(eye, from, x, y, z, square)
          u, v, w = eye[0] - from[0], eye[1] - from[1], eye[2] - from[2]
          t = square.positive? ? ((u * x + v * y + w * z) / square).clamp(0.0, 1.0) : 0.0
          (u - t * x)**2 + (v - t * y)**2 + (w - t * z)**2
        end

        def key(a, b) = (a < b) ? (a << 32) + b : (b << 32) + a

        # @return [Hash{Integer => true}] edges to be halved
        def marked(state, long)
          found = {}
          state.edges.each_key { |edge| found[edge] = true if long.call(edge) }
          return found if found.empty?

          lengths =
            Hash.new do |all, edge|
              all[edge] = state.points[edge >> 32].zip(state.points[edge & 0xffffffff]).sum { |p, q| (p - q)**2 }
            end
          waiting = state.triangles
          until waiting.empty?
            more = false
            waiting = waiting.select do |a, b, c|
              edges = [key(a, b), key(b, c), key(c, a)]
              next true if edges.none? { |edge| found[edge] }

              longest = edges.max_by { |edge| lengths[edge] }
              more = found[longest] = true unless found[longest]
              false
            end
            break unless more
          end
          found
        end

        def halved(state, marked)
          points = state.points
          middles = marked.keys.to_h do |edge|
            points << points[edge >> 32].zip(points[edge & 0xffffffff]).map { |p, q| 0.5 * (p + q) }
            [edge, points.size - 1]
          end
          after = State.new(points, [], [], [], {})
          state.triangles.each_with_index do |triangle, n|
            cut(triangle, state.corners[n], state.owners[n], middles, after)
          end
          after
        end

        # One face into up to four, the longest of its halved edges first.
        def cut(triangle, corners, owner, middles, after)
          edges = 3.times.map { |i| key(triangle[i], triangle[(i + 1) % 3]) }
          halves = edges.map { |edge| middles[edge] }
          if halves.none?
            after.triangles << triangle
            after.corners << corners
            after.owners << owner
            return
          end
          i =
            3
              .times
              .select { |n| halves[n] }
              .max_by do |n|
                after.points[triangle[n]].zip(after.points[triangle[(n + 1) % 3]]).sum { |p, q| (p - q)**2 }
              end
          j, k = (i + 1) % 3, (i + 2) % 3
          [triangle[i], triangle[j], triangle[k]].each { |n| after.edges[key(n, halves[i])] = true }
          middle = corners[i].zip(corners[j]).map { |p, q| 0.5 * (p + q) }
          cut([triangle[i], halves[i], triangle[k]], [corners[i], middle, corners[k]], owner, middles, after)
          cut([halves[i], triangle[j], triangle[k]], [middle, corners[j], corners[k]], owner, middles, after)
        end

        # @return [Mesh] with all that lies on corners and points as it lay on those there were
        def made(mesh, state)
          parts = mesh.parts.map { |part| Mesh::Part.new(part.name, *range(state.owners, part)) }
          Mesh.new(
            Kernel::Buffer.of(:f32, state.points.flatten, state.points.size, 3),
            Kernel::Buffer.of(:i32, state.triangles.flatten, state.triangles.size, 3), parts,
            places: laid(mesh.places, state, 2), paint: painted(mesh, state), colours: laid(mesh.colours, state, 3)
          )
        end

        # Faces stay in the order of those that they are of.
        def range(owners, part)
          first = owners.bsearch_index { |owner| owner >= part.first } || owners.size
          [first, (owners.bsearch_index { |owner| owner >= part.first + part.count } || owners.size) - first]
        end

        def laid(values, state, width)
          return unless values

          rows = values.to_a.each_slice(3 * width).map { |row| row.each_slice(width).to_a }
          made =
            state
              .owners
              .zip(state.corners)
              .flat_map { |owner, corners| corners.flat_map { |parts| mixed(rows[owner], parts, width) } }
          Kernel::Buffer.of(:f32, made, state.owners.size, 3 * width)
        end

        def mixed(row, parts, width) = Array.new(width) { |c| 3.times.sum { |n| parts[n] * row[n][c] } }

        def painted(mesh, state)
          return unless mesh.paint

          paint, triangles = mesh.paint.to_a, mesh.triangles.to_a.each_slice(3).to_a
          values = Array.new(state.points.size, 0.0)
          state.triangles.each_with_index do |triangle, n|
            whole = triangles[state.owners[n]].map { |point| paint[point] }
            triangle.zip(state.corners[n]) { |point, parts| values[point] = 3.times.sum { |i| parts[i] * whole[i] } }
          end
          Kernel::Buffer.of(:f32, values)
        end
        private_class_method :check,
          :edges,
          :long,
          :apart,
          :key,
          :marked,
          :halved,
          :cut,
          :made,
          :range,
          :laid,
          :mixed,
          :painted
      end
    end
  end
end
