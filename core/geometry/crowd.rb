# frozen_string_literal: true

module Vumbral
  module Geometry
    # The pieces of one prop as bodies: what they weigh, their hulls, and when each is let go.
    class Crowd
      # A piece: its hull and inertia about its own centre of mass; `centre` that in the prop's own, scaled.
      # `parent` is the number in the crowd of the piece that it is of, `again` the frame on which it breaks again, or
      # comes of its parent; `taken` whether it was taken away.
      Member = Struct.new(:hull, :mass, :inertia, :inverse, :centre, :offset, :scale, :release, :settings, :blast,
        :random, :parent, :again, :taken, :angles) do
        # @param row [Array<Float>] place of its centre of mass, and its turn (w, x, y, z)
        # @return [Hash] where its mesh stands
        def pose(row)
          turn = Transform.new(Crowd.rows(row[3, 4]).map { |line| line + [0.0] })
          self.angles = Transform.near(angles || [0.0] * 3, turn.angles)
          Pose.new(row.first(3).zip(turn.apply(offset)).map(&:sum), angles, scale).to_data
        end
      end

      attr_reader :settings, :members

      # @param settings [Hash] a prop of {Breaking.world}
      def initialize(settings, meshes)
        @settings = settings
        @scale = settings["scale"]
        pieces = Breaking.cut(settings["outline"], settings["cut"], meshes)
        releases = releases(pieces, meshes)
        breaking = pieces.filter_map(&:parent).uniq
        @members = pieces.each_with_index.map { |piece, n| member(piece, n, releases[n], breaking.include?(n)) }
      end

      # @return [Array<Float>] w, x, y, z of a rotation's rows (Shepperd 1978)
      def self.quaternion(rows)
        r = rows.map { |row| row.first(3) }
        trace = r[0][0] + r[1][1] + r[2][2]
        return trace_first(r, trace) if trace.positive?

        i = 3.times.max_by { |n| r[n][n] }
        j, k = (i + 1) % 3, (i + 2) % 3
        s = 2.0 * Math.sqrt([1.0 + r[i][i] - r[j][j] - r[k][k], 1e-12].max)
        found = [(r[k][j] - r[j][k]) / s, 0.0, 0.0, 0.0]
        found[1 + i], found[1 + j], found[1 + k] = 0.25 * s, (r[j][i] + r[i][j]) / s, (r[k][i] + r[i][k]) / s
        found
      end

      def self.trace_first(r, trace)
        s = 2.0 * Math.sqrt(1.0 + trace)
        [0.25 * s, (r[2][1] - r[1][2]) / s, (r[0][2] - r[2][0]) / s, (r[1][0] - r[0][1]) / s]
      end
      private_class_method :trace_first

      # @return [Array<Array<Float>>] three rows of three
      def self.rows(q)
        w, x, y, z = q
        [
          [1 - 2 * (y * y + z * z), 2 * (x * y - w * z), 2 * (x * z + w * y)],
          [2 * (x * y + w * z), 1 - 2 * (x * x + z * z), 2 * (y * z - w * x)],
          [2 * (x * z - w * y), 2 * (y * z + w * x), 1 - 2 * (x * x + y * y)]
        ]
      end

      private

      def member(piece, n, release, breaks)
        volume, centre, tensor = Weight.of(piece.mesh, @scale)
        points =
          piece.mesh.points.to_a.each_slice(3).map { |point| 3.times.map { |c| point[c] * @scale[c] - centre[c] } }
        middle = 3.times.map { |c| piece.middle[c] * @scale[c] }
        Member.new(
          Hull.new(points), volume.abs, tensor, inverse(tensor), middle.zip(centre).map(&:sum), centre.map(&:-@),
          @scale, release, @settings, @settings["blast"], Random.new(@settings["cut"]["piece_seed"] * 104_729 + n * 31),
          piece.parent, (breaks || piece.parent) && [@settings["again"], @settings["start"]].max,
          [n, piece.parent].any? { |number| @settings["taken"].include?(number) }
        )
      end

      def inverse(tensor) = Transform.new(tensor.map { |row| row + [0.0] }).inverse.rows.map { |row| row.first(3) }

      # When each is let go: all at once, or as a front comes to it.
      def releases(pieces, meshes)
        start = [@settings["start"], @settings["held"]].max
        return [start] * pieces.size unless @settings["front"]

        whole = Shapes.build(@settings["outline"], meshes)
        times = Front.arrival(@settings["front"], @settings["outline"], whole, meshes)
        middles = Kernel::Buffer.of(:f32, pieces.flat_map(&:middle), pieces.size, 3)
        nearest = Kernel::Buffer.new(:i32, pieces.size)
        FrontKernels.nearest(nearest, middles, whole.points, Kernel::Buffer.new(:f32, 3))
        nearest.to_a.map { |n| (times[n] > 1e9) ? Flight::NEVER : [times[n].ceil, start].max }
      end
    end
  end
end
