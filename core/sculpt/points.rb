# frozen_string_literal: true

module Vumbral
  module Sculpt
    # Points that waves run out from, or that a sculpt begins with, sorted into cells as wide as they reach.
    class Points
      # So many are taken.
      MOST = 50_000
      # `places` f32 [n, 3] in the order of the cells; `starts` i32 [z, y, x + 1] the first of each cell, x running on;
      # `lattice` the lowest corner of the first cell, and how wide one is.
      Table = Kernel::Record.of(places: Kernel::Types::F32[2], starts: Kernel::Types::I32[3],
        frame: Kernel::Types::F32[1])

      # @return [Table]
      attr_reader :table

      # @param places [Array<Array<Float>>]; @param reach [Float] metres
      def initialize(places, reach)
        places = [[1e6, 1e6, 1e6]] if places.empty?
        low, high = places.transpose.map(&:minmax).transpose
        # Never more cells than points would fill.
        wide = [reach, high.zip(low).map { |b, a| (b - a) / 64.0 }.max, 1e-6].max
        counts = high.zip(low).map { |b, a| ((b - a) / wide).floor + 1 }
        cell = ->(place) { place.zip(low).map { |c, a| ((c - a) / wide).floor } }
        sorted = places.map { |place| [cell.call(place).reverse, place] }.sort_by.with_index { |(at, _), n| [at, n] }
        starts = Kernel::Buffer.new(:i32, counts[2], counts[1], counts[0] + 1)
        filled(starts, sorted.map(&:first).tally)
        @table =
          Table.new(
            Kernel::Buffer.of(:f32, sorted.flat_map(&:last), places.size, 3), starts,
            Kernel::Buffer.of(:f32, [*low, wide, reach])
          )
      end

      # @param bodies [Array<Hash>] as {Geometry::Bodies.of} @return [Array<Array<Float>>] their corners in the world
      # @raise [Refused] where there are too many
      def self.corners(bodies, meshes)
        places =
          Beginning
            .placed(bodies, meshes)
            .flat_map { |body, rigid| body.mesh.points.to_a.each_slice(3).map { |place| rigid.apply(place) } }
            .uniq
        if places.size > MOST
          raise Refused.new(
            "Points are taken from #{places.size} corners; #{MOST} is the most. Choose a prop with fewer faces.",
            code: "too_many"
          )
        end

        places
      end

      # @param thrown [Hash] from a recipe @return [Array<Array<Float>>] where an emitter's particles are
      # @raise [Refused] where there are too many
      def self.flying(thrown, meshes)
        swarm = Particles::Swarm.new(Geometry::Throws::Kept.of(thrown["throws"]), meshes)
        places = swarm.alive(thrown["at"], thrown["at"] - 1.0).map { |row| row.first(3) }
        if places.size > MOST
          raise Refused.new(
            "An emitter has #{places.size} particles; #{MOST} is the most that a sculpt is made of. Let it " \
              "throw fewer.",
            code: "too_many"
          )
        end

        places
      end

      # In a box: a regular grid, loosened, or scattered; drifting by noise.
      # @param low [Array<Float>]; @param high [Array<Float>]; @param step [Hash] from a recipe
      # @return [Array<Array<Float>>]
      def self.within(low, high, step)
        random = Random.new(step["seed"])
        spacing = step["spacing"]
        counts = low.zip(high).map { |a, b| [((b - a) / spacing).floor, 1].max }
        most = counts.reduce(:*)
        if most > MOST
          raise Refused.new(
            "Waves would run out from #{most} points; #{MOST} is the most. Let them stand farther apart.",
            code: "too_many"
          )
        end

        loose = ->(c) { spacing * (0.5 * c + step["loose"] * random.rand(-0.5..0.5)) }
        places = if step["scattered"]
          Array.new(most) { low.zip(high).map { |a, b| random.rand(a..b) } }
        else
          first = low.zip(high, counts).map { |a, b, n| 0.5 * (a + b - (n - 1) * spacing) }
          most.times.map do |n|
            first
              .zip([n % counts[0], n / counts[0] % counts[1], n / counts[0] / counts[1]])
              .map { |c, at| c + at * spacing + loose.call(0) }
          end
        end
        step["drift"].zero? ? places : drifted(places, step)
      end

      # Each led aside by noise of its own along each axis.
      def self.drifted(places, step)
        out = Kernel::Buffer.of(:f32, places.flatten, places.size, 3)
        PointKernels.drift(out, step["drift"], step["time"], step["loop"], step["seed"])
        out.to_a.each_slice(3).to_a
      end
      private_class_method :drifted

      private

      # How many came before each cell, and behind the last of a row.
      def filled(starts, counts)
        before = 0
        numbers =
          starts
            .dim(0)
            .times
            .flat_map do |k|
              starts
                .dim(1)
                .times
                .flat_map { |j| (0...starts.dim(2)).map { |i| before.tap { before += counts.fetch([k, j, i], 0) } } }
            end
        starts.replace(Kernel::Buffer.of(:i32, numbers, *starts.shape))
      end
    end
  end
end
