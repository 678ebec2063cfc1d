# frozen_string_literal: true

module Vumbral
  module Geometry
    # Props that break: cut into the cells of scattered points (Voronoi 1908), each closed again, and
    # blown apart. Everything is a pure function of the prop's dials and the frame.
    module Breaking
      # A piece about its own middle, and where that stands in the whole.
      Piece = Struct.new(:mesh, :middle, :radius)

      DIALS = %i[break_frame pieces piece_seed blast blast_reach blast_strength spin falls floor bounce scrape].freeze
      KEPT = 12

      module_function

      # @return [Boolean] whether the prop ever breaks
      def breaks?(node) = node.kind.name == :prop && node[:breaks]

      # @return [Boolean] whether the prop is in pieces at a frame
      def broken?(node, frame) = node[:breaks] && frame >= node[:break_frame]

      # What has to be known to follow the pieces of a prop. @return [Hash] plain data
      def settings(document, node, frame, box)
        start = node[:break_frame]
        DIALS.to_h { |dial| [dial.to_s, node[dial]] }.merge("frame" => frame, "rate" => document.rate, "box" => node[:drop_outside] ? box : nil,
          "start" => Bodies.pose(node, start, document), "before" => Bodies.pose(node, start - 1, document))
      end

      # The pieces of a broken body. @param body [Hash] as {Bodies.of} gives it, with "broken"
      # @return [Array<Hash>] bodies of their own
      def parts(body, meshes)
        broken = body["broken"]
        pieces = cut(body["outline"], broken["pieces"], broken["piece_seed"], meshes)
        flight = flight(broken, pieces)
        from, to = flight.at(broken["frame"] - 1), flight.at(broken["frame"])
        pieces.each_index.filter_map do |n|
          next unless to[n]

          body.except("broken").merge("outline" => {"shape" => "piece", "of" => body["outline"], "pieces" => broken["pieces"], "seed" => broken["piece_seed"], "n" => n},
            "from" => from[n] || to[n], "to" => to[n])
        end
      end

      # Kept while the settings stay the same, for it is asked frame by frame.
      def flight(broken, pieces)
        @flights ||= {}
        key = broken.except("frame")
        @flights.delete(@flights.keys.first) if @flights.size > KEPT
        @flights[key] ||= Flight.new(key, pieces)
      end

      # Cuts a shape. @param meshes [#mesh] gives the mesh of a digest
      # @return [Array<Piece>]
      # @raise [Refused] for a shape that is not closed
      def cut(outline, count, seed, meshes)
        @cuts ||= {}
        @cuts.delete(@cuts.keys.first) if @cuts.size > KEPT
        @cuts[[outline, count, seed]] ||= begin
          mesh = Shapes.build(outline, meshes)
          raise Refused.new("A prop that breaks must be closed, and this one has #{mesh.open_edges} open edges; close it, or let it stay whole.", code: "not_closed") unless mesh.closed?

          cells(mesh, count, seed)
        end
      end

      def cells(mesh, count, seed)
        points = mesh.points.to_a.each_slice(3).to_a
        # Points in the same place are one, so that edges have two sides.
        places = {}
        numbers = points.map { |point| places[point] ||= places.size }
        whole = Clipping.new(places.keys, mesh.triangles.to_a.each_slice(3).map { |t| t.map { |n| numbers[n] } })
        sites = sites(mesh, count, seed)
        sites.filter_map { |site| piece(whole, site, sites - [site]) }
      end

      # Points spread over the body: on its surface, a little inwards.
      def sites(mesh, count, seed)
        random = Random.new(seed * 7919 + count)
        points = mesh.points.to_a.each_slice(3).to_a
        low, high = mesh.bounds
        middle = low.zip(high).map { |a, b| 0.5 * (a + b) }
        triangles = mesh.triangles.to_a.each_slice(3).to_a
        weights = triangles.map { |t| area(*t.map { |n| points[n] }) }
        total = weights.sum
        Array.new(count) do
          pick = random.rand * total
          t = triangles[weights.index { |w| (pick -= w) <= 0 } || -1].map { |n| points[n] }
          r, s = [random.rand, random.rand].then { |a, b| (a + b > 1) ? [1 - a, 1 - b] : [a, b] }
          inward = random.rand(0.05..0.4)
          3.times.map { |i| (t[0][i] + r * (t[1][i] - t[0][i]) + s * (t[2][i] - t[0][i])).then { |c| c + inward * (middle[i] - c) } }
        end
      end

      def area(a, b, c)
        u, v = b.zip(a).map { |x, y| x - y }, c.zip(a).map { |x, y| x - y }
        0.5 * Math.sqrt((u[1] * v[2] - u[2] * v[1])**2 + (u[2] * v[0] - u[0] * v[2])**2 + (u[0] * v[1] - u[1] * v[0])**2)
      end

      def piece(whole, site, others)
        cut = others.sort_by { |other| other.zip(site).sum { |a, b| (a - b)**2 } }.reduce(whole) do |left, other|
          break left if left.empty?

          normal = other.zip(site).map { |a, b| a - b }
          length = Math.sqrt(normal.sum { |c| c * c })
          normal = normal.map { |c| c / length }
          left.behind(normal, normal.each_with_index.sum { |c, i| c * 0.5 * (site[i] + other[i]) })
        end
        return if cut.empty?

        mesh = cut.mesh
        low, high = mesh.bounds
        middle = low.zip(high).map { |a, b| 0.5 * (a + b) }
        Piece.new(mesh.transformed(Transform.place(position: middle.map(&:-@))), middle, 0.35 * low.zip(high).map { |a, b| b - a }.sum / 3)
      end

      private_class_method :cells, :sites, :area, :piece, :flight
    end
  end
end
