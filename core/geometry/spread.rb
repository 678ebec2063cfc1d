# frozen_string_literal: true

module Vumbral
  module Geometry
    # Where copies come to stand. Each has its own chances, so that more of them leave those that were there where they
    # are.
    class Spread
      # A place, what is up there, and the way on from it, where there is one.
      Place = Struct.new(:at, :up, :ahead)
      UP = [0.0, 1.0, 0.0].freeze
      # So often a place within a shape is looked for.
      TRIES = 400
      # No more copies are ever made.
      MOST = 20_000
      private_constant :UP, :TRIES

      # @param row [Hash] plain data of an operation; @param meshes [#mesh]
      def initialize(row, meshes)
        @row = row
        @meshes = meshes
      end

      # @return [Array<Place>] as seen from what is copied
      def places
        found =
          case @row["spread"]
          when "grid"
            lattice(counts, @row["step"])
          when "fitted"
            fitted
          when "box"
            Array.new(@row["number"]) do |n|
              in_box(*[-0.5, 0.5].map { |part| @row["room"].map { |side| part * side } }, chance(n))
            end
          when "stroke"
            stroke
          else
            other ? on_other : []
          end
        found.each_with_index.map { |place, n| Place.new(strayed(place.at, n), *place.to_a.drop(1)) }
      end

      # @return [Integer] how many there would be at most
      def count
        case @row["spread"]
        when "grid" then counts.reduce(:*)
        when "fitted" then other ? fit[0].reduce(:*) : 0
        when "corners" then other ? other.points.dim(0) : 0
        else @row["number"]
        end
      end

      # @param which [Integer] another number gives other chances of the same copy
      # @return [Random]
      def chance(n, which = 1) = Random.new(@row["seed"] * 104_729 + n * 7919 + which * 31)

      private

      def on_other
        case @row["spread"]
        when "inside" then inside
        when "corners" then corners
        else surface
        end
      end

      # The other prop, where it stands as seen from this one.
      def other
        @other ||=
          @row["other"] &&
          Shapes
            .build(@row["other"]["outline"], @meshes, @row["other"]["at"])
            .transformed(Transform.new(@row["other"]["rows"]))
            .then { |mesh| mesh unless mesh.empty? }
      end

      def counts = @row["counts"].map { |n| [n.round, 1].max }

      def lattice(counts, step, middle = [0.0] * 3)
        cells =
          counts
            .map { |n| (0...n).to_a }
            .reduce([[]]) { |all, axis| all.flat_map { |cell| axis.map { |n| cell + [n] } } }
        cells.each_with_index.map do |cell, n|
          random = chance(n)
          Place.new(
            cell.each_with_index.map do |c, axis|
              middle[axis] + (c - 0.5 * (counts[axis] - 1)) * step[axis] + @row["loose"][axis] * random.rand(-1.0..1.0)
            end,
            UP
          )
        end
      end

      # A grid that reaches from end to end of another prop.
      def fitted
        return [] unless other

        counts, step = fit
        lattice(counts, step, other.bounds.transpose.map { |low, high| 0.5 * (low + high) })
      end

      # By how many there shall be along each axis, or by how far they shall stand apart.
      # @return [Array(Array<Integer>, Array<Float>)]
      def fit
        size = other.bounds.transpose.map { |low, high| high - low }
        return [counts, size.zip(counts).map { |far, n| (n > 1) ? far / (n - 1) : 0.0 }] if @row["grid_by"] == "counts"

        step = @row["step"].map(&:abs)
        many = size.zip(step).map { |far, one| one.positive? ? (far / one + 1e-6).floor.clamp(0, MOST) + 1 : 1 }
        [many, step]
      end

      def in_box(low, high, random) = Place.new(low.zip(high).map { |a, b| a + random.rand * (b - a) }, UP)

      # Anywhere within the other prop. @return [Array<Place>] fewer where it is too thin to be found
      def inside
        tree = BVH.new(other)
        low, high = other.bounds
        Array.new(@row["number"]) { |n|
          random = chance(n)
          TRIES
            .times
            .lazy
            .map { in_box(low, high, random) }
            .find { |place| BVHKernels.winding(tree.corners, tree.boxes, tree.far, *place.at).abs > 0.5 }
        }.compact
      end

      def corners
        ways = other.corner_normals(180.0).to_a.each_slice(3).to_a
        numbers = other.triangles.to_a
        points = other.points.to_a.each_slice(3).to_a
        numbers.each_with_index.to_a.uniq(&:first).sort.map { |number, n| Place.new(points[number], up(ways[n])) }
      end

      # Even over the other's triangles, standing off it.
      def surface
        points = other.points.to_a.each_slice(3).to_a
        corners = other.triangles.to_a.each_slice(3).map { |triangle| triangle.map { |n| points[n] } }
        sum = 0.0
        sums = corners.map { |a, b, c| sum += 0.5 * Vectors.length(normal(a, b, c)) }
        Array.new(@row["number"]) do |n|
          random = chance(n)
          pick = random.rand * sum
          a, b, c = corners[sums.bsearch_index { |upto| upto >= pick } || -1]
          r, s = random.rand, random.rand
          r, s = 1.0 - r, 1.0 - s if r + s > 1.0
          Place.new(3.times.map { |i| a[i] + r * (b[i] - a[i]) + s * (c[i] - a[i]) }, up(normal(a, b, c)))
        end
      end

      # One after the other along a way, on the other prop where there is one.
      def stroke
        way = Tubes.way(@row["way"])
        return [] if way.empty?

        gone = way.each_cons(2).reduce([0.0]) { |all, (a, b)| all << all[-1] + Vectors.length(Vectors.minus(b, a)) }
        tree = other && BVH.new(other)
        Array.new(@row["number"]) do |n|
          at, ahead = along(way, gone, gone[-1] * ((@row["number"] > 1) ? n / (@row["number"] - 1.0) : 0.5))
          at, up = tree ? laid(tree, at) : [at, UP]
          Place.new(at, @row["upright"] ? UP : up, @row["ahead"] ? ahead : nil)
        end
      end

      def along(way, gone, far)
        n = (gone.bsearch_index { |upto| upto >= far } || gone.size - 1).clamp(1, [way.size - 1, 1].max)
        return [way[0], nil] if way.size < 2

        part = (far - gone[n - 1]) / [gone[n] - gone[n - 1], 1e-12].max
        [way[n - 1].zip(way[n]).map { |a, b| a + part * (b - a) }, Vectors.unit(Vectors.minus(way[n], way[n - 1]))]
      end

      # Where a place near a surface lies on it, and what stands off it there.
      def laid(tree, at)
        _, triangle = BVHKernels.closest(tree.corners, tree.boxes, *at, 1e18, 0)
        a, b, c = tree.corners.to_a[9 * triangle, 9].each_slice(3).to_a
        way = Vectors.unit(normal(a, b, c))
        off = Vectors.dot(Vectors.minus(at, a), way)
        [at.zip(way).map { |x, y| x - off * y }, way]
      end

      def normal(a, b, c) = Vectors.cross(Vectors.minus(b, a), Vectors.minus(c, a))

      def up(way)
        length = Vectors.length(way)
        (@row["upright"] || !length.positive?) ? UP : way.map { |c| c / length }
      end

      # Led astray by noise over time, each its own way, between two ends along each axis.
      def strayed(at, n)
        low, high = @row.values_at("stray_low", "stray_high")
        return at if low.nil? || (low + high).all?(&:zero?)

        at.each_with_index.map do |c, axis|
          noise =
            Grid::Noise.value(
              @row.fetch("time", 0.0), 0.37 * axis, 0.0, 0.0, (@row["seed"] * 7919 + 613 * n + 101 * axis) % 1_000_000
            )
          c + low[axis] + (0.5 + 0.5 * noise).clamp(0.0, 1.0) * (high[axis] - low[axis])
        end
      end
    end
  end
end
