# frozen_string_literal: true

module Vumbral
  module Geometry
    # The points about which a body breaks: near its surface, evenly or denser about a place; those of a shell halfway
    # down in it; one within the part that stays whole.
    class Sites
      # A point of a power diagram (Aurenhammer 1987), and whether its cell never breaks again.
      Site = Struct.new(:place, :weight, :whole)
      # So many are looked at for each of a shell's.
      CANDIDATES = 12

      # @param mesh [Mesh] closed; @param cut [Hash] from {Breaking.cut_of}
      def initialize(mesh, cut)
        @mesh, @cut = mesh, cut
        @low, @high = mesh.bounds
        @points = mesh.points.to_a.each_slice(3).to_a
        @triangles = mesh.triangles.to_a.each_slice(3).to_a
        @random = Random.new(cut["piece_seed"] * 7919 + cut["pieces"])
      end

      # @return [Array<Site>]
      def to_a
        places = @cut["outer"].positive? ? shell : Array.new(@cut["pieces"]) { gathered || within }
        sites = places.map { |place| Site.new(place, 0.0, false) }
        return sites unless @cut["keep"].positive?

        rest =
          sites.reject { |site| Math.sqrt(site.place.zip(@cut["keep_at"]).sum { |a, b| (a - b)**2 }) < @cut["keep"] }
        (rest.size < sites.size) ? rest + [Site.new(@cut["keep_at"], @cut["keep"]**2, true)] : sites
      end

      private

      # About a place where it was hit.
      def gathered
        return unless @cut["gather"].positive? && @random.rand < @cut["gather"]

        size = @low.zip(@high).map { |a, b| b - a }.max
        3.times.map do |c|
          (@cut["gather_at"][c] + 0.16 * size * @random.rand(-1.0..1.0) * @random.rand).clamp(@low[c], @high[c])
        end
      end

      # On the surface, a little inwards.
      def within
        place, _ = on_surface
        inward = @random.rand(0.05..0.4)
        place.zip(middle).map { |c, m| c + inward * (m - c) }
      end

      def middle = @middle ||= @low.zip(@high).map { |a, b| 0.5 * (a + b) }

      # @return [Array(Array<Float>, Array<Float>)] a place and its normal
      def on_surface
        pick = @random.rand * sums.last
        a, b, c = @triangles[sums.bsearch_index { |s| s >= pick } || -1].map { |n| @points[n] }
        r, s = [@random.rand, @random.rand].then { |p, q| (p + q > 1) ? [1 - p, 1 - q] : [p, q] }
        [3.times.map { |i| a[i] + r * (b[i] - a[i]) + s * (c[i] - a[i]) }, across(a, b, c)]
      end

      def across(a, b, c)
        u, v = b.zip(a).map { |x, y| x - y }, c.zip(a).map { |x, y| x - y }
        [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
      end

      # Areas so far.
      def sums
        @sums ||= begin
          sum = 0.0
          @triangles.map { |t| sum += 0.5 * Math.sqrt(across(*t.map { |n| @points[n] }).sum { |c| c * c }) }
        end
      end

      # Halfway down in a shell.
      def shell
        spread(@cut["outer_pieces"]).map do |place, normal|
          length = [Math.sqrt(normal.sum { |c| c * c }), 1e-12].max
          place.zip(normal).map { |p, n| p - 0.5 * @cut["outer"] * n / length }
        end
      end

      # Places on the surface that keep off each other: of some at random always the farthest (Mitchell 1991).
      def spread(count)
        count.times.each_with_object([]) do |_, found|
          found << Array
            .new(CANDIDATES) { on_surface }
            .max_by { |place, _| found.map { |other, _| place.zip(other).sum { |a, b| (a - b)**2 } }.min || 0.0 }
        end
      end
    end
  end
end
