# frozen_string_literal: true

module Vumbral
  module Geometry
    # Cuts a closed mesh into the cells of points scattered over it: evenly or denser about a place, as shards, long
    # splinters or flat slabs, with a part that stays whole.
    class Cells
      # A piece about its own middle, and where that stands in the whole.
      Piece = Struct.new(:mesh, :middle)

      # How much nearer things along the grain count.
      STRETCH = {"shards" => 1.0, "splinters" => 0.22, "slabs" => 3.5}.freeze
      # What is smaller than so much of the whole is dust and left out.
      DUST = 1e-7

      # @param mesh [Mesh] closed; @param cut [Hash] from {Breaking.cut_of}
      def initialize(mesh, cut)
        @mesh, @cut = mesh, cut
        @way = Vectors.unit(cut["grain_way"])
        @stretch = STRETCH.fetch(cut["grain"])
        @low, @high = mesh.bounds
      end

      # @return [Array<Piece>]
      def pieces
        points = @mesh.points.to_a.each_slice(3).to_a
        # Points in the same place are one, so that edges have two sides.
        places = {}
        numbers = points.map { |point| places[point] ||= places.size }
        whole = Clipping.new(places.keys, @mesh.triangles.to_a.each_slice(3).map { |t| t.map { |n| numbers[n] } })
        sites = kept(sites(points))
        bent = sites.map { |site| bend(site) }
        # Cells of a power diagram (Aurenhammer 1987): what stays whole reaches as far as it should.
        @weights = sites.map { |site| site.equal?(@cut["keep_at"]) ? @cut["keep"]**2 : 0.0 }
        volume = @mesh.volume.abs
        sites.each_index.filter_map { |n| piece(whole, bent, n, volume) }
      end

      private

      def dot(a, b) = a[0] * b[0] + a[1] * b[1] + a[2] * b[2]

      # A place as distances to it count: nearer or farther along the grain.
      def bend(place)
        along = (@stretch - 1.0) * dot(place, @way)
        3.times.map { |c| place[c] + along * @way[c] }
      end

      # Points spread over the body: on its surface, a little inwards; some of them about a place.
      def sites(points)
        random = Random.new(@cut["piece_seed"] * 7919 + @cut["pieces"])
        middle = @low.zip(@high).map { |a, b| 0.5 * (a + b) }
        size = @low.zip(@high).map { |a, b| b - a }.max
        triangles = @mesh.triangles.to_a.each_slice(3).to_a
        sum = 0.0
        sums = triangles.map { |t| sum += area(*t.map { |n| points[n] }) }
        Array.new(@cut["pieces"]) do
          if @cut["gather"].positive? && random.rand < @cut["gather"]
            next 3.times.map { |c| (@cut["gather_at"][c] + 0.16 * size * random.rand(-1.0..1.0) * random.rand).clamp(@low[c], @high[c]) }
          end
          pick = random.rand * sum
          t = triangles[sums.bsearch_index { |s| s >= pick } || -1].map { |n| points[n] }
          r, s = [random.rand, random.rand].then { |a, b| (a + b > 1) ? [1 - a, 1 - b] : [a, b] }
          inward = random.rand(0.05..0.4)
          3.times.map { |i| (t[0][i] + r * (t[1][i] - t[0][i]) + s * (t[2][i] - t[0][i])).then { |c| c + inward * (middle[i] - c) } }
        end
      end

      # Within the part that stays whole there is one site.
      def kept(sites)
        return sites unless @cut["keep"].positive?

        rest = sites.reject { |site| Math.sqrt(site.zip(@cut["keep_at"]).sum { |a, b| (a - b)**2 }) < @cut["keep"] }
        (rest.size < sites.size) ? rest + [@cut["keep_at"]] : sites
      end

      def area(a, b, c)
        u, v = b.zip(a).map { |x, y| x - y }, c.zip(a).map { |x, y| x - y }
        0.5 * Math.sqrt((u[1] * v[2] - u[2] * v[1])**2 + (u[2] * v[0] - u[0] * v[2])**2 + (u[0] * v[1] - u[1] * v[0])**2)
      end

      def piece(whole, bent, n, volume)
        site = bent[n]
        others = bent.each_index.reject { |m| m == n }.map { |m| [bent[m].zip(site).sum { |a, b| (a - b)**2 }, m] }.sort_by(&:first)
        left, reach = whole, nil
        others.each do |square, other|
          break if left.empty? || (square > 0.0 && (square - @cut["keep"]**2) / (2.0 * Math.sqrt(square)) > (reach ||= reach(left, site)))
          next if square < 1e-18

          normal, offset = plane(site, bent[other], @weights[n] - @weights[other])
          # Most planes pass the cell by.
          next unless beyond?(left.corners, normal, offset)

          left, reach = left.behind(normal, offset), nil
        end
        return if left.empty?

        made(left.mesh, volume)
      end

      def beyond?(corners, normal, offset)
        x, y, z = normal
        corners.any? { |a, b, c| x * a + y * b + z * c > offset }
      end

      # How far the cell reaches from its site.
      def reach(cell, site) = Math.sqrt(cell.corners.map { |point| bend(point).zip(site).sum { |a, b| (a - b)**2 } }.max)

      # Halfway between two bent places, or nearer to the lighter one, as a plane in the prop's own space.
      def plane(site, other, heavier)
        across = other.zip(site).map { |a, b| a - b }
        offset = 0.5 * (dot(other, other) - dot(site, site) + heavier)
        normal = bend(across)
        length = Math.sqrt(dot(normal, normal))
        [normal.map { |c| c / length }, offset / length]
      end

      def made(mesh, volume)
        return if mesh.volume.abs < DUST * volume

        low, high = mesh.bounds
        middle = low.zip(high).map { |a, b| 0.5 * (a + b) }
        Piece.new(mesh.transformed(Transform.place(position: middle.map(&:-@))), middle)
      end
    end
  end
end
